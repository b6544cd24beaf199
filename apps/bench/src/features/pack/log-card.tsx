import { type Ruling, value } from '@gavrel/core';
import type { LogResult, Point, Rated } from '@gavrel/core/discharge';
import { useState } from 'react';
import { View } from 'react-native';
import { chooseFile } from '../../device/picture';
import { useWorker } from '../../state/use-worker';
import { useTokens } from '../../theme';
import { Asked } from '../../ui/asked';
import { Button } from '../../ui/buttons';
import { LineChart } from '../../ui/chart';
import { Card, Row } from '../../ui/frame';
import { Figures, Words } from '../../ui/words';
import type { Answer, Order } from './log.worker';

/** Larger files are cut into parts before they come here, bytes. */
const MOST = 100_000_000;

const span = (i: { lo: number; hi: number }, digits: number, unit: string): string =>
  `${i.lo.toFixed(digits)} to ${i.hi.toFixed(digits)} ${unit}`;

/** What a log says, each figure as an interval. */
export const logLines = (r: LogResult): readonly (readonly [string, string])[] => [
  ['charge', span(r.capacityAh, 3, 'Ah')],
  ['energy', span(r.energyWh, 2, 'Wh')],
  ...(r.healthPercent ? ([['of the label', span(r.healthPercent, 0, '%')]] as const) : []),
  ...(r.fullCycles ? ([['full cycles', `${r.fullCycles.lo.toFixed(2)} to ${r.fullCycles.hi.toFixed(2)}`]] as const) : []),
  ...(r.resistanceOhm ? ([['resistance', span(r.resistanceOhm, 3, 'Ω')]] as const) : []),
  ...(r.resistance25Ohm ? ([['resistance at 25 °C', span(r.resistance25Ohm, 3, 'Ω')]] as const) : []),
  ...(r.celsius ? ([['temperature', span(r.celsius, 0, '°C')]] as const) : []),
  ['mean current', `${r.meanAmperes.toFixed(3)} A`],
];

/** Volts over hours, few points that keep the peaks. */
function Curve({ points }: { points: readonly Point[] }) {
  const t = useTokens();
  const [width, setWidth] = useState(0);
  if (points.length < 2) return null;
  const [first, last] = [points[0]!, points[points.length - 1]!];
  const said = `volts from ${first.y.toFixed(2)} to ${last.y.toFixed(2)} in ${last.x.toFixed(1)} hours`;
  return (
    <View role="img" aria-label={said} onLayout={(e) => setWidth(Math.min(520, e.nativeEvent.layout.width))}>
      {width > 0 ? (
        <LineChart
          data={{
            labels: points.map((p, i) => (i % 10 === 0 ? `${p.x.toFixed(1)} h` : '')),
            datasets: [{ data: points.map((p) => p.y), color: () => t.accent, strokeWidth: 3 }],
          }}
          width={width}
          height={180}
          yAxisSuffix=" V"
          withDots={false}
          decimals={2}
        />
      ) : null}
    </View>
  );
}

/** A discharge log of this pack, measured here: shown against its label, and not on its record. */
export function LogCard({ ruling }: { ruling: Ruling }) {
  const { answer, setAnswer, ask, stop } = useWorker<Order, Answer>(
    () => new Worker(new URL('./log.worker', import.meta.url)),
    'the log could not be measured: open it again',
  );
  const { ratedCapacity, ratedEnergy } = ruling.judgement.label.sure;
  const rated: Rated = ratedCapacity
    ? { ampereHours: value(ratedCapacity) }
    : ratedEnergy
      ? { wattHours: value(ratedEnergy) }
      : {};
  const open = async () => {
    const file = await chooseFile('.csv,.txt,.tsv,text/csv,text/plain');
    if (!file) return;
    if (file.size > MOST) return setAnswer({ kind: 'trouble', words: 'Larger than 100 MB: cut it into parts.' });
    setAnswer({ kind: 'progress', rows: 0 });
    ask({ text: await file.text(), rated, cells: ruling.shipping.series ?? null });
  };
  return (
    <Card title="Discharge log" testID="card-log">
      <Row>
        <Button label="Open a log" hint="CSV" height={56} onPress={() => void open()} testID="open-log" />
        {answer?.kind === 'progress' ? <Button label="Stop" height={56} onPress={() => (stop(), setAnswer(null))} /> : null}
      </Row>
      {answer?.kind === 'progress' ? <Words live>{`${answer.rows} rows read`}</Words> : null}
      <Asked words={answer?.kind === 'trouble' ? answer.words : null} />
      {answer?.kind === 'done' ? (
        <>
          {logLines(answer.result).map(([name, figure]) => (
            <Row key={name} style={{ justifyContent: 'space-between' }}>
              <Words>{name}</Words>
              <Figures bold>{figure}</Figures>
            </Row>
          ))}
          <Curve points={answer.curve} />
          {answer.result.remarks.map((r) => (
            <Words key={r}>{r}</Words>
          ))}
          <Words size={15} soft>
            Shown, not on its record. Compare only at like temperature and current.
          </Words>
        </>
      ) : null}
    </Card>
  );
}
