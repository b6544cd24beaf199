import { type Cell, flipWords, type Ruling } from '@gavrel/core';
import { View } from 'react-native';
import { SPACE, useTokens } from '../theme';
import { ConditionShape } from './shape';
import { Heading, Words } from './words';

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

/**
 * The band across the top of everything about a pack: the condition's shape and word, the order that follows, and how near the next
 * flip is. Hollow while a number is still being typed.
 */
export function RulingStrip({ ruling, hollow, tag }: { ruling: Ruling; hollow?: string; tag?: string }) {
  const t = useTokens();
  const { condition } = ruling.judgement;
  const solid = !hollow && (condition === 'damaged' || condition === 'critical');
  const ground = !solid ? t.card : condition === 'critical' ? t.critical : t.ink;
  const ink = !solid ? t.ink : condition === 'critical' ? t.onCritical : t.ground;
  const because = ruling.judgement.findings
    .filter((f) => f.state === 'stands' && ruling.judgement.because.includes(f.code))
    .map((f) => f.words);
  const why = [...new Set(because)].slice(0, 2).join(', ') || (condition === 'unproven' ? ruling.judgement.open[0] : undefined);
  return (
    <View
      testID={hollow ? 'strip-hollow' : 'strip'}
      role="status"
      aria-label={`${hollow ?? ''} ${condition}`.trim()}
      style={{
        backgroundColor: ground,
        borderWidth: solid ? 0 : 2,
        borderStyle: hollow || condition === 'unproven' ? 'dashed' : 'solid',
        borderColor: t.ink,
        padding: SPACE,
        gap: 2,
      }}
    >
      <View style={{ flexDirection: 'row', alignItems: 'center', gap: 12 }}>
        <ConditionShape condition={condition} size={34} color={solid ? ink : undefined} />
        <View style={{ flex: 1 }}>
          {hollow ? (
            <Words size={14} soft>
              {hollow}
            </Words>
          ) : null}
          <Heading level={hollow ? 3 : 1} size={hollow ? 20 : 27} color={ink}>
            {condition}
          </Heading>
        </View>
        {tag ? (
          <Words bold size={17} color={ink}>
            {tag}
          </Words>
        ) : null}
      </View>
      <Words color={ink} bold size={17}>
        {ruling.storage.short}
        {condition === 'critical' ? '' : ` · ${travelWords(ruling.cells)}`}
      </Words>
      {why ? (
        <Words color={ink} size={15}>
          {why}
        </Words>
      ) : null}
      {ruling.flip && !hollow ? (
        <Words color={ink} size={15}>
          nearest flip: {flipWords(ruling.flip)}
        </Words>
      ) : null}
    </View>
  );
}
