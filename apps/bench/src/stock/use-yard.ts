import { type PackFacts, type Stored, storedOf, type Watch, watches } from '@gavrel/core';
import { type Load, loadOf, type PlaceState, yardOf } from '@gavrel/core/place';
import { useMemo } from 'react';
import { useAppSelector } from '../state';
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

/** Every place with what lies in it, and the watch of each container. */
export function useYard(): Yard {
  const packs = useAppSelector((s) => s.logbook.packs);
  const places = useAppSelector((s) => s.logbook.places);
  const jobs = useAppSelector((s) => s.logbook.jobs);
  const policy = useAppSelector((s) => s.logbook.policy);
  // The clock makes looks due and lets them grow old.
  const minute = useMinute();
  return useMemo(() => {
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
      unseen: Object.values(jobs).filter((j) => j.closedAt === null && j.packs.length === 0).length,
      watches: new Map(watches({ packs: here, places: all }, policy, new Date()).map((w) => [w.place.id, w])),
    };
  }, [packs, places, jobs, policy, minute]);
}
