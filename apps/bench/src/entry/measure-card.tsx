import { latest, type Ruling, seriesOf } from '@gavrel/core';
import { useState } from 'react';
import { View } from 'react-native';
import { Card } from '../ui/frame';
import { Button } from '../ui/buttons';
import { LimitScale } from '../ui/limit-scale';
import { Figures, Words } from '../ui/words';
import { CellsSheet } from './cells-sheet';
import { CellsTold } from './cells-told';
import { CycleKey } from './cycle-key';
import { GaugeSheet } from './gauge-sheet';
import { type ReadingKey, readingTask } from './tasks';
import type { NumberCardProps } from './card';
import { HealthTrend } from './health-trend';

/** Cells by their place from the negative end. */
const cellPoints = (n: number) => Array.from({ length: n }, (_, i) => String(i + 1));

const percent = (i: { lo: number; hi: number }) => `${Math.round(i.lo)} to ${Math.round(i.hi)} %`;

/** Charge and health as intervals, or why they are not known. */
function ElectricalTold({ e }: { e: Ruling['electrical'] }) {
  return (
    <>
      {e.charge ? (
        <Words testID="charge">
          {`charge ${percent(e.charge.ofFull)} of full, from ${e.charge.from}`}
          {e.charge.aboard ? ` · ${e.charge.aboard.lo.toFixed(0)} to ${e.charge.aboard.hi.toFixed(0)} Wh aboard` : ''}
          {`; rules count it as up to ${Math.ceil(e.charge.ofRated.hi)} % of rated`}
        </Words>
      ) : (
        <Words soft>{`charge not known: ${e.whyNot}`}</Words>
      )}
      {e.health ? (
        <Words>{`health ${e.health.percent.toFixed(0)} %, ${e.health.band}${e.health.trusted ? '' : ' (gauge not to be trusted)'}`}</Words>
      ) : null}
    </>
  );
}

/** Voltage, cells, temperature, mass, gauge; each opens the keypad. */
export function MeasureCard({ facts, ruling, onTask, onKeep }: NumberCardProps) {
  const [gauge, setGauge] = useState(false);
  const [counting, setCounting] = useState(false);
  const { nature } = ruling.judgement;
  // One of several counts that may be true is no count.
  const series = nature.candidates.length > 1 ? null : nature.series;
  const e = ruling.electrical;
  const newest = (q: 'pack-voltage' | 'surface-temperature' | 'room-temperature' | 'mass') => latest(seriesOf(facts.readings, q));
  const volts = newest('pack-voltage');
  const surface = newest('surface-temperature');
  const room = newest('room-temperature');
  const mass = newest('mass');
  const cells =
    facts.gauges.flatMap((g) => g.body.cellVoltages ?? []).length > 0 ||
    facts.readings.some((r) => r.body.quantity === 'cell-voltage');
  const keys: readonly (readonly [ReadingKey, string, string | null, readonly string[]])[] = [
    ['volts', 'Pack voltage', volts ? `${volts.mean.toFixed(2)} V` : null, []],
    ['cell', 'Cell voltages', cells ? 'seen' : null, cellPoints(series ?? 1)],
    ['surface', 'Surface', surface ? `${surface.mean.toFixed(1)} °C` : null, []],
    ['room', 'Room', room ? `${room.mean.toFixed(1)} °C` : null, []],
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
          <Button
            key={key}
            label={`${title}${shown ? ` ${shown}` : ', not taken'}`}
            height={64}
            style={{ flexGrow: 1, flexBasis: '30%' }}
            onPress={() =>
              // How many cells a set should have is said before the first is taken.
              key === 'cell' && series === null ? setCounting(true) : onTask(readingTask(facts, series, key, points))
            }
            testID={`measure-${key}`}
          >
            <Words size={14} soft>
              {title}
            </Words>
            <Figures size={18} bold>
              {shown || '+'}
            </Figures>
          </Button>
        ))}
        <Button
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
        </Button>
      </View>
      <ElectricalTold e={ruling.electrical} />
      <HealthTrend facts={facts} label={ruling.judgement.label.sure} />
      <CellsTold facts={facts} ruling={ruling} />
      {ruling.judgement.asked.map((a) => (
        <Words key={a} size={15} bold>
          {a}
        </Words>
      ))}
      {ruling.judgement.notExcluded.map((n) => (
        <Words key={n} size={15}>
          {n}
        </Words>
      ))}
      {scales.map((l) => (
        <LimitScale key={`${l.id}${l.point ?? ''}`} limit={l} />
      ))}
      {e.cellsSeen || !['unproven', 'sound', 'spent'].includes(ruling.judgement.condition) ? null : (
        <CycleKey facts={facts} onKeep={onKeep} />
      )}
      {counting ? (
        <CellsSheet
          facts={facts}
          ruling={ruling}
          onKeep={onKeep}
          onClose={() => setCounting(false)}
          onCounted={(n) => onTask(readingTask(facts, n, 'cell', cellPoints(n)))}
        />
      ) : null}
      {gauge ? <GaugeSheet facts={facts} series={series} onKeep={onKeep} onClose={() => setGauge(false)} /> : null}
    </Card>
  );
}
