import type { ReadingBody } from '../logbook/entry';
import type { Statement } from '../logbook/fold';
import { step, value } from '../quantity/figure';
import { type Accuracy, combine, limitsOf, rectangular, resolution } from '../quantity/uncertainty';

/** Readings of one quantity at one point, taken in one run of the keypad with one instrument. */
export interface Series {
  readonly point: string;
  readonly at: string;
  readonly entries: readonly string[];
  readonly values: readonly number[];
  readonly mean: number;
  /** Standard uncertainty of one reading and of the mean. */
  readonly uOne: number;
  readonly u: number;
  readonly step: number;
  readonly digits: number;
  readonly restMinutes: number | undefined;
  readonly flow: ReadingBody['flow'];
  readonly instrument: string;
  /** Some of it is questioned: it counts for danger, not as evidence. */
  readonly doubted: boolean;
}

const VOLTS: Accuracy = { percent: 1, digits: 5 };
const CALLIPER: Accuracy = { percent: 0, digits: 0, fixed: 0.1 };
const PROBE: Accuracy = { percent: 0, digits: 0, fixed: 3 };

/** A reading without an instrument has the worst usual accuracy of its kind. Common practice, no source. */
export const WORST_USUAL: Record<ReadingBody['quantity'], Accuracy> = {
  'pack-voltage': VOLTS,
  'cell-voltage': VOLTS,
  thickness: CALLIPER,
  'new-thickness': CALLIPER,
  'surface-temperature': PROBE,
  'room-temperature': PROBE,
  mass: { percent: 2, digits: 0 },
};

/** The run of the keypad a reading belongs to; readings of older devices, which name none, by the minute they were taken in. */
const runOf = (r: Statement<ReadingBody>): string => r.body.set?.id ?? r.at.slice(0, 16);

function average(group: readonly Statement<ReadingBody>[], doubted: boolean): Series {
  const values = group.map((r) => value(r.body.figure));
  const n = values.length;
  const mean = values.reduce((a, b) => a + b, 0) / n;
  const first = group[0]!;
  const d = Math.max(...group.map((r) => step(r.body.figure)));
  const accuracy = first.body.instrument?.accuracy ?? WORST_USUAL[first.body.quantity];
  const uOne = Math.max(rectangular(limitsOf(accuracy, mean, d)), resolution(d));
  const s = n > 1 ? Math.sqrt(values.reduce((a, x) => a + (x - mean) ** 2, 0) / (n - 1)) : 0;
  const rests = group.map((r) => r.body.restMinutes);
  return {
    point: first.body.point ?? '',
    at: group.map((r) => r.at).sort()[n - 1]!,
    entries: group.map((r) => r.id).sort(),
    values,
    mean,
    uOne,
    u: combine(uOne, s / Math.sqrt(n)),
    step: d,
    digits: accuracy.digits,
    restMinutes: rests.some((r) => r === undefined) ? undefined : Math.min(...(rests as number[])),
    flow: first.body.flow,
    instrument: first.body.instrument?.name ?? '',
    doubted,
  };
}

/**
 * Groups readings into series and averages each; the spread of repeats adds to the instrument's own uncertainty. A series of which a part
 * is questioned stands twice: whole, for danger, and without that part, as evidence.
 */
export function seriesOf(readings: readonly Statement<ReadingBody>[], quantity: ReadingBody['quantity']): readonly Series[] {
  const known = grouped.get(readings) ?? new Map<ReadingBody['quantity'], readonly Series[]>();
  grouped.set(readings, known);
  const before = known.get(quantity);
  if (before) return before;
  const made = group(readings, quantity);
  known.set(quantity, made);
  return made;
}

/** Facts never change in place: one ruling asks for the same series a dozen times. */
const grouped = new WeakMap<readonly Statement<ReadingBody>[], Map<ReadingBody['quantity'], readonly Series[]>>();

function group(readings: readonly Statement<ReadingBody>[], quantity: ReadingBody['quantity']): Series[] {
  const groups = new Map<string, Statement<ReadingBody>[]>();
  for (const r of readings) {
    if (r.body.quantity !== quantity) continue;
    const key = `${r.body.point ?? ''}|${runOf(r)}|${r.body.instrument?.name ?? ''}`;
    const group = groups.get(key);
    if (group) group.push(r);
    else groups.set(key, [r]);
  }
  return [...groups.values()].flatMap((group) => {
    const sure = group.filter((r) => !r.doubted);
    if (sure.length === group.length) return [average(group, false)];
    return [average(group, true), ...(sure.length > 0 ? [average(sure, false)] : [])];
  });
}

/** The latest series that is evidence. */
export function latest(all: readonly Series[]): Series | undefined {
  let last: Series | undefined;
  // Of two of one moment the later in the list, as a stable order leaves it.
  for (const s of all) if (!s.doubted && (last === undefined || s.at >= last.at)) last = s;
  return last;
}

/** Series of each point, in the order in which they came. */
export function groupByPoint(all: readonly Series[]): Map<string, Series[]> {
  const out = new Map<string, Series[]>();
  for (const s of all) {
    const list = out.get(s.point);
    if (list) list.push(s);
    else out.set(s.point, [s]);
  }
  return out;
}
