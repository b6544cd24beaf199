import { checkLabel, type Interval, labelWords, show } from '@gavrel/core';
import { useState } from 'react';
import { View } from 'react-native';
import { Button } from '../ui/buttons';
import { Card, Row } from '../ui/frame';
import { Figures, Words } from '../ui/words';
import { figureTask } from './label-draft';
import { LABEL_FIGURES } from './tasks';
import { WordsSheet } from './words-sheet';
import type { NumberCardProps } from './card';

const interval = (i: Interval) => `${i.lo.toFixed(1)} to ${i.hi.toFixed(1)} Wh`;

/** What the label says, what follows from it, and whether it agrees with itself. */
export function LabelCard({ facts, ruling, onTask, onKeep }: NumberCardProps) {
  const [words, setWords] = useState(false);
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
      <Button
        label={missing ? 'Type code, chemistry, Wh mark, date' : 'Label in words'}
        onPress={() => setWords(true)}
        testID="label-words"
      />
      {words ? <WordsSheet facts={facts} label={label} onKeep={onKeep} onClose={() => setWords(false)} /> : null}
    </Card>
  );
}
