import { lazy, Suspense } from 'react';
import { loadPacks } from '../src/shell/later';

const Packs = lazy(loadPacks);

export default function PacksRoute() {
  return (
    <Suspense>
      <Packs />
    </Suspense>
  );
}
