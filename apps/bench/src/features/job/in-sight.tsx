import { router } from 'expo-router';
import { Pressable, ScrollView, View } from 'react-native';
import { useTokens } from '../../theme';
import { ConditionShape } from '../../ui/shape';
import { Figures, Words } from '../../ui/words';
import { SHAPE_OF_OPENING } from './opening-band';
import type { JobView } from './view';

/** What the machine and its packs are, on every station: what an answer changes out of sight is told here. */
export function InSight({ v }: { v: JobView }) {
  const t = useTokens();
  const { word, reasons } = v.opening;
  return (
    <ScrollView
      horizontal
      showsHorizontalScrollIndicator={false}
      tabIndex={0}
      role="status"
      aria-label="Machine and packs"
      testID="in-sight"
      style={{ flexGrow: 0, borderBottomWidth: 1, borderColor: t.line }}
      contentContainerStyle={{ alignItems: 'center', gap: 16 }}
    >
      {v.job.closedAt === null ? (
        <View style={{ flexDirection: 'row', alignItems: 'center', gap: 6, minHeight: 40 }}>
          <ConditionShape condition={SHAPE_OF_OPENING[word]} size={20} />
          <Words bold size={15} lines={1}>
            {word === 'open now' ? word : `${word}${reasons[0] ? `: ${reasons[0]}` : ''}`}
          </Words>
        </View>
      ) : null}
      {v.packs.map((p) => (
        <Pressable
          key={p.facts.id}
          role="link"
          onPress={() => router.push(`/pack/${p.facts.id}`)}
          testID={`in-sight-${p.facts.tag}`}
          style={{ flexDirection: 'row', alignItems: 'center', gap: 6, minHeight: 48 }}
        >
          <ConditionShape condition={p.judgement.condition} size={20} />
          <Figures bold size={15}>
            {p.facts.tag}
          </Figures>
          <Words size={15}>{p.judgement.condition}</Words>
        </Pressable>
      ))}
    </ScrollView>
  );
}
