import {
  type Condition,
  condition,
  dailyInputs,
  type Due,
  type Judgement,
  localDay,
  packColumns,
  type PackColumns,
  type PackFacts,
  packOwed,
  type PlaceFacts,
  type PolicyFacts,
  rule,
  type Ruling,
  workshopDues,
  DAY_MS,
} from '@gavrel/core';
import { useMemo } from 'react';
import { type RootState, useAppSelector } from '.';
import { inNaturalOrder } from './natural';

/** The workshop's zone: its days are legal days, wherever the device is. */
export const selectZone = (s: RootState): string => s.session.session?.workshop.zone ?? 'UTC';

interface Memo<T> {
  readonly policy: PolicyFacts;
  readonly zone: string;
  /** From when, and until when, it holds, ms. */
  readonly from: number;
  readonly until: number;
  readonly value: T;
}

/** When the clock alone changes what follows from a pack next: a look or a reading grows old, or the day ends. */
function holdsUntil(facts: PackFacts, policy: PolicyFacts, now: number, zone: string): number {
  const ends = [...facts.looks, ...facts.readings, ...facts.gauges].flatMap((n) =>
    [policy.lookDays, policy.dispatchDays].map((days) => Date.parse(n.at) + days * DAY_MS),
  );
  // A look counts to the millisecond at which it ends.
  return Math.min(todayEnds(zone, now), ...ends.filter((t) => t >= now).map((t) => t + 1));
}

/** The first moment of the next local day, ms. */
export function dayEnd(zone: string, now: number): number {
  const today = localDay(zone, new Date(now));
  const same = (ms: number) => localDay(zone, new Date(ms)) === today;
  let [lo, hi] = [now, now + 26 * 3_600_000];
  while (hi - lo > 1) {
    const mid = Math.floor((lo + hi) / 2);
    if (same(mid)) lo = mid;
    else hi = mid;
  }
  return hi;
}

const ends = new Map<string, { readonly from: number; readonly until: number }>();
/** The same, asked thousands of times a day. */
function todayEnds(zone: string, now: number): number {
  const known = ends.get(zone);
  if (known && now >= known.from && now < known.until) return known.until;
  const until = dayEnd(zone, now);
  ends.set(zone, { from: now, until });
  return until;
}

/** Facts never change in place: what follows from them is kept while they, the policy and the zone stay the same and the clock changes nothing. */
function memo<T>(make: (facts: PackFacts, policy: PolicyFacts, now: Date, zone: string) => T) {
  const cache = new WeakMap<PackFacts, Memo<T>>();
  return (facts: PackFacts, policy: PolicyFacts, zone = 'UTC'): T => {
    const now = Date.now();
    const known = cache.get(facts);
    if (known && known.policy === policy && known.zone === zone && now >= known.from && now < known.until) return known.value;
    const value = make(facts, policy, new Date(now), zone);
    cache.set(facts, { policy, zone, from: now, until: holdsUntil(facts, policy, now, zone), value });
    return value;
  };
}

/** The minute of the clock, for what changes while nobody touches the screen. */
export const useMinute = (): number => useAppSelector((s) => s.view.minute);

/** The workshop's zone, in a component that shows what the clock changes: it is drawn again each minute. */
export function useZone(): string {
  useMinute();
  return useAppSelector(selectZone);
}

export const conditionOf = memo(condition);
const closed = new WeakMap<PackFacts, { policy: PolicyFacts; at: string; value: Judgement }>();
/** What a pack was when its job closed, by everything known today: a look grows old, what a job taught does not. */
export function judgedAt(facts: PackFacts, policy: PolicyFacts, at: string | null): Judgement {
  if (at === null) return conditionOf(facts, policy);
  const known = closed.get(facts);
  if (known && known.policy === policy && known.at === at) return known.value;
  const value = condition(facts, policy, new Date(at));
  closed.set(facts, { policy, at, value });
  return value;
}

/** What a pack owes today. */
const owedOf = memo((f, p, _now, zone) =>
  packOwed(dailyInputs(f, p), conditionOf(f, p), p, (iso) => localDay(zone, new Date(iso))),
);

const rulingMemo = memo((f, p, now, zone) => rule(f, p, now, localDay(zone, now)));
/** The ruling of a pack for a dispatch today. */
export const rulingOf = (f: PackFacts, p: PolicyFacts, zone: string): Ruling => rulingMemo(f, p, zone);

const columnsMemo = new WeakMap<PackFacts, PackColumns>();
/** What a list shows of a pack and finds it by. */
export function columnsOf(facts: PackFacts): PackColumns {
  const known = columnsMemo.get(facts) ?? packColumns(facts);
  columnsMemo.set(facts, known);
  return known;
}

export interface PackLine {
  readonly facts: PackFacts;
  readonly condition: Condition;
  readonly columns: PackColumns;
  readonly place: string;
}

/** Where a pack is that left. */
export const LEFT_WORDS = {
  owner: 'left with its owner',
  recycler: 'left for recycling',
  carrier: 'left with a carrier',
  nobody: 'taken back: it was never here',
} as const;

/** Where a pack is, by name; empty where nobody put it anywhere. */
export const whereWords = (f: PackFacts, places: Readonly<Record<string, Pick<PlaceFacts, 'name'>>>): string =>
  f.left ? LEFT_WORDS[f.leftTo ?? 'owner'] : f.place ? (places[f.place]?.name ?? '') : '';

/** Every pack of the device, or those of one condition, with what a list shows of it, by tag. */
export function usePackLines(only?: Condition): readonly PackLine[] {
  const packs = useAppSelector((s) => s.logbook.packs);
  const places = useAppSelector((s) => s.logbook.places);
  const policy = useAppSelector((s) => s.logbook.policy);
  const minute = useMinute();
  return useMemo(
    () =>
      Object.values(packs)
        .map((facts) => ({ facts, condition: conditionOf(facts, policy).condition }))
        .filter((l) => only === undefined || l.condition === only)
        .map(({ facts, condition }): PackLine => {
          return {
            facts,
            condition,
            columns: columnsOf(facts),
            place: whereWords(facts, places),
          };
        })
        .sort((a, b) => inNaturalOrder(a.facts.tag, b.facts.tag)),
    [packs, places, policy, minute, only],
  );
}

/** What is due, most overdue first. */
export function useDues(): readonly Due[] {
  const packs = useAppSelector((s) => s.logbook.packs);
  const jobs = useAppSelector((s) => s.logbook.jobs);
  const notebooks = useAppSelector((s) => s.logbook.notebooks);
  const places = useAppSelector((s) => s.logbook.places);
  const incidents = useAppSelector((s) => s.logbook.incidents);
  const consignments = useAppSelector((s) => s.logbook.consignments);
  const policy = useAppSelector((s) => s.logbook.policy);
  const zone = useZone();
  const minute = useMinute();
  return useMemo(() => {
    const day = (iso: string) => localDay(zone, new Date(iso));
    const owed = {
      packs: Object.values(packs).map((facts) => owedOf(facts, policy, zone)),
      jobs: Object.values(jobs),
      notebooks: Object.values(notebooks),
      places: Object.values(places),
      incidents: Object.values(incidents),
      consignments: Object.values(consignments),
    };
    return workshopDues(owed, policy, new Date(), day);
  }, [packs, jobs, notebooks, places, incidents, consignments, policy, zone, minute]);
}
