import type { ReadingBody } from '../logbook/entry';
import type { Noted } from '../logbook/fold';
import { step, value } from '../quantity/figure';
import { combine, limitsOf, rectangular, resolution } from '../quantity/uncertainty';

/** Readings of one quantity at one point, taken in the same minute with one instrument. */
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
  readonly doubted: boolean;
}

/** Groups readings into series and averages each; the spread of repeats adds to the instrument's own uncertainty. */
export function seriesOf(readings: readonly Noted<ReadingBody>[], quantity: ReadingBody['quantity']): Series[] {
  const groups = new Map<string, Noted<ReadingBody>[]>();
  for (const r of readings) {
    if (r.body.quantity !== quantity) continue;
    const key = `${r.body.point ?? ''}|${r.at.slice(0, 16)}|${r.body.instrument?.name ?? ''}|${r.doubted}`;
    groups.set(key, [...(groups.get(key) ?? []), r]);
  }
  return [...groups.values()].map((group) => {
    const values = group.map((r) => value(r.body.figure));
    const n = values.length;
    const mean = values.reduce((a, b) => a + b, 0) / n;
    const first = group[0]!;
    const d = Math.max(...group.map((r) => step(r.body.figure)));
    const accuracy = first.body.instrument?.accuracy;
    // No instrument named: its display step is all that is known of it.
    const uOne = accuracy ? rectangular(limitsOf(accuracy, mean, d)) : resolution(d);
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
      digits: accuracy?.digits ?? 1,
      restMinutes: rests.some((r) => r === undefined) ? undefined : Math.min(...(rests as number[])),
      flow: first.body.flow,
      instrument: first.body.instrument?.name ?? '',
      doubted: first.doubted,
    };
  });
}

/** The latest series that is evidence. */
export function latest(all: readonly Series[]): Series | undefined {
  return all
    .filter((s) => !s.doubted)
    .sort((a, b) => (a.at < b.at ? -1 : a.at > b.at ? 1 : 0))
    .pop();
}
