import { lazy, Suspense } from 'react';
import { loadDispatch } from '../src/shell/later';

const Dispatch = lazy(loadDispatch);

export default function DispatchRoute() {
  return (
    <Suspense>
      <Dispatch />
    </Suspense>
  );
}
