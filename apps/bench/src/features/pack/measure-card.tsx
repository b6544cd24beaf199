import { type CapacityUnit, type Figure, latest, type PackFacts, parseDigits, seriesOf, type VoltUnit } from '@gavrel/core';
import { useState } from 'react';
import { View } from 'react-native';
import { draft } from '../../log/write';
import { Field } from '../../ui/field';
import { Card } from '../../ui/frame';
import { Key } from '../../ui/keys';
import { LimitScale } from '../../ui/limit-scale';
import { Sheet } from '../../ui/sheet';
import { Figures, Words } from '../../ui/words';
import { milliampHours, type ReadingKey, readingTask } from './tasks';
import type { Keep, NumberCardProps } from './card';

/** What the pack's own gauge says, typed off a screen. */
function GaugeSheet({
  facts,
  series,
  onKeep,
  onClose,
}: {
  facts: PackFacts;
  series: number | null;
  onKeep: Keep;
  onClose: () => void;
}) {
  const [design, setDesign] = useState('');
  const [full, setFull] = useState('');
  const [left, setLeft] = useState('');
  const [error, setError] = useState('');
  const [cycles, setCycles] = useState('');
  const [cells, setCells] = useState('');
  const read = (t: string) => (t.trim() === '' ? undefined : parseDigits(t));
  const typed = { design: read(design), full: read(full), left: read(left), error: read(error), cycles: read(cycles) };
  const volts = cells.trim() === '' ? [] : cells.trim().split(/\s+/).map(parseDigits);
  const bad =
    Object.values(typed).some((v) => v === null) ||
    volts.some((v) => v === null) ||
    (series !== null && volts.length > 0 && volts.length !== series);
  const some = [typed.design, typed.full, typed.left].some((v) => v) || volts.length > 0;
  const keep = async () => {
    const cap = (d: string | null | undefined): Figure<CapacityUnit> | undefined => (d ? milliampHours(d) : undefined);
    const d = cap(typed.design);
    const f = cap(typed.full);
    const r = cap(typed.left);
    await onKeep(
      draft('gauge-read', [`pack:${facts.id}`], {
        ...(d && { designCapacity: d }),
        ...(f && { fullChargeCapacity: f }),
        ...(r && { remainingCapacity: r }),
        ...(typed.error && { maxError: Number(typed.error) }),
        ...(typed.cycles && { cycleCount: Math.round(Number(typed.cycles)) }),
        ...(volts.length > 0 && { cellVoltages: volts.map((v): Figure<VoltUnit> => ({ digits: v!, unit: 'V' })) }),
      }),
      'gauge',
    );
    onClose();
  };
  return (
    <Sheet
      title="Gauge"
      onClose={onClose}
      footer={
        <Key label="Keep" tone="next" height={64} disabled={bad || !some} onPress={() => void keep()} testID="keep-gauge" />
      }
    >
      <Field label="Charge left, mAh" value={left} onChange={setLeft} testID="gauge-left" />
      <Field label="Full-charge capacity, mAh" value={full} onChange={setFull} testID="gauge-full" />
      <Field label="Design capacity, mAh" value={design} onChange={setDesign} testID="gauge-design" />
      <Field
        label={`Cell voltages in V, with spaces${series ? ` (${series})` : ''}`}
        value={cells}
        onChange={setCells}
        testID="gauge-cells"
      />
      <Field label="Max error, %" value={error} onChange={setError} />
      <Field label="Cycle count" value={cycles} onChange={setCycles} />
      {bad ? <Words bold>{`Numbers only${series ? `, and ${series} cell voltages` : ''}.`}</Words> : null}
    </Sheet>
  );
}

const percent = (i: { lo: number; hi: number }) => `${Math.round(i.lo)} to ${Math.round(i.hi)} %`;

/** Voltage, cells, temperature, mass, gauge; each opens the keypad. */
export function MeasureCard({ facts, ruling, onTask, onKeep }: NumberCardProps) {
  const [gauge, setGauge] = useState(false);
  const { series } = ruling.judgement.nature;
  const e = ruling.electrical;
  const newest = (q: 'pack-voltage' | 'cell-voltage' | 'surface-temperature' | 'mass') => latest(seriesOf(facts.readings, q));
  const volts = newest('pack-voltage');
  const surface = newest('surface-temperature');
  const mass = newest('mass');
  const cells =
    facts.gauges.flatMap((g) => g.body.cellVoltages ?? []).length > 0 ||
    facts.readings.some((r) => r.body.quantity === 'cell-voltage');
  const keys: readonly (readonly [ReadingKey, string, string | null, readonly string[]])[] = [
    ['volts', 'Pack voltage', volts ? `${volts.mean.toFixed(2)} V` : null, []],
    ['cell', 'Cell voltages', cells ? 'seen' : null, Array.from({ length: series ?? 1 }, (_, i) => String(i + 1))],
    ['surface', 'Surface', surface ? `${surface.mean.toFixed(1)} °C` : null, []],
    ['room', 'Room', newest('surface-temperature') ? '' : null, []],
    ['mass', 'Mass', mass ? `${(mass.mean * 1000).toFixed(0)} g` : null, []],
  ];
  const scales = ruling.limits.filter((l) => /^(pack|cell|heat|imbalance|charge)/.test(l.id)).slice(0, 3);
  return (
    <Card title="Measure" testID="card-measure">
      <Words size={14} soft>
        Leads in V, insulated tips, one hand. Pin-out not known: do not probe.
      </Words>
      <View style={{ flexDirection: 'row', flexWrap: 'wrap', gap: 6 }}>
        {keys.map(([key, title, shown, points]) => (
          <Key
            key={key}
            label={`${title}${shown ? ` ${shown}` : ', not taken'}`}
            height={64}
            style={{ flexGrow: 1, flexBasis: '30%' }}
            onPress={() => onTask(readingTask(facts, series, key, points))}
            testID={`measure-${key}`}
          >
            <Words size={14} soft>
              {title}
            </Words>
            <Figures size={18} bold>
              {shown || '+'}
            </Figures>
          </Key>
        ))}
        <Key
          label="Gauge"
          height={64}
          style={{ flexGrow: 1, flexBasis: '30%' }}
          onPress={() => setGauge(true)}
          testID="measure-gauge"
        >
          <Words size={14} soft>
            Gauge
          </Words>
          <Figures size={18} bold>
            {facts.gauges.length > 0 ? 'read' : '+'}
          </Figures>
        </Key>
      </View>
      {e.charge ? (
        <Words testID="charge">
          {`charge ${percent(e.charge.ofRated)} of rated, from ${e.charge.from}`}
          {e.charge.aboard ? ` · ${e.charge.aboard.lo.toFixed(0)} to ${e.charge.aboard.hi.toFixed(0)} Wh aboard` : ''}
        </Words>
      ) : (
        <Words soft>{`charge not known: ${e.whyNot}`}</Words>
      )}
      {e.health ? (
        <Words>{`health ${e.health.percent.toFixed(0)} %, ${e.health.band}${e.health.trusted ? '' : ' (gauge not to be trusted)'}`}</Words>
      ) : null}
      {ruling.judgement.notExcluded.map((n) => (
        <Words key={n} size={15}>
          {n}
        </Words>
      ))}
      {scales.map((l) => (
        <LimitScale key={`${l.id}${l.point ?? ''}`} limit={l} />
      ))}
      {gauge ? <GaugeSheet facts={facts} series={series} onKeep={onKeep} onClose={() => setGauge(false)} /> : null}
    </Card>
  );
}
