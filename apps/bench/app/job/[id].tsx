import { useLocalSearchParams } from 'expo-router';
import { Job } from '../../src/features/job/job';

export default function JobScreen() {
  const { id } = useLocalSearchParams<{ id: string }>();
  return <Job id={id} />;
}
