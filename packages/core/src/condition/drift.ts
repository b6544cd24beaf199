import type { PackFacts } from '../logbook/fold';
import type { Nature } from '../pack/nature';
import { judge, type Limit } from '../quantity/limit';
import { differenceOfSame, expanded } from '../quantity/uncertainty';
import { type Series, seriesOf } from './series';
import { DAY_MS } from '../quantity/day';

/** mV a day and cell at rest: above the first a pack is suspect, above the second it loses charge inside. Convention, no source. */
export const DRIFT_SUSPECT = 1;
export const DRIFT_SHORT = 3;
/** Shortest time between two readings that says anything, days: sooner the cells still settle. */
const LEAST_DAYS = 2;
/** From here on "too close to tell" means something: what a 1 mV meter needs to part 5 from 2 % a month. */
const TELLING_DAYS = 9.5;
/** Below it a cell falls steeply by itself; the figures are for the flat middle of its curve, V. */
const MIDDLE = 3.6;
/** How many times steeper a nearly empty cell falls: 68 mV a point of charge from 5 % to empty, 5 in the middle of the cobalt tables. */
const STEEPER = 12;
/** After a full charge a cell settles for about a week, days. */
const SETTLING_DAYS = 7;
const FULL = 4.1;

export interface Drift {
  /** mV a day and cell. */
  readonly rate: number;
  readonly u: number;
  readonly days: number;
  readonly entries: readonly string[];
}

/** Two readings of one point with one instrument, the pack in no machine and nothing done with it between them. */
function between(a: Series, b: Series, days: number, cells: number, worked: PackFacts['worked']): Drift | null {
  if (days < LEAST_DAYS || a.instrument !== b.instrument) return null;
  const before = worked.filter((w) => w.at <= a.at).pop();
  if (before?.fitted || worked.some((w) => w.at > a.at && w.at <= b.at)) return null;
  const [from, to] = [a.mean / cells, b.mean / cells];
  if (from > FULL && days < SETTLING_DAYS) return null;
  // What was lost above the middle counts in full even where the cell went on to fall below it.
  const lost = from - Math.max(to, Math.min(from, MIDDLE)) + Math.max(0, Math.min(from, MIDDLE) - to) / STEEPER;
  const u = expanded(differenceOfSame(Math.max(a.digits, b.digits), Math.max(a.step, b.step)));
  return { rate: (lost * 1000) / days, u: (u * 1000) / cells / days, days, entries: [...a.entries, ...b.entries] };
}

/** Every loss of voltage at rest that two readings show: pack volts by their cells, and cell by cell. */
export function driftsOf(facts: PackFacts, nature: Nature): Drift[] {
  const pairs = (list: readonly Series[], cells: number): Drift[] => {
    const all = [...list].sort((a, b) => (a.at < b.at ? -1 : 1));
    const times = all.map((s) => Date.parse(s.at) / DAY_MS);
    const out: Drift[] = [];
    for (let i = 0; i < all.length; i++) {
      for (let k = i + 1; k < all.length; k++) {
        const drift = between(all[i]!, all[k]!, times[k]! - times[i]!, cells, facts.worked);
        if (drift) out.push(drift);
      }
    }
    return out;
  };
  const cells = seriesOf(facts.readings, 'cell-voltage');
  const points = [...new Set(cells.map((s) => s.point))];
  return [
    ...(nature.series === null ? [] : pairs(seriesOf(facts.readings, 'pack-voltage'), nature.series)),
    ...points.flatMap((p) =>
      pairs(
        cells.filter((s) => s.point === p),
        1,
      ),
    ),
  ];
}

export interface DriftJudged {
  readonly findings: readonly { readonly code: string; readonly entries: readonly string[] }[];
  readonly unclear: readonly string[];
  readonly limit: Limit | null;
}

/**
 * A pack that loses more than usual at rest is not vouched for; one that loses as a soft short would is damaged until two people say
 * that it was in use between the readings. The fastest loss of all decides.
 */
export function judgeDrift(drifts: readonly Drift[]): DriftJudged {
  const telling = drifts.filter((d) => d.days >= TELLING_DAYS || judge(d.rate, d.u, DRIFT_SUSPECT, 'max') === 'fail');
  if (telling.length === 0) return { findings: [], unclear: [], limit: null };
  const worst = telling.reduce((a, b) => (b.rate - b.u > a.rate - a.u ? b : a));
  const verdict = judge(worst.rate, worst.u, DRIFT_SUSPECT, 'max');
  const short = telling.filter((d) => judge(d.rate, d.u, DRIFT_SHORT, 'max') === 'fail');
  const words = `loses ${worst.rate.toFixed(1)} mV a day and cell at rest`;
  return {
    findings: short.map((d) => ({ code: 'drifts', entries: d.entries })),
    unclear: verdict === 'pass' || short.length > 0 ? [] : [`${words}: ${verdict === 'fail' ? 'too fast' : 'too close to tell'}`],
    limit: {
      id: 'drift',
      label: 'loss at rest',
      unit: 'mV/day',
      value: worst.rate,
      u: worst.u,
      limit: DRIFT_SUSPECT,
      side: 'max',
      verdict,
      beyond: 'unproven',
      between: 'unproven',
      perReading: worst.days / 1000,
      readingUnit: 'V',
      decimals: 1,
      nature: 'observation',
    },
  };
}
