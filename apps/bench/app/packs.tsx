import { Packs } from '../src/features/packs/packs';

export default function PacksScreen() {
  return <Packs />;
}
