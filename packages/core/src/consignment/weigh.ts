import type { RuledPackage } from './rule-packed';

/** What a litre of fill weighs at most, kg: vermiculite 0.06 to 0.16, foam and paper less. From memory; common practice, no source. */
const FILL_KG_PER_LITRE = 0.16;
/** Scales of a parcel bench, kg. */
const SCALE_KG = 0.05;

export interface GrossRange {
  readonly lo: number;
  readonly hi: number;
}

/** What a closed package may weigh: box and packs without fill, to the same with the box full of it, kg. */
export function grossRange(
  box: { readonly tareKg: number; readonly inner: { readonly length: number; readonly width: number; readonly height: number } },
  netKg: RuledPackage['netKg'],
): GrossRange {
  const litres = (box.inner.length * box.inner.width * box.inner.height) / 1e6;
  return {
    lo: Math.max(0, box.tareKg + netKg.lo - SCALE_KG),
    hi: box.tareKg + netKg.hi + litres * FILL_KG_PER_LITRE + SCALE_KG,
  };
}

/** What is odd about a weighing, in words; empty where nothing is. */
export function oddGross(kg: number, { lo, hi }: GrossRange): string {
  if (kg < lo) return `${kg.toFixed(2)} kg is less than box and packs weigh: at least ${lo.toFixed(2)} kg. Is a pack missing?`;
  if (kg > hi)
    return `${kg.toFixed(2)} kg is more than box, packs and fill weigh: at most ${hi.toFixed(2)} kg. Is a pack too many in it?`;
  return '';
}
