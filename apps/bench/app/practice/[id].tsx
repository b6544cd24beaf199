import { useLocalSearchParams } from 'expo-router';
import { lazy, Suspense } from 'react';
import { loadPracticeSession } from '../../src/shell/later';

const PracticeSession = lazy(loadPracticeSession);

export default function PracticeSessionRoute() {
  const { id } = useLocalSearchParams<{ id: string }>();
  return (
    <Suspense>
      <PracticeSession key={id} id={id} />
    </Suspense>
  );
}
