import { lazy, Suspense } from 'react';
import { loadDues } from '../src/shell/later';

const DuesPage = lazy(loadDues);

export default function DueRoute() {
  return (
    <Suspense>
      <DuesPage />
    </Suspense>
  );
}
