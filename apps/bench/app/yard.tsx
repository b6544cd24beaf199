import { lazy, Suspense } from 'react';
import { loadYard } from '../src/shell/later';

const Yard = lazy(loadYard);

export default function YardRoute() {
  return (
    <Suspense>
      <Yard />
    </Suspense>
  );
}
