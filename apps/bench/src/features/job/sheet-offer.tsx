import { useAppSelector } from '../../state';
import { useTokens } from '../../theme';
import { Button } from '../../ui/buttons';
import { Words } from '../../ui/words';
import { View } from 'react-native';

/** What other jobs of the model taught about a station, taken over with one tap. Never findings, readings or what is live. */
export function SheetOffer({
  what,
  by,
  times,
  take = 'Same here',
  onTake,
  testID,
}: {
  what: string;
  by: string;
  times: number;
  /** What the one tap says. */
  take?: string;
  onTake: () => void;
  testID: string;
}) {
  const t = useTokens();
  const people = useAppSelector((s) => s.session.session?.people ?? []);
  const who = people.find((p) => p.id === by)?.name ?? by;
  return (
    <View style={{ borderWidth: 2, borderStyle: 'dashed', borderColor: t.accent, padding: 10, gap: 6 }}>
      <Words>{what}</Words>
      <Words size={14} soft>{`${who}, ${times === 1 ? 'in one job' : `in ${times} jobs`} of this model`}</Words>
      <Button label={take} tone="next" height={64} onPress={onTake} testID={testID} />
    </View>
  );
}
