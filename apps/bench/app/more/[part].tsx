import { useLocalSearchParams } from 'expo-router';
import { lazy, Suspense } from 'react';
import { loadMore } from '../../src/shell/later';

const More = lazy(loadMore);

export default function MorePart() {
  const { part } = useLocalSearchParams<{ part: string }>();
  return (
    <Suspense>
      <More {...(part !== undefined && { part })} />
    </Suspense>
  );
}
