import { useLocalSearchParams } from 'expo-router';
import { lazy, Suspense } from 'react';
import { loadIncident } from '../../src/shell/later';

const Incident = lazy(loadIncident);

export default function IncidentRoute() {
  const { id } = useLocalSearchParams<{ id: string }>();
  return (
    <Suspense>
      <Incident key={id} id={id} />
    </Suspense>
  );
}
