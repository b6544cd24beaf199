import { type PackFacts, parseDigits, type Ruling } from '@gavrel/core';
import { BENCH, benchCsv, benchHours, type BenchRow, isDrawn, orderTroubles, thinned, usualOrder } from '@gavrel/core/discharge';
import { useState } from 'react';
import { View } from 'react-native';
import { draft } from '../../device/write';
import { useAppSelector } from '../../state';
import { useActions } from '../../state/context';
import { useTokens } from '../../theme';
import { Asked } from '../../ui/asked';
import { Button, Choice } from '../../ui/buttons';
import { Field } from '../../ui/field';
import { Row } from '../../ui/frame';
import { clockWords } from '../../ui/say';
import { Sheet } from '../../ui/sheet';
import { Figures, Words } from '../../ui/words';
import { Curve } from './curve';
import type { Bench, Watched } from './use-bench-test';

/** Points of the live curve. */
const POINTS = 60;

/** Charge that flowed so far, Ah: the rows' trapezoids, for the eye; what goes on the record is measured from the log. */
const ampereHours = (rows: readonly BenchRow[]): number =>
  rows.reduce((sum, r, i) => {
    const before = rows[i - 1];
    return before ? sum + (((r.amperes + before.amperes) / 2) * (r.seconds - before.seconds)) / 3600 : 0;
  }, 0);

const duration = (seconds: number): string => {
  if (seconds < 60) return `${Math.floor(seconds)} s`;
  const minutes = Math.floor(seconds / 60);
  return minutes < 60 ? `${minutes} min` : `${Math.floor(minutes / 60)} h ${minutes % 60} min`;
};

/** Figures and curve of a test, as they come. */
function Live({ test }: { test: Watched }) {
  const t = useTokens();
  const last = test.rows[test.rows.length - 1];
  if (!last && test.end) return null;
  if (!last) return <Words live>Asking the load</Words>;
  const curve = thinned(
    test.rows.map((r) => r.seconds / 3600),
    test.rows.map((r) => r.volts),
    POINTS,
  );
  return (
    <View style={{ gap: 8 }} testID="bench-live">
      <Row style={{ justifyContent: 'space-between' }}>
        <Figures size={34} bold>{`${last.volts.toFixed(2)} V`}</Figures>
        {/* A current that was is none that is, and whether a load that fell silent still draws one nobody knows. */}
        <Figures size={34} bold>
          {test.end ? (test.end.off ? 'off' : 'not known') : `${last.amperes.toFixed(2)} A`}
        </Figures>
      </Row>
      <Row style={{ justifyContent: 'space-between' }}>
        <Figures>{`${ampereHours(test.rows).toFixed(3)} Ah in ${duration(last.seconds)}`}</Figures>
        <Figures>{last.celsius === null ? 'no probe' : `${last.celsius.toFixed(1)} °C`}</Figures>
      </Row>
      <Curve points={curve} second={null} ground={t.ground} />
    </View>
  );
}

/** What is told before a current flows. */
function Begin({
  facts,
  ruling,
  onBegin,
}: {
  facts: PackFacts;
  ruling: Ruling;
  onBegin: (order: { pack: string; amperes: number; cutOff: number }) => Promise<void>;
}) {
  const usual = usualOrder(ruling)!;
  const [amperes, setAmperes] = useState(String(usual.amperes));
  const [cutOff, setCutOff] = useState(String(usual.cutOff));
  const [asked, setAsked] = useState(false);
  const order = { amperes: Number(parseDigits(amperes) ?? NaN), cutOff: Number(parseDigits(cutOff) ?? NaN) };
  const troubles = orderTroubles(ruling, order);
  return (
    <>
      <Words bold>Stay beside it, on a bench where nothing can burn. Stop it when the pack grows warm, swells or smells.</Words>
      <Words>{`It stops at ${BENCH.hot} °C where the load has a probe on the pack; without one, hold the back of a hand near it every few minutes.`}</Words>
      <Field label="Current, A" value={amperes} onChange={setAmperes} longest={8} testID="bench-amperes" />
      <Field label="Stops at, V" value={cutOff} onChange={setCutOff} longest={8} testID="bench-cut-off" />
      <Words
        size={15}
        soft
      >{`Usual: a fifth of its capacity an hour, down to ${BENCH.cutOff.usual} V a cell. For a health figure it begins full.`}</Words>
      <Asked words={troubles[0] ?? null} />
      <Button
        label={asked ? 'Asking the load' : `Draw ${amperes} A from ${facts.tag}`}
        tone="next"
        height={64}
        disabled={asked || troubles.length > 0}
        onPress={() => {
          setAsked(true);
          void onBegin({ pack: facts.id, ...order }).finally(() => setAsked(false));
        }}
        testID="bench-begin"
      />
    </>
  );
}

