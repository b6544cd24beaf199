import { View } from 'react-native';
import { useTokens } from '../theme';
import { Button } from './buttons';
import { Words } from './words';

/** What is asked before something is kept, or why it is not; read out at once. */
export function Asked({ words }: { words: string | null }) {
  const t = useTokens();
  if (words === null || words === '') return null;
  return (
    <View role="alert" style={{ backgroundColor: t.wash, padding: 10 }}>
      <Words bold>{words}</Words>
    </View>
  );
}

/** The key at the foot of a form: a second press keeps what was asked about. */
export function KeepKey({
  asked,
  disabled,
  onKeep,
  testID,
}: {
  asked: string | null;
  disabled: boolean;
  onKeep: () => Promise<unknown>;
  testID: string;
}) {
  return (
    <Button
      label={asked ? 'Keep it all the same' : 'Keep'}
      tone="next"
      height={64}
      disabled={disabled}
      onPress={() => onKeep()}
      testID={testID}
    />
  );
}
