import { useLocalSearchParams } from 'expo-router';
import { lazy, Suspense } from 'react';
import { loadConsignment } from '../../src/shell/later';

const Consignment = lazy(loadConsignment);

export default function ConsignmentRoute() {
  const { id } = useLocalSearchParams<{ id: string }>();
  return (
    <Suspense>
      <Consignment key={id} id={id} />
    </Suspense>
  );
}
