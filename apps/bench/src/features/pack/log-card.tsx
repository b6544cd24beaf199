import { type PackFacts, type Ruling, value } from '@gavrel/core';
import {
  atSteps,
  type Compared,
  compareLogs,
  type LogPhases,
  type LogResult,
  type Point,
  type Rated,
} from '@gavrel/core/discharge';
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
import { KeepLog, LogRecord } from './log-record';
import type { Answer, Order } from './log.worker';

type Done = Extract<Answer, { kind: 'done' }>;

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

/** What its rests and phases say. */
const phaseLines = ({ restCapacityAh, charging, restDrift }: LogPhases): readonly (readonly [string, string])[] => [
  ...(restCapacityAh ? ([['capacity, by its two rests', span(restCapacityAh, 2, 'Ah')]] as const) : []),
  ...(charging
    ? ([
        ['at constant current', `${charging.constantCurrent.toFixed(2)} h`],
        ['at constant voltage', `${charging.constantVoltage.toFixed(2)} h`],
      ] as const)
    : []),
  ...(restDrift ? ([['loss at rest, a day and cell', span(restDrift, 1, 'mV')]] as const) : []),
];

/** Points along the hours of a drawing. */
const POINTS = 40;

const saidOf = (points: readonly Point[]): string => {
  const [first, last] = [points[0]!, points[points.length - 1]!];
  return `volts from ${first.y.toFixed(2)} to ${last.y.toFixed(2)} in ${last.x.toFixed(1)} hours`;
};

/** Volts over hours; a second log as a thin line over the same hours. */
function Curve({ points, second }: { points: readonly Point[]; second: readonly Point[] | null }) {
  const t = useTokens();
  const [width, setWidth] = useState(0);
  if (points.length < 2 || second?.length === 1) return null;
  const hours = Math.max(points[points.length - 1]!.x, second?.[second.length - 1]?.x ?? 0);
  const step = hours / (POINTS - 1);
  return (
    <View
      role="img"
      aria-label={[saidOf(points), second && `the second: ${saidOf(second)}`].filter(Boolean).join('; ')}
      onLayout={(e) => setWidth(Math.min(520, e.nativeEvent.layout.width))}
    >
      {width > 0 && step > 0 ? (
        <LineChart
          data={{
            labels: (second ? Array.from({ length: POINTS }, (_, i) => i * step) : points.map((p) => p.x)).map((x, i) =>
              i % 10 === 0 ? `${x.toFixed(1)} h` : '',
            ),
            datasets: [
              // The peaks of a log alone are kept; two are drawn over the same hours.
              {
                data: second ? atSteps(points, step, POINTS) : points.map((p) => p.y),
                color: () => t.accent,
                strokeWidth: 3,
              },
              ...(second ? [{ data: atSteps(second, step, POINTS), color: () => t.ink, strokeWidth: 1 }] : []),
            ],
          }}
          width={width}
          height={180}
          yAxisSuffix=" V"
          withDots={false}
          decimals={2}
        />
      ) : null}
      {second ? (
        <Words size={14} soft>
          thick: the first; thin: the second
        </Words>
      ) : null}
    </View>
  );
}

const comparedOf = ({ result, curve }: Done): Compared => ({
  result,
  startVolts: curve[0]?.y ?? 0,
  endVolts: curve[curve.length - 1]?.y ?? 0,
});

/** "4 to 9 % less", "no difference that can be told". */
export function changeWords(i: { readonly lo: number; readonly hi: number }): string {
  // Rounding leaves a minus before nothing otherwise.
  const whole = (x: number) => String(Math.round(x) + 0);
  if (i.lo <= 0 && i.hi >= 0) return `no difference that can be told (${whole(i.lo)} to ${whole(i.hi)} %)`;
  const [near, far] = [Math.abs(i.lo), Math.abs(i.hi)].sort((a, b) => a - b);
  return `${whole(near!)} to ${whole(far!)} % ${i.hi < 0 ? 'less' : 'more'}`;
}

/** The second log against the first: what changed, and what of how they were taken differs. */
function Comparison({ first, second }: { first: Done; second: Done }) {
  const { unlike, charge, energy, resistance } = compareLogs(comparedOf(first), comparedOf(second));
  const rows = [
    ['charge', charge],
    ['energy', energy],
    ['resistance', resistance],
  ] as const;
  return (
    <View testID="log-comparison" style={{ gap: 4 }}>
      <Words bold>The second against the first</Words>
      {unlike.length > 0 ? <Words bold>{`Not taken alike: ${unlike.join('; ')}.`}</Words> : null}
      {rows.map(([name, i]) =>
        i === null ? null : (
          <Row key={name} style={{ justifyContent: 'space-between' }}>
            <Words>{name}</Words>
            <Figures bold>{changeWords(i)}</Figures>
          </Row>
        ),
      )}
    </View>
  );
}

/** Discharge logs of this pack: one is measured here against its label, and goes on its record when somebody keeps it. */
export function LogCard({ facts, ruling }: { facts: PackFacts; ruling: Ruling }) {
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
  // What was measured before another one was opened to compare it with.
  const [first, setFirst] = useState<{ readonly done: Done; readonly file: File } | null>(null);
  const [file, setFile] = useState<File | null>(null);
  const back = () => {
    setAnswer(first?.done ?? null);
    setFile(first?.file ?? null);
    setFirst(null);
  };
  const open = async (before: typeof first) => {
    const chosen = await chooseFile('.csv,.txt,.tsv,text/csv,text/plain');
    if (!chosen) return;
    setFile(chosen);
    setFirst(before);
    if (chosen.size > MOST) return setAnswer({ kind: 'trouble', words: 'Larger than 100 MB: cut it into parts.' });
    setAnswer({ kind: 'progress', rows: 0 });
    const { series } = ruling.shipping;
    const { curves, families } = ruling.judgement.nature;
    ask({ text: await chosen.text(), rated, cells: series === undefined ? null : { series, curves, families } });
  };
  return (
    <Card title="Discharge log" testID="card-log">
      <Row>
        <Button label="Open a log" hint="CSV" height={56} onPress={() => void open(null)} testID="open-log" />
        {answer?.kind === 'done' ? (
          <Button
            label="Compare with another"
            height={56}
            onPress={() => void open(file && { done: answer, file })}
            testID="compare-log"
          />
        ) : null}
        {answer?.kind === 'progress' ? <Button label="Stop" height={56} onPress={() => (stop(), back())} /> : null}
        {answer?.kind === 'trouble' && first ? <Button label="Back to the first" height={56} onPress={back} /> : null}
      </Row>
      {answer?.kind === 'progress' ? <Words live>{`${answer.rows} rows read`}</Words> : null}
      <Asked words={answer?.kind === 'trouble' ? answer.words : null} />
      {answer?.kind === 'done' ? (
        <>
          {[...logLines(answer.result), ...phaseLines(answer.phases)].map(([name, figure]) => (
            <Row key={name} style={{ justifyContent: 'space-between' }}>
              <Words>{name}</Words>
              <Figures bold>{figure}</Figures>
            </Row>
          ))}
          {first ? <Comparison first={first.done} second={answer} /> : null}
          <Curve points={(first?.done ?? answer).curve} second={first ? answer.curve : null} />
          {answer.result.remarks.map((r) => (
            <Words key={r}>{r}</Words>
          ))}
          {file && !answer.result.isCharge ? <KeepLog facts={facts} file={file} result={answer.result} /> : null}
          <Words size={15} soft>
            Compare only at like temperature and current.
          </Words>
        </>
      ) : null}
      <LogRecord facts={facts} />
    </Card>
  );
}
