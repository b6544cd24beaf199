import type { PlaceFacts } from '../logbook/fold-place';
import { storageOrder } from '../storage/order';
import type { Stored } from './stored';

export const MEASURES = ['packs', 'kg', 'wattHours', 'litres'] as const;
export type Measure = (typeof MEASURES)[number];
export const MEASURE_UNITS: Record<Measure, string> = { packs: 'packs', kg: 'kg', wattHours: 'Wh', litres: 'l' };

/** What lies in a place, counted; a sum is short by every pack whose figure nobody knows, and says by how many. */
export type Load = Readonly<Record<Measure, number>> & { readonly unknown: Readonly<Record<Measure, number>> };

export const EMPTY: Load = {
  packs: 0,
  kg: 0,
  wattHours: 0,
  litres: 0,
  unknown: { packs: 0, kg: 0, wattHours: 0, litres: 0 },
};

const amount = (s: Stored, m: Measure): number | null => (m === 'packs' ? 1 : s[m]);

/** Adds one pack, or takes it away. */
export function plus(load: Load, s: Stored, sign: 1 | -1 = 1): Load {
  const out = { ...load, unknown: { ...load.unknown } } as Record<Measure, number> & { unknown: Record<Measure, number> };
  for (const m of MEASURES) {
    const a = amount(s, m);
    if (a === null) out.unknown[m] += sign;
    else out[m] += sign * a;
  }
  return out;
}

export const loadOf = (items: readonly Stored[]): Load => items.reduce((l, s) => plus(l, s), EMPTY);

/**
 * What a pack counts as whose figure nobody knows: the most that is usual, since notebooks stop just under 100 Wh. Common practice, no
 * source; never less than what is usual, so that not knowing makes no room.
 */
export const UNKNOWN: Readonly<Record<Measure, number>> = { packs: 1, kg: 1, wattHours: 100, litres: 0.5 };

/**
 * Machines of which nobody has seen the pack yet that a place may still take, each counted as one pack of 100 Wh; null where neither
 * packs nor energy are limited.
 */
export function roomForUnseen(place: PlaceFacts, load: Load): number | null {
  const { packs, wattHours } = place.limits ?? {};
  const rooms = [
    ...(packs === undefined ? [] : [packs - load.packs]),
    ...(wattHours === undefined ? [] : [Math.floor((wattHours - load.wattHours) / UNKNOWN.wattHours - load.unknown.wattHours)]),
  ];
  return rooms.length === 0 ? null : Math.max(0, Math.min(...rooms));
}

export interface WhyNot {
  readonly code: 'closed' | 'kind' | 'holds' | Measure;
  readonly words: string;
  /** True where only the room in it is lacking. */
  readonly full: boolean;
}

// Sums of kilograms in floating point must not fill a place by a billionth.
const EPSILON = 1e-9;
const show = (x: number) => String(Math.round(x * 10) / 10);

/** Limits that a load breaks; what nobody knows counts with its most. Equality is inside. */
export function overLimits(place: PlaceFacts, load: Load): WhyNot[] {
  return MEASURES.flatMap((m): WhyNot[] => {
    const limit = place.limits?.[m];
    if (limit === undefined) return [];
    const unit = m === 'packs' && limit === 1 ? 'pack' : MEASURE_UNITS[m];
    const most = load[m] + load.unknown[m] * UNKNOWN[m];
    if (most <= limit + EPSILON) return [];
    const guess = load.unknown[m] > 0 ? `, ${load.unknown[m]} not known counted as ${UNKNOWN[m]}` : '';
    return [{ code: m, full: true, words: `${show(most)} of ${show(limit)} ${unit}${guess}` }];
  });
}

/** Why this pack may not lie there by what it is, however empty the place. */
export function notForIt(s: Stored, place: PlaceFacts): WhyNot[] {
  if (place.closed) return [{ code: 'closed', full: false, words: 'not used any more' }];
  // What was rightly put here stays: that its look grew old asks for a look, not for a move.
  const stays = s.place === place.id && s.condition === 'unproven';
  const condition = stays ? s.placedAs : s.condition;
  const order = storageOrder(condition, s.kind);
  // What burns or may burn soon is carried nowhere: where it lies outdoors there is nothing better to ask for.
  const rests = order.places.length === 0 && s.place === place.id && place.kind === 'outdoors';
  return [
    ...(order.places.includes(place.kind) || rests
      ? []
      : [
          {
            code: 'kind' as const,
            full: false,
            words: `${condition}${order.places.length > 0 ? `: ${order.places.join(' or ')}` : ', do not carry it'}`,
          },
        ]),
    ...(place.holds.includes(condition) ? [] : [{ code: 'holds' as const, full: false, words: `not for ${condition} packs` }]),
  ];
}

/**
 * Why this pack may not be put there; empty means nothing we know of speaks against it, the local code decides.
 * @param load what lies there without it.
 */
export function mayLie(s: Stored, place: PlaceFacts, load: Load): WhyNot[] {
  return [...notForIt(s, place), ...overLimits(place, plus(load, s))];
}
