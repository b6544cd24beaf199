import { latest, seriesOf } from '../condition/series';
import type { PackFacts } from '../logbook/fold';
import type { Collection, PlaceFacts } from '../logbook/fold-place';
import { value } from '../quantity/figure';
import { WASTE } from '../recycling/rules-waste';
import { yearsLater } from '../recycling/waste';
import type { Stored } from './stored';
import { addDays } from '../quantity/day';
import { figureOf } from '../rules/rule';

/** Days before its last day that a drum's collection is asked for. Our own policy. */
export const ASK_DAYS = 30;

export interface Clock {
  /** When the oldest pack in it became waste; null: nobody said of any. */
  readonly since: string | null;
  /** Last local day it may stay: a year after that, or fewer days by the workshop's policy. The law in the United States, our own policy elsewhere. */
  readonly until: string | null;
  /** The day to ask for a collection. */
  readonly ask: string | null;
  /** Packs of which nobody said since when: the clock may have begun earlier. */
  readonly unknown: readonly string[];
}

/** The accumulation clock of a drum runs from its oldest pack; the workshop may set fewer days than the year. Source: 40 CFR 273.15, from memory. */
export function drumClock(
  packs: readonly Pick<PackFacts, 'tag' | 'wasteSince'>[],
  localDay: (iso: string) => string,
  days: number | null = null,
): Clock {
  const began = packs.flatMap((f) => (f.wasteSince ? [localDay(f.wasteSince)] : [])).sort();
  const since = began[0] ?? null;
  const year = since ? yearsLater(since, figureOf(WASTE.undated('waste.us.clock'), 'years')) : null;
  const own = since && days !== null ? addDays(since, days) : null;
  const until = own !== null && own < year! ? own : year;
  const ask = until ? addDays(until, -ASK_DAYS) : null;
  return { since, until, ask, unknown: packs.filter((f) => f.wasteSince === null).map((f) => f.tag) };
}

/**
 * Packs that must be out of a drum before it leaves. Damaged ones travel under provisions of their own (ADR SP376 and P908, 49 CFR 173.185(f);
 * from memory), a critical one goes nowhere, and an incident holds what was in it (both common practice, no source).
 */
export function notWithDrum(
  items: readonly Pick<Stored, 'id' | 'tag' | 'condition'>[],
  frozen: (id: string) => boolean,
): { readonly tag: string; readonly why: 'critical' | 'damaged' | 'frozen' }[] {
  const whyOf = ({ id, condition }: Pick<Stored, 'id' | 'condition'>) =>
    condition === 'critical' || condition === 'damaged' ? condition : frozen(id) ? 'frozen' : null;
  return items.flatMap((i) => {
    const why = whyOf(i);
    return why === null ? [] : [{ tag: i.tag, why }];
  });
}

export interface Balance {
  /** Sum of the packs that were weighed one by one, kg. */
  readonly weighedKg: number;
  readonly notWeighed: readonly string[];
  /** The drum on our scale and on the recycler's, kg. */
  readonly drumKg: number | null;
  readonly recyclerKg: number | null;
  /** Ours less the packs, and theirs less ours; null where one is missing. */
  readonly ours: number | null;
  readonly theirs: number | null;
}

/** Mass balance of what left: packs against the drum, the drum against the recycler. */
export function balanceOf(c: Pick<Collection, 'weighed' | 'answered'>, packs: readonly PackFacts[]): Balance {
  const masses = packs.map((f) => ({ tag: f.tag, m: latest(seriesOf(f.readings, 'mass')) }));
  const weighedKg = masses.reduce((sum, x) => sum + (x.m?.mean ?? 0), 0);
  const notWeighed = masses.filter((x) => !x.m).map((x) => x.tag);
  // Nothing weighs 0: whoever wrote that weighed nothing.
  const kgOf = (w: Collection['weighed']) => (w && value(w)) || null;
  const [drumKg, recyclerKg] = [kgOf(c.weighed), kgOf(c.answered?.weighed)];
  return {
    weighedKg,
    notWeighed,
    drumKg,
    recyclerKg,
    ours: drumKg === null || notWeighed.length > 0 ? null : drumKg - weighedKg,
    theirs: drumKg === null || recyclerKg === null ? null : recyclerKg - drumKg,
  };
}

/** Kilograms of waste on site by what was weighed, against the figure from which a large handler needs an EPA id. */
export function handlerKg(packs: readonly PackFacts[]): { readonly kg: number; readonly limit: number } {
  const waste = packs.filter((f) => f.left === null && f.wasteSince !== null);
  return { kg: balanceOf({ answered: null }, waste).weighedKg, limit: figureOf(WASTE.undated('waste.us.handler'), 'kg') };
}

/**
 * How heavy a place became with each pack put there, kg, oldest first: packs that lie there now, weighed or by their bound. What has no
 * figure or no known day is left out.
 */
export function kgOverTime(items: readonly Stored[]): { readonly at: string; readonly kg: number }[] {
  let kg = 0;
  return items
    .flatMap((i) => (i.placedAt !== null && i.kg !== null ? [{ at: i.placedAt, one: i.kg }] : []))
    .sort((a, b) => (a.at < b.at ? -1 : 1))
    .map(({ at, one }) => ({ at, kg: (kg += one) }));
}

/** Is it a place whose clock runs? */
export const isDrum = (p: Pick<PlaceFacts, 'kind'>): boolean => p.kind === 'drum';
