import { lazy, Suspense } from 'react';
import { loadPractice } from '../../src/shell/later';

const Practice = lazy(loadPractice);

export default function PracticeRoute() {
  return (
    <Suspense>
      <Practice />
    </Suspense>
  );
}
