import { labelWords, type LabelBody, type PackFacts, show } from '@gavrel/core';
import { useState } from 'react';
import { Card, Row } from '../ui/frame';
import { Button } from '../ui/buttons';
import { Words } from '../ui/words';
import type { NumberCardProps } from './card';
import { CellsSheet } from './cells-sheet';
import { GaugeSheet } from './gauge-sheet';
import { isFigureKey, oneFigure } from './label-draft';
import { readingTask } from './tasks';
import { WordsSheet } from './words-sheet';

type Sheets = 'words' | 'cells' | 'gauge';

/** Facts that are looked at again in a sheet of their own. */
const SHEET: Readonly<Record<string, Sheets>> = {
  designation: 'words',
  chemistry: 'words',
  madeOn: 'words',
  energyMarked: 'words',
  typeCode: 'words',
  series: 'cells',
  parallel: 'cells',
  gauge: 'gauge',
};
const SHEET_WORDS: Readonly<Record<Sheets, string>> = {
  words: 'Read the label’s words again',
  cells: 'Count the cells',
  gauge: 'Read the gauge again',
};
const READ: Readonly<Record<string, readonly ['volts' | 'mass', string]>> = {
  packVolts: ['volts', 'Measure the pack again'],
  mass: ['mass', 'Weigh it again'],
};

/** What only a count of the cells settles. */
const COUNTED: ReadonlySet<string> = new Set(['label-series', 'label-designation', 'label-limit', 'meter-series', 'set-series']);

/** A value of a label as people read it. */
const valueWords = (v: unknown): string =>
  typeof v === 'object' && v !== null && 'digits' in v
    ? show(v as Parameters<typeof show>[0])
    : typeof v === 'boolean'
      ? v
        ? 'yes'
        : 'no'
      : String(v);

/** Every value on record of a field of the label. */
const valuesOf = (facts: PackFacts, field: keyof LabelBody): string[] => [
  ...new Set(facts.labels.flatMap((l) => (l.body[field] === undefined ? [] : [valueWords(l.body[field])]))),
];

/** Facts that cannot all be true: both of them, what to look at again, and the keys to do so. */
export function AddUpCard({ facts, ruling, onTask, onKeep }: NumberCardProps) {
  const [open, setOpen] = useState<Sheets | null>(null);
  const { contradictions, label, nature } = ruling.judgement;
  if (contradictions.length === 0 && label.disputed.length === 0) return null;
  const fields = [...new Set([...contradictions.flatMap((c) => c.fields), ...label.disputed])];
  const counts = contradictions.some((c) => COUNTED.has(c.relation));
  const sheets = [...new Set([...(counts ? (['cells'] as const) : []), ...fields.flatMap((f) => SHEET[f] ?? [])])];
  return (
    <Card title="Does not add up" testID="card-add-up">
      {contradictions.map((c) => (
        <Words key={c.sentence} bold>
          {c.sentence}
        </Words>
      ))}
      {label.disputed.map((f) => (
        <Words key={f} bold>{`${labelWords(f)}: ${valuesOf(facts, f).join(' or ')}, both on record: read it again`}</Words>
      ))}
      <Row>
        {fields.filter(isFigureKey).map((f) => (
          <Button
            key={f}
            label={`Read the ${labelWords(f)} again`}
            height={52}
            onPress={() => onTask(oneFigure(facts, label.all, f))}
            testID={`again-${f}`}
          />
        ))}
        {sheets.map((s) => (
          <Button key={s} label={SHEET_WORDS[s]} height={52} onPress={() => setOpen(s)} testID={`again-${s}`} />
        ))}
        {fields.flatMap((f) => {
          const read = READ[f];
          if (!read) return [];
          const task = readingTask(facts, nature.series, read[0]);
          return [<Button key={f} label={read[1]} height={52} onPress={() => onTask(task)} testID={`again-${read[0]}`} />];
        })}
      </Row>
      {open === 'words' ? <WordsSheet facts={facts} label={label.all} onKeep={onKeep} onClose={() => setOpen(null)} /> : null}
      {open === 'cells' ? <CellsSheet facts={facts} ruling={ruling} onKeep={onKeep} onClose={() => setOpen(null)} /> : null}
      {open === 'gauge' ? (
        <GaugeSheet facts={facts} series={nature.series} onKeep={onKeep} onClose={() => setOpen(null)} />
      ) : null}
    </Card>
  );
}
