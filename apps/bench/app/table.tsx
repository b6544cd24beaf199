import { lazy, Suspense } from 'react';
import { loadTable } from '../src/shell/later';

const TableScreen = lazy(loadTable);

export default function TableRoute() {
  return (
    <Suspense>
      <TableScreen />
    </Suspense>
  );
}
