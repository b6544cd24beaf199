import { View } from 'react-native';
import { useTokens } from '../theme';
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
