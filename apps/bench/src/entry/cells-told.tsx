import { cellSets, type CellSet, type PackFacts, type Ruling, spreadOfSet, counted } from '@gavrel/core';
import { View } from 'react-native';
import { Row } from '../ui/frame';
import { agoWords } from '../ui/say';
import { Figures, Words } from '../ui/words';

const REST: Readonly<Record<CellSet['rest'], string>> = {
  rested: 'rested',
  // Said below, among what is asked.
  'not said': '',
  'too short': 'too soon to compare: again after two hours of rest',
};

/** What a set is worth as evidence. */
function worth(set: CellSet, series: number | null): string {
  if (set.cells.some((c) => c.doubted)) return 'questioned: no evidence until a second person agrees';
  if (set.of === null) return 'not one set: no evidence, take every cell in one run';
  const seen = new Set(set.cells.map((c) => c.point)).size;
  if (!set.complete) return `${seen} of ${set.of} cells: not judged as a set, take the others in one run`;
  if (series !== null && set.of !== series) return `${counted(set.of, 'cell')} seen, but ${series} in series: count the cells`;
  return set.of === 1 ? 'judged' : `all ${set.of} judged`;
}

/** The newest set of cell voltages: each cell, how far they are apart, and whether it was judged. */
export function CellsTold({ facts, ruling }: { facts: PackFacts; ruling: Ruling }) {
  const { nature } = ruling.judgement;
  const set = cellSets(facts).reduce<CellSet | null>((a, b) => (a === null || b.at >= a.at ? b : a), null);
  if (set === null) return null;
  const series = nature.candidates.length > 1 ? null : nature.series;
  const spread = spreadOfSet(set, nature);
  const apart = spread && [
    `${spread.millivolts.toFixed(0)} mV apart`,
    spread.charge && `${spread.charge.value.toFixed(1)} ±${spread.charge.u.toFixed(1)} % of charge`,
  ];
  return (
    <View style={{ gap: 2 }} testID="cells-told">
      <Row gap={12}>
        {set.cells.map((c) => (
          <Figures key={`${c.point} ${c.at} ${c.entries[0]}`} size={16} bold>
            {`${c.point || '?'}: ${c.mean.toFixed(Math.max(0, Math.round(-Math.log10(c.step))))} V`}
          </Figures>
        ))}
      </Row>
      <Words size={15}>
        {[...(apart ?? []), worth(set, series), REST[set.rest], agoWords(set.at)].filter(Boolean).join(' · ')}
      </Words>
    </View>
  );
}
