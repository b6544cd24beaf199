import { useLocalSearchParams } from 'expo-router';
import { lazy, Suspense } from 'react';
import { loadJob } from '../../src/shell/later';

const Job = lazy(loadJob);

export default function JobScreen() {
  const { id } = useLocalSearchParams<{ id: string }>();
  return (
    <Suspense>
      <Job key={id} id={id} />
    </Suspense>
  );
}
