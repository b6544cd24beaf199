import { lazy, Suspense } from 'react';
import { loadRules } from '../src/features/later';

const Rules = lazy(loadRules);

export default function RulesRoute() {
  return (
    <Suspense>
      <Rules />
    </Suspense>
  );
}
