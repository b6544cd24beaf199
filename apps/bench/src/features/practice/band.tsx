import { View } from 'react-native';
import { SPACE, useTokens } from '../../theme';
import { Words } from '../../ui/words';

/** On everything of practice: it must never be taken for the record. */
export function PracticeBand() {
  const t = useTokens();
  return (
    <View
      role="note"
      testID="practice-band"
      style={{ backgroundColor: t.wash, borderBottomWidth: 2, borderStyle: 'dashed', borderColor: t.ink, padding: SPACE }}
    >
      <Words bold>Practice: no real pack, nothing goes into the log.</Words>
    </View>
  );
}
