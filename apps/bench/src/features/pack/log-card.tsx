import { type PackFacts, type Ruling, value } from '@gavrel/core';
import { benchRefusals, type Compared, compareLogs, type LogPhases, type LogResult, type Rated } from '@gavrel/core/discharge';
import { useState } from 'react';
import { View } from 'react-native';
import { chooseFile } from '../../device/picture';
import { useMay } from '../../state/may';
import { useWorker } from '../../state/use-worker';
import { Asked } from '../../ui/asked';
import { Button } from '../../ui/buttons';
import { Card, Row } from '../../ui/frame';
import { Figures, Words } from '../../ui/words';
import { BenchTestSheet } from './bench-test-sheet';
import { Curve } from './curve';
import { KeepLog, LogRecord } from './log-record';
import type { Answer, Order } from './log.worker';
import { useBenchTest } from './use-bench-test';

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
  const measure = async (chosen: File, before: typeof first) => {
    setFile(chosen);
    setFirst(before);
    if (chosen.size > MOST) return setAnswer({ kind: 'trouble', words: 'Larger than 100 MB: cut it into parts.' });
    setAnswer({ kind: 'progress', rows: 0 });
    const { series } = ruling.shipping;
    const { curves, families } = ruling.judgement.nature;
    const bytes = new Uint8Array(await chosen.arrayBuffer());
    ask({ bytes, rated, cells: series === undefined ? null : { series, curves, families } });
  };
  const open = async (before: typeof first) => {
    const chosen = await chooseFile('.csv,.txt,.tsv,text/csv,text/plain');
    if (chosen) await measure(chosen, before);
  };
  const bench = useBenchTest();
  const may = useMay('log-measured');
  const [testing, setTesting] = useState(false);
  const refusals = benchRefusals(ruling);
  const runs = bench?.test?.pack === facts.id && bench.test.end === null;
  return (
    <Card title="Discharge log" testID="card-log">
      <Row>
        <Button label="Open a log" hint="CSV" height={56} onPress={() => open(null)} testID="open-log" />
        {bench && may ? (
          <Button
            label={runs ? 'Watch the test' : 'Test on a load'}
            height={56}
            onPress={() => setTesting(true)}
            testID="bench-test"
          />
        ) : null}
        {answer?.kind === 'done' ? (
          <Button
            label="Compare with another"
            height={56}
            onPress={() => open(file && { done: answer, file })}
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
      {testing && bench ? (
        <BenchTestSheet
          facts={facts}
          ruling={ruling}
          bench={bench}
          refusals={refusals}
          onLog={(log) => void measure(log, null)}
          onClose={() => setTesting(false)}
        />
      ) : null}
    </Card>
  );
}
