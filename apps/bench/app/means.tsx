import { lazy, Suspense } from 'react';
import { loadMeans } from '../src/shell/later';

const Means = lazy(loadMeans);

export default function MeansRoute() {
  return (
    <Suspense>
      <Means />
    </Suspense>
  );
}
