import type { PackFacts } from '../logbook/fold';
import type { Interval } from '../quantity/interval';
import type { Ruling } from '../ruling/ruling';
import { shelfOf } from './of-pack';
import { DAY_MS } from '../quantity/day';

/** Charge at which a sound pack lies best, % of full. Common practice, no source. */
export const STORE: Interval = { lo: 30, hi: 60 };

export interface ShelfLine {
  readonly id: string;
  readonly tag: string;
  readonly place: string | null;
  /** When it came in, or came to lie there; null: nobody said. */
  readonly since: string | null;
  /** % of full when it was measured; null: nobody measured it, or its capacity is not known. */
  readonly charge: Interval | null;
  /** When it may be low at the soonest, ISO; null where the charge is not known. */
  readonly topUpBy: string | null;
  /** It may lie higher than it keeps well. */
  readonly high: boolean;
}

/**
 * Sound packs that lie here, the one that must be topped up first at the top; those whose charge nobody knows come last and are told
 * apart. Only a sound pack is ever charged: no other is in the plan.
 */
export function shelfPlan(stock: readonly { readonly facts: PackFacts; readonly ruling: Ruling }[]): ShelfLine[] {
  return stock
    .filter(({ facts, ruling }) => ruling.judgement.condition === 'sound' && facts.left === null && facts.use !== 'fitted')
    .map(({ facts, ruling }): ShelfLine => {
      const shelf = shelfOf(ruling);
      const charge = shelf ? (ruling.electrical.charge?.ofFull ?? null) : null;
      return {
        id: facts.id,
        tag: facts.tag,
        place: facts.place,
        since: facts.source.receivedOn ?? facts.placedAt,
        charge,
        topUpBy: shelf ? new Date(Date.parse(shelf.at) + shelf.toLow.lo * DAY_MS).toISOString() : null,
        high: charge !== null && charge.hi > STORE.hi,
      };
    })
    .sort((a, b) => {
      const [x, y] = [a.topUpBy ?? '9999', b.topUpBy ?? '9999'];
      return x < y ? -1 : x > y ? 1 : a.tag < b.tag ? -1 : 1;
    });
}
