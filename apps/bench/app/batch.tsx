import { lazy, Suspense } from 'react';
import { loadBatch } from '../src/shell/later';

const Batch = lazy(loadBatch);

export default function BatchScreen() {
  return (
    <Suspense>
      <Batch />
    </Suspense>
  );
}
