import { checkLabel, type Interval, type LabelBody, labelWords, show } from '@gavrel/core';
import { useMemo, useState } from 'react';
import { View } from 'react-native';
import { Button } from '../ui/buttons';
import { Card, Row } from '../ui/frame';
import { Figures, Words } from '../ui/words';
import { useAppSelector } from '../state';
import { useApart } from './apart';
import { knownLabels } from './known-labels';
import { figureTask, labelDrafts } from './label-draft';
import { LabelReader } from './label-reader';
import { typeWords } from './label-words';
import { LABEL_FIGURES } from './tasks';
import { WordsSheet } from './words-sheet';
import type { NumberCardProps } from './card';

const interval = (i: Interval) => `${i.lo.toFixed(1)} to ${i.hi.toFixed(1)} Wh`;

/** Types offered for a pack whose label nobody has read. */
const OFFERED = 3;

/** A label that was read on another pack of the type: held line by line against this one, it is said with one tap. */
function SameAs({ facts, label, onKeep }: Pick<NumberCardProps, 'facts' | 'onKeep'> & { label: LabelBody }) {
  const packs = useAppSelector((s) => s.logbook.packs);
  const known = useMemo(() => knownLabels(Object.values(packs), facts, OFFERED), [packs, facts]);
  if (known.length === 0) return null;
  const take = async (l: LabelBody) => {
    for (const d of labelDrafts(facts, label, l)) await onKeep(d, 'label read, the same');
  };
  return (
    <View style={{ gap: 6 }}>
      <Words size={15} soft>
        Hold it against this label line by line. All the same? One tap.
      </Words>
      {known.map((k) => (
        <Button
          key={k.label.typeCode}
          label={`${typeWords(k.label)}, as on ${k.from}`}
          height={56}
          onPress={() => take(k.label)}
          testID={`same-label-${k.label.typeCode}`}
        />
      ))}
    </View>
  );
}

/** What the label says, what follows from it, and whether it agrees with itself. */
export function LabelCard({
  facts,
  ruling,
  onTask,
  onKeep,
  offers = true,
}: NumberCardProps & {
  /** Are labels of known types offered here? */
  offers?: boolean;
}) {
  const [words, setWords] = useState(false);
  const [reader, setReader] = useState(false);
  const apart = useApart() !== null;
  const { all: label, disputed } = ruling.judgement.label;
  const { nature } = ruling.judgement;
  const check = checkLabel(label);
  const missing = label.chemistry === undefined || label.energyMarked === undefined;
  return (
    <Card
      title="Label"
      testID="card-label"
      right={
        <Words size={15} soft>
          {label.typeCode ?? 'no type code'}
        </Words>
      }
    >
      {offers && !apart ? <SameAs facts={facts} label={label} onKeep={onKeep} /> : null}
      <View style={{ flexDirection: 'row', flexWrap: 'wrap', gap: 6 }}>
        {(Object.keys(LABEL_FIGURES) as (keyof typeof LABEL_FIGURES)[]).map((key) => {
          const f = label[key];
          const title = LABEL_FIGURES[key].title;
          return (
            <Button
              key={key}
              label={`${title}${f ? ` ${show(f)}` : ', not read'}`}
              height={64}
              style={{ flexGrow: 1, flexBasis: '46%' }}
              onPress={() => onTask(figureTask(facts, label, key))}
              testID={`label-${key}`}
            >
              <Words size={14} soft>
                {title}
              </Words>
              <Figures size={19} bold>
                {f ? show(f) : '+'}
              </Figures>
            </Button>
          );
        })}
      </View>
      {label.chemistry || label.madeOn ? (
        <Words>{[label.chemistry, label.madeOn && `made ${label.madeOn}`].filter(Boolean).join(', ')}</Words>
      ) : null}
      <Row>
        <Figures bold>
          {nature.candidates.length > 1
            ? `${nature.candidates.join(' or ')} in series: count the cells`
            : nature.series === null
              ? 'cells not known'
              : nature.parallel === null
                ? `${nature.series}S`
                : `${nature.series}S${nature.parallel}P`}
        </Figures>
        {nature.candidates.length > 1 ? null : nature.family ? (
          <Words soft>{`${nature.family} · charge limit ${nature.chargeLimit?.toFixed(2)} V a cell`}</Words>
        ) : nature.chargeLimit !== null ? (
          <Words soft>{`charge limit up to ${nature.chargeLimit.toFixed(2)} V a cell`}</Words>
        ) : null}
      </Row>
      {check.computed && check.verdict !== 'not comparable' ? (
        <Words size={15} soft>{`V × Ah gives ${interval(check.computed)}: ${check.verdict}`}</Words>
      ) : null}
      {check.verdict === 'not comparable' && check.computed ? (
        <Words size={15} soft>{`V × Ah gives ${interval(check.computed)}`}</Words>
      ) : null}
      {nature.notes.map((n) => (
        <Words key={n} size={15}>
          {n}
        </Words>
      ))}
      {disputed.length > 0 ? (
        <Words bold>{`Two values on record for ${disputed.map(labelWords).join(', ')}: a second person settles it.`}</Words>
      ) : null}
      {apart ? null : <Button label="Read it from a picture" onPress={() => setReader(true)} testID="read-label" />}
      {reader ? <LabelReader facts={facts} label={label} onKeep={onKeep} onClose={() => setReader(false)} /> : null}
      <Button
        label={missing ? 'Type code, chemistry, Wh mark, date' : 'Label in words'}
        onPress={() => setWords(true)}
        testID="label-words"
      />
      {words ? <WordsSheet facts={facts} label={label} onKeep={onKeep} onClose={() => setWords(false)} /> : null}
    </Card>
  );
}
