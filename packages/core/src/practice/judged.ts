import { condition } from '../condition/condition';
import type { Condition } from '../logbook/entry-yard';
import { DEFAULT_POLICY, foldPack } from '../logbook/fold';
import { type Act, measured, SIMULATED_PACK } from './measure';
import { randomOf } from './random';
import { dangerous, type Fault, simulate } from './world';

/** What became of many simulated packs. */
export interface Tally {
  readonly packs: number;
  readonly dangerous: number;
  /** Dangerous ones that ended sound, by what was wrong with them. */
  readonly missed: Readonly<Partial<Record<Fault, number>>>;
  /** The seed of the first that was missed, to look at it. */
  readonly firstMissed: number | null;
  /** Packs with nothing wrong, by what they ended as. */
  readonly harmless: Readonly<Partial<Record<Condition, number>>>;
  /** Dangerous packs by what they ended as. */
  readonly harmful: Readonly<Partial<Record<Condition, number>>>;
  /** Intervals of the charge that were told, and those that hold the true one. */
  readonly intervals: number;
  readonly covered: number;
}

const START = Date.parse('2026-11-01T08:00:00.000Z');

const more = <K extends string>(of: Readonly<Partial<Record<K, number>>>, k: K, n = 1): Partial<Record<K, number>> => ({
  ...of,
  [k]: (of[k] ?? 0) + n,
});

/**
 * Judges simulated packs by the same fold and the same condition as real ones, and holds each against what it truly is.
 * @param seed of the first; each pack has its own. @param without acts that were left out.
 */
export function judgePacks(seed: number, count: number, without: ReadonlySet<Act> = new Set()): Tally {
  let t: Tally = {
    packs: count,
    dangerous: 0,
    missed: {},
    firstMissed: null,
    harmless: {},
    harmful: {},
    intervals: 0,
    covered: 0,
  };
  for (let i = 0; i < count; i++) {
    const r = randomOf(Math.imul(seed + i, 0x9e3779b1));
    const pack = simulate(r);
    const { entries, now } = measured(pack, without, r, START);
    const j = condition(foldPack(SIMULATED_PACK, entries)!, DEFAULT_POLICY, new Date(now));
    if (!dangerous(pack)) {
      t = { ...t, harmless: more(t.harmless, j.condition) };
      const told = j.electrical.charge?.ofRated;
      // What the label truly says is asked of: the charge of a pack with another one's label is nobody's.
      if (told && pack.faults.length === 0) {
        const covered = pack.chargeOfRated >= told.lo - 1e-9 && pack.chargeOfRated <= told.hi + 1e-9;
        t = { ...t, intervals: t.intervals + 1, covered: t.covered + Number(covered) };
      }
      continue;
    }
    t = { ...t, dangerous: t.dangerous + 1, harmful: more(t.harmful, j.condition) };
    if (j.condition !== 'sound') continue;
    let missed = t.missed;
    for (const f of pack.faults) missed = more(missed, f);
    t = { ...t, missed, firstMissed: t.firstMissed ?? seed + i };
  }
  return t;
}

const added = <K extends string>(a: Readonly<Partial<Record<K, number>>>, b: Readonly<Partial<Record<K, number>>>) =>
  (Object.entries(b) as [K, number][]).reduce((sum, [k, n]) => more(sum, k, n), a);

/** Two tallies as one. */
export const both = (a: Tally, b: Tally): Tally => ({
  packs: a.packs + b.packs,
  dangerous: a.dangerous + b.dangerous,
  missed: added(a.missed, b.missed),
  firstMissed: a.firstMissed ?? b.firstMissed,
  harmless: added(a.harmless, b.harmless),
  harmful: added(a.harmful, b.harmful),
  intervals: a.intervals + b.intervals,
  covered: a.covered + b.covered,
});
