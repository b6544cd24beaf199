import type { PackFacts } from '../logbook/fold';
import type { Nature } from '../pack/nature';
import { judge, type Limit } from '../quantity/limit';
import { differenceOfSame, expanded } from '../quantity/uncertainty';
import { groupByPoint, type Series, seriesOf } from './series';
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

/** One loss of voltage at rest, between two readings. */
interface Drift {
  /** mV a day and cell. */
  readonly rate: number;
  readonly u: number;
  readonly days: number;
}

/** A reading of one point, as a number to compare: many hundred of them are compared each with each. */
interface Rested {
  readonly days: number;
  /** V of one cell. */
  readonly volts: number;
  readonly instrument: string;
  readonly digits: number;
  readonly step: number;
  /** How often something was done with the pack before. */
  readonly worked: number;
  readonly fitted: boolean;
  readonly entries: readonly string[];
}

/** 12.300 V over three cells is 4.1 V, not a hair above it: without the dust of dividing. */
const perCell = (volts: number, cells: number): number => Math.round((volts / cells) * 1e13) / 1e13;

/** @param cells in series that the readings are of. */
function restedOf(all: readonly Series[], cells: number, worked: PackFacts['worked']): Rested[] {
  const done = [...worked].sort((a, b) => (a.at < b.at ? -1 : a.at > b.at ? 1 : 0));
  let n = 0;
  return [...all]
    .sort((a, b) => (a.at < b.at ? -1 : 1))
    .map(({ at, mean, instrument, digits, step, entries }) => {
      while (n < done.length && done[n]!.at <= at) n++;
      const fitted = n > 0 && done[n - 1]!.fitted;
      return { days: Date.parse(at) / DAY_MS, volts: perCell(mean, cells), instrument, digits, step, worked: n, fitted, entries };
    });
}

/** What was lost above the middle counts in full even where the cell went on to fall below it. */
const lostBetween = (from: number, to: number): number =>
  from - Math.max(to, Math.min(from, MIDDLE)) + Math.max(0, Math.min(from, MIDDLE) - to) / STEEPER;

interface Tally {
  worst: Drift | null;
  /** Entries of every two readings between which it lost as a soft short would. */
  readonly short: Set<string>;
}

/** Each two readings of one point with one instrument, the pack in no machine and nothing done with it between them. */
function compare(all: readonly Rested[], cells: number, tally: Tally): void {
  for (const [i, a] of all.entries()) {
    if (a.fitted) continue;
    for (let k = i + 1; k < all.length; k++) {
      const b = all[k]!;
      if (b.worked !== a.worked) break;
      const days = b.days - a.days;
      if (days < LEAST_DAYS || a.instrument !== b.instrument) continue;
      if (a.volts > FULL && days < SETTLING_DAYS) continue;
      const rate = (lostBetween(a.volts, b.volts) * 1000) / days;
      const { worst } = tally;
      // Any uncertainty makes less of it.
      if (worst !== null && rate <= worst.rate - worst.u && rate <= DRIFT_SHORT) continue;
      const apart = expanded(differenceOfSame(Math.max(a.digits, b.digits), Math.max(a.step, b.step)));
      const u = (apart * 1000) / cells / days;
      if (days < TELLING_DAYS && judge(rate, u, DRIFT_SUSPECT, 'max') !== 'fail') continue;
      if (worst === null || rate - u > worst.rate - worst.u) tally.worst = { rate, u, days };
      if (judge(rate, u, DRIFT_SHORT, 'max') === 'fail') for (const id of [...a.entries, ...b.entries]) tally.short.add(id);
    }
  }
}

export interface DriftJudged {
  readonly findings: readonly { readonly code: string; readonly entries: readonly string[] }[];
  readonly unclear: readonly string[];
  readonly limit: Limit | null;
}

/**
 * A pack that loses more than usual at rest is not vouched for; one that loses as a soft short would is damaged until two people say
 * that it was in use between the readings, all of them. The fastest loss of all decides: of pack volts by their cells, and cell by cell.
 */
export function judgeDrift(facts: PackFacts, nature: Nature): DriftJudged {
  const tally: Tally = { worst: null, short: new Set() };
  const { series } = nature;
  if (series !== null) compare(restedOf(seriesOf(facts.readings, 'pack-voltage'), series, facts.worked), series, tally);
  for (const of of groupByPoint(seriesOf(facts.readings, 'cell-voltage')).values())
    compare(restedOf(of, 1, facts.worked), 1, tally);
  const { worst, short } = tally;
  if (worst === null) return { findings: [], unclear: [], limit: null };
  const verdict = judge(worst.rate, worst.u, DRIFT_SUSPECT, 'max');
  const words = `loses ${worst.rate.toFixed(1)} mV a day and cell at rest`;
  return {
    findings: short.size > 0 ? [{ code: 'drifts', entries: [...short].sort() }] : [],
    unclear: verdict === 'pass' || short.size > 0 ? [] : [`${words}: ${verdict === 'fail' ? 'too fast' : 'too close to tell'}`],
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
