import { type Cell, type Condition, flipWords, foundWords, type Ruling } from '@gavrel/core';
import { Pressable, View } from 'react-native';
import { SPACE, TARGET, useTokens } from '../theme';
import { ConditionShape } from './shape';
import { Figures, Heading, Words } from './words';

/** The way that matters most, in a few words: by road, as it stands. */
export function travelWords(cells: readonly Cell[]): string {
  const word = (mode: string, placement: string) =>
    cells.find((c) => c.mode === mode && c.placement === placement && c.purpose === 'use')?.word ?? 'hold';
  const road = word('road', 'loose');
  const air = word('air-cargo', 'loose');
  const say = {
    yes: 'yes',
    'as damaged': 'as damaged',
    split: 'in smaller packages',
    hold: 'hold',
    approval: 'with approval',
    no: 'no',
  } as const;
  return road === air ? `road and air: ${say[road]}` : `road: ${say[road]} · air: ${say[air]}`;
}

interface StripProps {
  readonly ruling: Ruling;
  readonly tag?: string;
  /** Opens the reasons. */
  readonly onWhy?: () => void;
}

/** Ground, ink and frame of a condition's band: solid only for what is dangerous now. */
function useBand(condition: Condition, preview: boolean) {
  const t = useTokens();
  const solid = !preview && (condition === 'damaged' || condition === 'critical');
  const ground = !solid ? t.card : condition === 'critical' ? t.critical : t.ink;
  const ink = !solid ? t.ink : condition === 'critical' ? t.onCritical : t.ground;
  const frame = {
    backgroundColor: ground,
    borderWidth: 2,
    borderStyle: preview || condition === 'unproven' ? ('dashed' as const) : ('solid' as const),
    borderColor: solid ? ground : t.ink,
  };
  return { solid, ink, frame };
}

/** What decided, in a few words. */
function becauseWords(ruling: Ruling): string | undefined {
  const { condition, because, findings, open } = ruling.judgement;
  const words = foundWords(findings.filter((f) => f.state === 'stands' && because.includes(f.code)));
  return words.slice(0, 2).join('; ') || (condition === 'unproven' ? open[0] : undefined);
}

/**
 * The band across the top of everything about a pack: the condition's shape and word, the order that follows, and how near the next
 * flip is.
 */
export function RulingStrip({ ruling, tag, onWhy }: StripProps) {
  const { condition } = ruling.judgement;
  const { solid, ink, frame } = useBand(condition, false);
  const why = becauseWords(ruling);
  return (
    <View testID="strip" role="status" aria-label={condition} style={[frame, { padding: SPACE, gap: 2 }]}>
      <View style={{ flexDirection: 'row', alignItems: 'center', gap: 12 }}>
        <ConditionShape condition={condition} size={34} color={solid ? ink : undefined} />
        <Heading level={1} size={27} color={ink} style={{ flex: 1 }}>
          {condition}
        </Heading>
        {tag ? (
          <Figures bold size={17} color={ink}>
            {tag}
          </Figures>
        ) : null}
      </View>
      <Words color={ink} bold size={17}>
        {ruling.storage.short}
        {condition === 'critical' ? '' : ` · ${travelWords(ruling.cells)}`}
      </Words>
      <View style={{ flexDirection: 'row', alignItems: 'flex-end', gap: 8 }}>
        <View style={{ flex: 1, gap: 2 }}>
          {why ? (
            <Words color={ink} size={15}>
              {why}
            </Words>
          ) : null}
          {ruling.flip ? (
            <Words color={ink} size={15}>
              {`nearest flip: ${flipWords(ruling.flip)}`}
            </Words>
          ) : null}
        </View>
        {onWhy ? (
          <Pressable
            role="button"
            aria-label="Why?"
            testID="why"
            onPress={onWhy}
            style={{ minHeight: TARGET, minWidth: 64, justifyContent: 'flex-end', alignItems: 'flex-end', marginTop: -14 }}
          >
            <Words bold size={17} color={ink} style={{ textDecorationLine: 'underline' }}>
              Why?
            </Words>
          </Pressable>
        ) : null}
      </View>
    </View>
  );
}

/** The ruling while a number is still being typed: dashed, always as high, so that no key moves, never milder than what is committed. */
export function PreviewStrip({ ruling, typed }: { ruling: Ruling; typed: string }) {
  const { condition } = ruling.judgement;
  const { frame } = useBand(condition, true);
  return (
    <View
      testID="strip-preview"
      role="status"
      aria-live="polite"
      style={[frame, { paddingHorizontal: SPACE, paddingVertical: 6, flexDirection: 'row', alignItems: 'center', gap: 10 }]}
    >
      <ConditionShape condition={condition} size={26} />
      <View style={{ flex: 1 }}>
        <Words bold size={17}>{`if ${typed}: ${condition}`}</Words>
        <Words size={14} lines={2} style={{ minHeight: 38 }}>
          {becauseWords(ruling) ?? (ruling.flip ? flipWords(ruling.flip) : ruling.storage.short)}
        </Words>
      </View>
    </View>
  );
}
