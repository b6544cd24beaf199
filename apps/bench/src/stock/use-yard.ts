import { type PackFacts, type Stored, storedOf, type Watch, watches } from '@gavrel/core';
import { type Load, loadOf, type PlaceState, yardOf } from '@gavrel/core/place';
import { useMemo } from 'react';
import { type RootState, useAppSelector } from '../state';
import { conditionOf, useMinute } from '../state/rulings';

export interface Yard {
  readonly places: readonly PlaceState[];
  readonly stock: ReadonlyMap<string, Stored>;
  readonly facts: Readonly<Record<string, PackFacts>>;
  readonly watches: ReadonlyMap<string, Watch>;
  /** Packs in machines and in hands, on no place. */
  readonly apart: Load;
  /** Open machines without a pack on record: their energy nobody knows. */
  readonly unseen: number;
}

export type YardSource = Pick<RootState['logbook'], 'packs' | 'places' | 'jobs' | 'policy'>;

/** Every place with what lies in it, and the watch of each container, by what is known now. */
export function yardIn({ packs, places, jobs, policy }: YardSource): Yard {
  const present = Object.values(packs)
    .filter((f) => f.left === null)
    .map((facts) => ({ facts, judgement: conditionOf(facts, policy) }));
  const here = present.filter((p) => p.facts.use !== 'fitted');
  const apart = present.filter((p) => p.facts.use === 'fitted' || p.facts.place === null);
  const stock = here.map(({ facts, judgement }) => storedOf(facts, judgement, policy));
  const all = Object.values(places);
  return {
    places: yardOf(all, stock),
    stock: new Map(stock.map((s) => [s.id, s])),
    facts: packs,
    apart: loadOf(apart.map(({ facts, judgement }) => storedOf(facts, judgement, policy))),
    // Neither of a machine without a pack on record nor of one whose pack is not on this device.
    unseen: Object.values(jobs).filter((j) => j.closedAt === null && j.packs.every((id) => packs[id] === undefined)).length,
    watches: new Map(watches({ packs: here, places: all }, policy, new Date()).map((w) => [w.place.id, w])),
  };
}

/** The yard by what this device holds, kept up with the clock. */
export function useYard(): Yard {
  const packs = useAppSelector((s) => s.logbook.packs);
  const places = useAppSelector((s) => s.logbook.places);
  const jobs = useAppSelector((s) => s.logbook.jobs);
  const policy = useAppSelector((s) => s.logbook.policy);
  // The clock makes looks due and lets them grow old.
  const minute = useMinute();
  return useMemo(() => yardIn({ packs, places, jobs, policy }), [packs, places, jobs, policy, minute]);
}
