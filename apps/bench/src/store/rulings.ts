import {
  type Condition,
  condition,
  type Due,
  type Judgement,
  localDay,
  type PackFacts,
  type PolicyFacts,
  rule,
  type Ruling,
  workshopDues,
} from '@gavrel/core';
import { useMemo } from 'react';
import { type RootState, useAppSelector } from './index';

/** The workshop's zone: its days are legal days, wherever the device is. */
export const selectZone = (s: RootState): string => s.session.session?.workshop.zone ?? 'UTC';

interface Memo<T> {
  readonly policy: PolicyFacts;
  readonly zone: string;
  readonly hour: number;
  readonly value: T;
}

/** Facts never change in place: what follows from them is kept while they, the policy, the zone and the hour stay the same. */
function memo<T>(make: (facts: PackFacts, policy: PolicyFacts, now: Date, zone: string) => T) {
  const cache = new WeakMap<PackFacts, Memo<T>>();
  return (facts: PackFacts, policy: PolicyFacts, zone = 'UTC'): T => {
    const now = new Date();
    const hour = Math.floor(now.getTime() / 3_600_000);
    const known = cache.get(facts);
    if (known && known.policy === policy && known.zone === zone && known.hour === hour) return known.value;
    const value = make(facts, policy, now, zone);
    cache.set(facts, { policy, zone, hour, value });
    return value;
  };
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

const rulingMemo = memo((f, p, now, zone) => rule(f, p, now, localDay(zone, now)));
/** The ruling of a pack for a dispatch today. */
export const rulingOf = (f: PackFacts, p: PolicyFacts, zone: string): Ruling => rulingMemo(f, p, zone);

export interface PackLine {
  readonly facts: PackFacts;
  readonly condition: Condition;
  readonly code: string;
  readonly place: string;
}

/** Made once: making it takes longer than sorting by it. */
const TAGS = new Intl.Collator('en', { numeric: true });

/** Every pack of the device with what a list shows of it, by tag. */
export function usePackLines(): readonly PackLine[] {
  const packs = useAppSelector((s) => s.logbook.packs);
  const places = useAppSelector((s) => s.logbook.places);
  const policy = useAppSelector((s) => s.logbook.policy);
  return useMemo(
    () =>
      Object.values(packs)
        .map((facts): PackLine => {
          const j = conditionOf(facts, policy);
          return {
            facts,
            condition: j.condition,
            code: j.label.all.typeCode ?? '',
            place: facts.left
              ? facts.leftTo === 'recycler'
                ? 'left for recycling'
                : 'with its owner'
              : facts.place
                ? (places[facts.place]?.name ?? '')
                : '',
          };
        })
        .sort((a, b) => TAGS.compare(a.facts.tag, b.facts.tag)),
    [packs, places, policy],
  );
}

/** What is due, most overdue first. */
export function useDues(): readonly Due[] {
  const packs = useAppSelector((s) => s.logbook.packs);
  const jobs = useAppSelector((s) => s.logbook.jobs);
  const places = useAppSelector((s) => s.logbook.places);
  const incidents = useAppSelector((s) => s.logbook.incidents);
  const policy = useAppSelector((s) => s.logbook.policy);
  const zone = useAppSelector(selectZone);
  return useMemo(() => {
    const day = (iso: string) => localDay(zone, new Date(iso));
    const judged = Object.values(packs).map((facts) => ({ facts, judgement: conditionOf(facts, policy) }));
    const owed = {
      packs: judged,
      jobs: Object.values(jobs),
      places: Object.values(places),
      incidents: Object.values(incidents),
    };
    return workshopDues(owed, policy, new Date(), day);
  }, [packs, jobs, places, incidents, policy, zone]);
}
