import { lazy, Suspense } from 'react';
import { loadPeople } from '../src/shell/later';

const People = lazy(loadPeople);

export default function PeopleRoute() {
  return (
    <Suspense>
      <People />
    </Suspense>
  );
}
