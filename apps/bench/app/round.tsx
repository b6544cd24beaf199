import { lazy, Suspense } from 'react';
import { loadRound } from '../src/features/later';

const Round = lazy(loadRound);

export default function RoundRoute() {
  return (
    <Suspense>
      <Round />
    </Suspense>
  );
}
