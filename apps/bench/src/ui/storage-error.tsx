import { View } from 'react-native';
import { useAppSelector } from '../state';
import { SPACE, useTokens } from '../theme';
import { Words } from './words';

/** What the device could not keep, and what to do: over whatever is open. */
export function StorageErrorBar({ testID }: { testID: string }) {
  const t = useTokens();
  const lost = useAppSelector((s) => s.view.lost);
  if (!lost) return null;
  return (
    <View role="alert" style={{ backgroundColor: t.critical, padding: SPACE }} testID={testID}>
      <Words bold color={t.onCritical}>{`${lost.words}. ${lost.why}`}</Words>
    </View>
  );
}
