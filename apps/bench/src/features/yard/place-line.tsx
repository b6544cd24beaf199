import type { PlaceState } from '@gavrel/core/place';
import { router } from 'expo-router';
import { Pressable, View } from 'react-native';
import { energyWords, troubleOf } from '../../stock/place-words';
import { useTokens } from '../../theme';
import { Figures, Words } from '../../ui/words';

/** How full, as a bar against its tightest limit; past the end where it is over. */
function FillBar({ fill }: { fill: number | null }) {
  const t = useTokens();
  if (fill === null) return null;
  return (
    <View style={{ height: 8, backgroundColor: t.wash, width: '100%' }}>
      <View style={{ height: 8, width: `${Math.min(100, fill * 100)}%`, backgroundColor: t.ink }} />
    </View>
  );
}

/** One place in a list: how full, what is not in order, when to look. @param burning what is not over there, in words. */
export function PlaceLine({
  state,
  look,
  late,
  burning,
}: {
  state: PlaceState;
  look: string | null;
  late: boolean;
  burning: readonly string[];
}) {
  const t = useTokens();
  const { place, items, load } = state;
  const limit = place.limits?.packs;
  const trouble = troubleOf(state);
  return (
    <Pressable
      role="link"
      onPress={() => router.push(`/place/${place.id}`)}
      testID={`place-${place.name.replace(/\W+/g, '-')}`}
      style={{ paddingVertical: 10, gap: 4, minHeight: 64, borderTopWidth: 1, borderColor: t.wash }}
    >
      <View style={{ flexDirection: 'row', justifyContent: 'space-between', gap: 8 }}>
        <Words bold size={17} style={{ flex: 1 }}>
          {place.name}
        </Words>
        <Figures>{limit === undefined ? String(items.length) : `${items.length}/${limit}`}</Figures>
      </View>
      <FillBar fill={state.fill} />
      <View style={{ flexDirection: 'row', justifyContent: 'space-between', gap: 8 }}>
        <Words size={14} soft>
          {`${place.kind}, ${energyWords(load.wattHours, load.unknown.wattHours)}`}
        </Words>
        {look ? (
          <Words size={14} bold={late}>
            {look}
          </Words>
        ) : null}
      </View>
      {[...burning, ...trouble].map((w) => (
        <Words key={w} size={15} bold>
          {w}
        </Words>
      ))}
    </Pressable>
  );
}
