import { lazy, Suspense } from 'react';
import { loadRules } from '../src/shell/later';

const Rules = lazy(loadRules);

export default function RulesRoute() {
  return (
    <Suspense>
      <Rules />
    </Suspense>
  );
}
