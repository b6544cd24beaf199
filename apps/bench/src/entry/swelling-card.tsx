import { latest, seriesOf, show, thicknessTrend } from '@gavrel/core';
import { useMemo, useState } from 'react';
import { draft } from '../device/write';
import { Card, Row } from '../ui/frame';
import { Choice, Button } from '../ui/buttons';
import { LimitScale } from '../ui/limit-scale';
import { PackDrawing, type Point, POINTS } from '../ui/pack-drawing';
import { Sheet } from '../ui/sheet';
import { Trend } from '../ui/trend';
import { Words } from '../ui/words';
import { SWELLING_SIGNS } from './groups';
import { useAppSelector } from '../state';
import { useApart } from './apart';
import { knownNewThickness } from './same-type';
import { newThicknessTask, readingTask } from './tasks';
import type { NumberCardProps } from './card';

const ORDER = Object.keys(POINTS) as Point[];

/** How thick others of the type were when new, for one tap. */
function SameNewThickness({ facts, onKeep, onDone }: Pick<NumberCardProps, 'facts' | 'onKeep'> & { onDone: () => void }) {
  const packs = useAppSelector((s) => s.logbook.packs);
  const apart = useApart() !== null;
  const known = useMemo(() => (apart ? null : knownNewThickness(Object.values(packs), facts)), [apart, packs, facts]);
  if (!known) return null;
  const { figure, source } = known.said;
  const words = `${show(figure)}, ${source === 'data-sheet' ? 'data sheet' : 'a new part'}, as on ${known.from}`;
  return (
    <Button
      label={words}
      tone="next"
      height={64}
      onPress={() =>
        onKeep(draft('reading-taken', [`pack:${facts.id}`], known.said), `new thickness ${show(figure)}`).then(onDone)
      }
      testID="same-new-thickness"
    />
  );
}

/** Thickness at its points against the new thickness, and the signs that need no number. */
export function SwellingCard({ facts, ruling, onTask, onKeep }: NumberCardProps) {
  const [source, setSource] = useState(false);
  const { nature } = ruling.judgement;
  const at = seriesOf(facts.readings, 'thickness');
  const readings: Partial<Record<Point, string>> = {};
  for (const p of ORDER) {
    const s = latest(at.filter((x) => x.point === p));
    if (s) readings[p] = s.mean.toFixed(2);
  }
  const t0 = facts.readings.filter((r) => r.body.quantity === 'new-thickness').pop();
  const limit = ruling.limits.find((l) => l.id.startsWith('swelling'));
  const trend = thicknessTrend(facts, limit?.limit ?? null);
  const from = (p: Point) => [p, ...ORDER.filter((o) => o !== p && readings[o] === undefined)];
  return (
    <Card
      title="Swelling"
      testID="card-swelling"
      right={
        <Words size={15} soft>
          {t0 ? `new ${show(t0.body.figure)}` : 'new thickness not known'}
        </Words>
      }
    >
      <PackDrawing
        nature={nature}
        readings={readings}
        onPoint={(p) => onTask(readingTask(facts, nature.series, 'thickness', from(p)))}
      />
      {limit ? (
        <LimitScale limit={limit} />
      ) : (
        <Words size={15} soft>
          Calliper with wide jaws, light touch, never squeeze. Five points, and the thickness when new.
        </Words>
      )}
      {trend ? (
        <Trend
          what={`thickness at ${trend.point}`}
          points={trend.measured.map(({ mm, ...m }) => ({ ...m, value: mm }))}
          level={trend.limit}
          unit="mm"
          decimals={2}
          words={`Thickness at ${trend.point} within its thin lines${trend.limit === null ? '.' : '; swollen from the level line on.'}`}
        />
      ) : null}
      <Row>
        <Button label={t0 ? 'New thickness again' : 'New thickness'} onPress={() => setSource(true)} testID="new-thickness" />
      </Row>
      <Words size={15} soft>
        Any of these is swelling, whatever the number:
      </Words>
      <Row gap={6}>
        {SWELLING_SIGNS.map((s) => (
          <Button
            key={s}
            label={s}
            onPress={() => onKeep(draft('finding-recorded', [`pack:${facts.id}`], { code: 'swollen', note: s }), `swollen: ${s}`)}
          />
        ))}
      </Row>
      {source ? (
        <Sheet title="Where is the new thickness from?" onClose={() => setSource(false)}>
          <SameNewThickness
            facts={facts}
            onKeep={onKeep}
            onDone={() => {
              setSource(false);
              if (readings.centre === undefined) onTask(readingTask(facts, null, 'thickness', ['centre']));
            }}
          />
          <Choice
            label="Source of the new thickness"
            options={['measured-new', 'data-sheet', 'trade-code'] as const}
            words={{ 'measured-new': 'a new part, measured', 'data-sheet': 'data sheet', 'trade-code': 'trade code on the cell' }}
            value={null}
            height={64}
            onChange={(s) => {
              setSource(false);
              onTask(newThicknessTask(facts, s, readings.centre === undefined ? 'centre' : undefined));
            }}
          />
          <Words size={15}>Not from a code with slashes: it rounds up to whole millimetres.</Words>
        </Sheet>
      ) : null}
    </Card>
  );
}
