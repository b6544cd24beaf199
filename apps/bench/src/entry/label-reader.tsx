import { type Chemistry, isDigits, type LabelBody, micro } from '@gavrel/core';
import { isChemistry, type ReadField } from '@gavrel/core/read-label';
import { useState } from 'react';
import { View } from 'react-native';
import type { SeenFigure } from '../reader/messages';
import { useTokens } from '../theme';
import { Asked } from '../ui/asked';
import { Button } from '../ui/buttons';
import { Row } from '../ui/frame';
import { Sheet } from '../ui/sheet';
import { Figures, Words } from '../ui/words';
import type { LabelSheetProps } from './card';
import { labelDrafts } from './label-draft';
import { typeWords } from './label-words';
import { KeepPicture } from './pictures';
import { Piece, useReading } from './reading';
import { useRecord } from './use-record';

const TITLES: Readonly<Record<ReadField, string>> = {
  nominalVoltage: 'Nominal voltage',
  ratedCapacity: 'Rated capacity',
  typicalCapacity: 'Typical capacity',
  ratedEnergy: 'Rated energy',
  limitedChargeVoltage: 'Limited charge voltage',
  designation: 'Designation',
  typeCode: 'Type code',
  madeOn: 'Made',
  chemistry: 'Chemistry',
};

/** What a figure becomes on the label; nothing where the label has no such field. */
function changeOf(f: SeenFigure): Partial<LabelBody> | null {
  const { field, said, unit } = f;
  switch (field) {
    case 'typicalCapacity':
      return null;
    case 'chemistry':
      return isChemistry(said) ? { chemistry: said satisfies Chemistry } : null;
    case 'designation':
    case 'typeCode':
    case 'madeOn':
      return { [field]: said };
    default:
      return {
        [field]: { digits: said, unit: unit! },
        ...(field === 'ratedEnergy' && { energyMarked: true }),
      } as Partial<LabelBody>;
  }
}

const saidWords = (f: SeenFigure): string => [f.said, f.unit].filter(Boolean).join(' ');

/** "4.386 Ah" is what "4386 mAh" is. */
function sameFigure(present: string, f: SeenFigure): boolean {
  if (present === saidWords(f)) return true;
  const [digits, unit] = present.split(' ');
  return (
    f.unit !== undefined &&
    unit !== undefined &&
    isDigits(digits!) &&
    micro({ digits: digits!, unit }) === micro({ digits: f.said, unit: f.unit })
  );
}

function FigureRow({ f, present, onKeep }: { f: SeenFigure; present: string | undefined; onKeep: () => void }) {
  const t = useTokens();
  const change = changeOf(f);
  const same = present !== undefined && sameFigure(present, f);
  const told = f.sure ? 'adds up' : f.mended ? 'a digit mended: look' : 'look';
  return (
    <View style={{ gap: 4, borderTopWidth: 1, borderTopColor: t.line, paddingTop: 8 }} testID={`seen-${f.field}`}>
      <Piece of={f.piece} />
      <Row style={{ justifyContent: 'space-between', flexWrap: 'nowrap' }}>
        <View style={{ flexShrink: 1 }}>
          <Words size={15} soft>{`${TITLES[f.field]}, ${f.sure ? '■' : '?'} ${told}`}</Words>
          <Figures size={21} bold>
            {saidWords(f)}
          </Figures>
          {present && !same ? <Words size={15}>{`on record: ${present}`}</Words> : null}
        </View>
        {change === null ? (
          <Words soft>not kept</Words>
        ) : same ? (
          <Words bold>on record</Words>
        ) : (
          <Button
            label={present ? 'Correct it' : 'Keep'}
            hint={`${TITLES[f.field]} ${saidWords(f)}`}
            height={56}
            onPress={onKeep}
            testID={`keep-${f.field}`}
          />
        )}
      </Row>
    </View>
  );
}

/** Reads the label off a picture: each figure beside its piece of it, kept when a person says so. */
export function LabelReader({ facts, label, onKeep, onClose }: LabelSheetProps) {
  const reading = useReading('label', () => setAsked(null));
  const { answer, picture } = reading;
  const record = useRecord(facts.id);
  const [asked, setAsked] = useState<{ readonly words: string; readonly of: string } | null>(null);
  const figures = answer?.kind === 'done' ? answer.figures : [];
  const presentOf = (f: SeenFigure): string | undefined => {
    const present = label[f.field as keyof LabelBody];
    return present === undefined
      ? undefined
      : typeof present === 'object'
        ? `${present.digits} ${present.unit}`
        : String(present);
  };
  const keep = async (of: string, some: readonly SeenFigure[]) => {
    const change = Object.assign({}, ...some.map(changeOf)) as Partial<LabelBody>;
    const drafts = labelDrafts(facts, label, change, 'camera');
    const words = record.asks(drafts).join('\n');
    if (words !== '' && asked?.words !== words) return setAsked({ words, of });
    setAsked(null);
    for (const d of drafts) await onKeep(d, 'label read by camera');
    record.kept(drafts);
  };
  const fresh = figures.filter((f) => f.sure && changeOf(f) !== null && presentOf(f) === undefined);
  return (
    <Sheet title="Label from a picture" onClose={onClose}>
      <Words soft>Fill the picture with the label. Each figure is held against its piece of the picture before it is kept.</Words>
      {reading.bar}
      {answer?.kind === 'done' && figures.length === 0 ? (
        <Words bold live>
          Nothing on it could be read: nearer, straighter, more light.
        </Words>
      ) : null}
      <Asked words={asked?.words ?? null} />
      {fresh.length > 1 ? (
        <Button
          label={asked?.of === 'all' ? 'Keep them all the same' : `Keep the ${fresh.length} that add up`}
          tone="next"
          height={64}
          onPress={() => keep('all', fresh)}
          testID="keep-sure"
        />
      ) : null}
      {figures.map((f) => (
        <FigureRow key={f.field} f={f} present={presentOf(f)} onKeep={() => void keep(f.field, [f])} />
      ))}
      {figures.length > 0 && picture ? <KeepPicture picture={picture} of="label" on={[`pack:${facts.id}`]} /> : null}
      {answer?.kind === 'done' && answer.codes.length > 0 ? (
        <Words>{`Codes on it: ${answer.codes.map((c) => `${c.text} (${c.format})`).join(', ')}`}</Words>
      ) : null}
      {figures.length > 0 && typeWords(label) !== '' ? <Words size={15} soft>{`On record: ${typeWords(label)}`}</Words> : null}
    </Sheet>
  );
}
