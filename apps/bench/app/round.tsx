import { lazy, Suspense } from 'react';
import { loadRound } from '../src/shell/later';

const Round = lazy(loadRound);

export default function RoundRoute() {
  return (
    <Suspense>
      <Round />
    </Suspense>
  );
}