/** A discharge of this pack on an electronic load: begun, watched, stopped, and its log handed on. */
export function BenchTestSheet({
  facts,
  ruling,
  bench,
  refusals,
  onLog,
  onClose,
}: {
  facts: PackFacts;
  ruling: Ruling;
  bench: Bench;
  /** Why no current may be drawn from it. */
  refusals: readonly string[];
  onLog: (file: File) => void;
  onClose: () => void;
}) {
  const actions = useActions();
  const { loads, load, choose, test, trouble, begin, stop } = bench;
  const [again, setAgain] = useState(false);
  const others = useAppSelector((s) =>
    test && test.pack !== facts.id ? (s.logbook.packs[test.pack]?.tag ?? 'another pack') : null,
  );
  const mine = test !== null && others === null && !(again && test.end !== null) ? test : null;
  const runs = test !== null && test.end === null;
  const drew = mine !== null && isDrawn(mine.rows, mine);
  const onBegin = async (order: { readonly pack: string; readonly amperes: number; readonly cutOff: number }) => {
    const flowed = await begin(order);
    setAgain(false);
    if (!flowed) return;
    // Its charge is another from now on, and no loss at rest.
    const hours = benchHours(ruling, order.amperes);
    const down = draft('brought-down', [`pack:${facts.id}`], { to: 0, how: 'load', hours });
    await actions.write([down], `${facts.tag} in a test on ${load.name}`);
  };
  const [stopping, setStopping] = useState(false);
  const off = () => {
    setStopping(true);
    void stop().finally(() => setStopping(false));
  };
  return (
    <Sheet
      title={`Test on ${load.name}`}
      onClose={onClose}
      footer={
        runs ? (
          <Button
            label={stopping ? 'Switching it off' : 'Stop'}
            tone="critical"
            height={72}
            disabled={stopping}
            onPress={off}
            testID="bench-stop"
          />
        ) : undefined
      }
    >
      {loads.length > 1 ? <Choice label="Load" options={loads.map((l) => l.name)} value={load.name} onChange={choose} /> : null}
      {runs && others !== null ? <Words bold>{`${load.name} is in a test of ${others}.`}</Words> : null}
      {mine ? <Words size={15} soft>{`Begun ${clockWords(mine.began)} by ${mine.by}`}</Words> : null}
      {mine ? <Live test={mine} /> : null}
      {mine?.end ? (
        <>
          <Words bold live testID="bench-end">
            {mine.end.words}
          </Words>
          {drew ? <Words>Its charge is another now: after a rest, read its cells or its gauge.</Words> : null}
          {drew ? (
            <Button
              label="Measure this log"
              tone="next"
              height={64}
              onPress={() => {
                onLog(new File([benchCsv(mine.rows, mine.began)], `bench test ${mine.began}.csv`, { type: 'text/csv' }));
                onClose();
              }}
              testID="bench-measure"
            />
          ) : null}
          {refusals.length === 0 ? <Button label="Another test" onPress={() => setAgain(true)} testID="bench-again" /> : null}
        </>
      ) : null}
      {runs && mine ? (
        <Words size={15} soft>
          It goes on while this pack stands on a screen; five minutes without, and it stops.
        </Words>
      ) : null}
      {refusals.length > 0 && !runs ? <Words bold>{refusals[0]}</Words> : null}
      {!runs && !mine && refusals.length === 0 ? <Begin key={load.id} facts={facts} ruling={ruling} onBegin={onBegin} /> : null}
      {trouble ? (
        <Words bold live testID="bench-trouble">
          {trouble}
        </Words>
      ) : null}
    </Sheet>
  );
}
