import { lazy, Suspense } from 'react';
import { loadMore } from '../../src/shell/later';

const More = lazy(loadMore);

export default function MoreScreen() {
  return (
    <Suspense>
      <More />
    </Suspense>
  );
}
