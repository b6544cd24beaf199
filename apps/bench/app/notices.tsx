import { lazy, Suspense } from 'react';
import { loadNotices } from '../src/shell/later';

const Notices = lazy(loadNotices);

export default function NoticesRoute() {
  return (
    <Suspense>
      <Notices />
    </Suspense>
  );
}
