import type { Condition, Opening, OpeningWord } from '@gavrel/core';
import { View } from 'react-native';
import { SPACE, useTokens } from '../../theme';
import { ConditionShape } from '../../ui/shape';
import { Words } from '../../ui/words';

/** Shapes say the same of a machine as of a pack. */
export const SHAPE_OF_OPENING: Record<OpeningWord, Condition> = {
  'open now': 'sound',
  'bring down first': 'spent',
  'do not open': 'damaged',
  emergency: 'critical',
};

/** The ruling before a screw turns, in one word and its reasons. */
export function OpeningBand({ opening }: { opening: Opening }) {
  const t = useTokens();
  const solid = opening.word === 'do not open' || opening.word === 'emergency';
  const ground = opening.word === 'emergency' ? t.critical : solid ? t.ink : t.card;
  const ink = opening.word === 'emergency' ? t.onCritical : solid ? t.ground : t.ink;
  return (
    <View
      testID="opening"
      role="status"
      style={{
        backgroundColor: ground,
        borderWidth: 2,
        borderColor: solid ? ground : t.ink,
        padding: SPACE,
        flexDirection: 'row',
        gap: 12,
      }}
    >
      <ConditionShape condition={SHAPE_OF_OPENING[opening.word]} size={30} color={solid ? ink : undefined} />
      <View style={{ flex: 1 }}>
        <Words bold size={20} color={ink}>
          {opening.word}
        </Words>
        {opening.reasons.map((r) => (
          <Words key={r} size={15} color={ink}>
            {r}
          </Words>
        ))}
      </View>
    </View>
  );
}
