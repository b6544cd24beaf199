import {
  type CapacityUnit,
  type Figure,
  type GaugeBody,
  type PackFacts,
  parseDigits,
  type VoltUnit,
  counted,
} from '@gavrel/core';
import { parseGaugeText, type ReportedBattery } from '@gavrel/core/job';
import { useState } from 'react';
import { View } from 'react-native';
import { draft } from '../device/write';
import { useDraft } from '../state/use-draft';
import { Asked, KeepKey } from '../ui/asked';
import { Button } from '../ui/buttons';
import { Field } from '../ui/field';
import { Sheet } from '../ui/sheet';
import { Words } from '../ui/words';
import type { Keep } from './card';
import { ReportKeys } from './report-key';
import { Reported } from './reported';
import { ShownHere } from './shown-here';
import { milliampHours } from './tasks';
import { useRecord } from './use-record';

/** What a reader sent, as batteries; why it cannot be read where it cannot. */
function useReported() {
  const [reported, setReported] = useState<readonly ReportedBattery[]>([]);
  const [unread, setUnread] = useState('');
  const take = (text: string) => {
    try {
      setReported(parseGaugeText(text));
      setUnread('');
    } catch (e) {
      setReported([]);
      setUnread((e as Error).message);
    }
  };
  return { reported, unread, take };
}

const NOTHING = { typedAt: 0, design: '', full: '', left: '', error: '', cycles: '', cells: '' };
const FRESH_MS = 15 * 60_000;

/** What is typed. It is of its moment: left lying longer than a quarter of an hour it would be kept with a time that is not its own. */
function useTyped(pack: string) {
  const [form, setForm, done] = useDraft(`gauge ${pack}`, NOTHING);
  const [opened] = useState(Date.now);
  const fresh = opened - form.typedAt > FRESH_MS ? NOTHING : form;
  const set = (f: Exclude<keyof typeof form, 'typedAt'>) => (x: string) =>
    setForm({ ...fresh, [f]: x, typedAt: fresh.typedAt || Date.now() });
  return [fresh, set, done] as const;
}

/** What the pack's own gauge says: typed off a screen, or read by a reader that talks. */
export function GaugeSheet({
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
  const [{ design, full, left, error, cycles, cells }, set, done] = useTyped(facts.id);
  const read = (t: string) => (t.trim() === '' ? undefined : parseDigits(t));
  const typed = { design: read(design), full: read(full), left: read(left), error: read(error), cycles: read(cycles) };
  const volts = cells.trim() === '' ? [] : cells.trim().split(/\s+/).map(parseDigits);
  const bad =
    Object.values(typed).some((v) => v === null) ||
    volts.some((v) => v === null) ||
    (series !== null && volts.length > 0 && volts.length !== series);
  const zero = [typed.design, typed.full].some((v) => v && Number(v) <= 0) || volts.some((v) => v && Number(v) <= 0);
  const record = useRecord(facts.id);
  const [asked, setAsked] = useState('');
  const { reported, unread, take } = useReported();
  const some = [typed.design, typed.full, typed.left].some((v) => v) || volts.length > 0;
  const keep = async () => {
    const cap = (d: string | null | undefined): Figure<CapacityUnit> | undefined => (d ? milliampHours(d) : undefined);
    const d = cap(typed.design);
    const f = cap(typed.full);
    const r = cap(typed.left);
    await say({
      ...(d && { designCapacity: d }),
      ...(f && { fullChargeCapacity: f }),
      ...(r && { remainingCapacity: r }),
      ...(typed.error && { maxError: Number(typed.error) }),
      ...(typed.cycles && { cycleCount: Math.round(Number(typed.cycles)) }),
      ...(volts.length > 0 && { cellVoltages: volts.map((v): Figure<VoltUnit> => ({ digits: v!, unit: 'V' })) }),
    });
  };
  const say = async (body: GaugeBody) => {
    const said = draft('gauge-read', [`pack:${facts.id}`], body);
    const asks = record.asks([said]).join('\n');
    if (asks !== '' && asks !== asked) return setAsked(asks);
    await onKeep(said, 'gauge');
    done();
    onClose();
  };
  return (
    <Sheet
      title="Gauge"
      onClose={onClose}
      footer={
        <KeepKey asked={reported.length === 0 ? asked : ''} disabled={bad || zero || !some} onKeep={keep} testID="keep-gauge" />
      }
    >
      <ShownHere kind="gauge-read" />
      <ReportKeys onText={take} />
      {reported.map((b, i) => (
        <View key={i} style={{ gap: 6 }}>
          <Reported b={b} />
          <Asked words={asked} />
          {Object.keys(b.gauge).length > 0 ? (
            <Button
              label={asked ? 'Keep it all the same' : 'Keep what it says'}
              tone="next"
              height={56}
              onPress={() => say(b.gauge)}
              testID="keep-reported"
            />
          ) : null}
        </View>
      ))}
      {unread ? <Words bold>{unread}</Words> : null}
      <Field label="Charge left, mAh" value={left} onChange={set('left')} testID="gauge-left" />
      <Field label="Full-charge capacity, mAh" value={full} onChange={set('full')} testID="gauge-full" />
      <Field label="Design capacity, mAh" value={design} onChange={set('design')} testID="gauge-design" />
      <Field
        label={`Cell voltages in V, with spaces${series ? ` (${series})` : ''}`}
        value={cells}
        onChange={set('cells')}
        testID="gauge-cells"
      />
      <Field label="Max error, %" value={error} onChange={set('error')} testID="gauge-error" />
      <Field label="Cycle count" value={cycles} onChange={set('cycles')} testID="gauge-cycles" />
      {bad ? <Words bold>{`Numbers only${series ? `, and ${counted(series, 'cell voltage')}` : ''}.`}</Words> : null}
      {zero ? <Words bold>A capacity or a cell of 0 is nothing real: leave out what the gauge does not tell.</Words> : null}
      {reported.length === 0 ? <Asked words={asked} /> : null}
    </Sheet>
  );
}
