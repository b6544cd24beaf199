import type { PlaceFacts } from '../logbook/fold-place';
import { storageOrder } from '../storage/order';
import { type Load, mayLie, notForIt, plus, type WhyNot } from './may';
import type { PlaceState } from './state';
import type { Stored } from './stored';

export interface Candidate {
  readonly place: PlaceFacts;
  /** Empty: it may go there. */
  readonly why: readonly WhyNot[];
  /** It lies there now. */
  readonly here: boolean;
}

/** The order in which kinds of place suit a pack; what its storage order does not name comes last. */
const suits = (s: Stored, p: PlaceFacts): number => {
  const i = storageOrder(s.condition, s.kind).places.indexOf(p.kind);
  return i < 0 ? 99 : i;
};

const without = (state: PlaceState, s: Stored): Load => (s.place === state.place.id ? plus(state.load, s, -1) : state.load);

/**
 * Every place for one pack, best first: where it may go, where it lies already, the kind its storage order names first, the emptiest.
 */
export function rankPlaces(s: Stored, yard: readonly PlaceState[]): Candidate[] {
  return yard
    .filter((y) => y.place.closed === null)
    .map((y) => ({ y, why: mayLie(s, y.place, without(y, s)), here: s.place === y.place.id }))
    .sort(
      (a, b) =>
        Number(a.why.length > 0) - Number(b.why.length > 0) ||
        Number(b.here) - Number(a.here) ||
        suits(s, a.y.place) - suits(s, b.y.place) ||
        (a.y.fill ?? 0) - (b.y.fill ?? 0) ||
        (a.y.place.name < b.y.place.name ? -1 : 1),
    )
    .map(({ y, why, here }) => ({ place: y.place, why, here }));
}

/** What would make room where only room is lacking: what may go elsewhere, else whom to call. */
export function makeRoom(s: Stored, yard: readonly PlaceState[]): string[] {
  return yard
    .filter((y) => y.place.closed === null && notForIt(s, y.place).length === 0)
    .map((y) => {
      for (const item of y.items) {
        const to = rankPlaces(item, yard).find((c) => !c.here && c.why.length === 0);
        const freed = plus(without(y, s), item, -1);
        if (to && mayLie(s, y.place, freed).length === 0) return `${y.place.name} is full: move ${item.tag} to ${to.place.name}`;
      }
      return `${y.place.name} is full: ask for a collection, or set up another ${y.place.kind}`;
    });
}
