import type { PlaceFacts } from '../logbook/fold-place';
import { type Load, loadOf, notForIt, overLimits, type WhyNot } from './may';
import type { Stored } from './stored';

/** A place as it is now: what lies in it, which limits that breaks, which packs may not lie there. */
export interface PlaceState {
  readonly place: PlaceFacts;
  readonly items: readonly Stored[];
  readonly load: Load;
  readonly over: readonly WhyNot[];
  readonly wrong: readonly { readonly item: Stored; readonly why: readonly WhyNot[] }[];
  /** 0 to 1 and more: the fullest of its limits; null where it has none. */
  readonly fill: number | null;
}

export function placeState(place: PlaceFacts, items: readonly Stored[]): PlaceState {
  const load = loadOf(items);
  const shares = (['packs', 'kg', 'wattHours', 'litres'] as const).flatMap((m) => {
    const limit = place.limits?.[m];
    return limit === undefined || limit === 0 ? [] : [load[m] / limit];
  });
  return {
    place,
    items,
    load,
    over: overLimits(place, load),
    wrong: items.flatMap((item) => {
      const why = notForIt(item, place);
      return why.length > 0 ? [{ item, why }] : [];
    }),
    fill: shares.length > 0 ? Math.max(...shares) : null,
  };
}

/** Every place with what lies in it, in the order of the way through the yard. */
export function yardOf(places: readonly PlaceFacts[], stock: readonly Stored[]): PlaceState[] {
  const by = new Map<string, Stored[]>();
  for (const s of stock) {
    if (s.place === null) continue;
    const list = by.get(s.place);
    if (list) list.push(s);
    else by.set(s.place, [s]);
  }
  return places
    .map((p) => placeState(p, by.get(p.id) ?? []))
    .filter((s) => s.place.closed === null || s.items.length > 0)
    .sort((a, b) => (a.place.turn ?? 1e6) - (b.place.turn ?? 1e6) || (a.place.name < b.place.name ? -1 : 1));
}

export interface RoomEnergy {
  readonly room: string;
  readonly wattHours: number;
  /** Packs without a declared energy: the sum is short by them. */
  readonly unknown: number;
  readonly packs: number;
}

/** Energy by room. A place whose room nobody named stands under its own name. */
export function energyByRoom(yard: readonly PlaceState[]): RoomEnergy[] {
  const rooms = new Map<string, RoomEnergy>();
  for (const { place, load } of yard) {
    const room = place.room ?? place.name;
    const r = rooms.get(room) ?? { room, wattHours: 0, unknown: 0, packs: 0 };
    rooms.set(room, {
      room,
      wattHours: r.wattHours + load.wattHours,
      unknown: r.unknown + load.unknown.wattHours,
      packs: r.packs + load.packs,
    });
  }
  return [...rooms.values()].sort((a, b) => b.wattHours - a.wattHours);
}
