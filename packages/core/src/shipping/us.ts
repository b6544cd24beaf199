import { type Asked, batteryMark, CONFLICT, typeTest } from './common';
import type { Leaf, Reader } from './leaf';
import { SHIPPING } from './rulebook';
import { energyStated, isCell, markDuty, metalGrams, sideOf, sizeOf } from './size';

type UsSize = 'small' | 'middle' | 'over' | 'conflict';

/** Small (c), middle (c)(1)(iv), or over (b). */
function usSize(r: Reader, q: Asked): UsSize {
  const f = SHIPPING.any('us.c-iv').figures;
  if (q.metal) {
    const small = SHIPPING.any('size.metal').figures;
    r.cite('size.metal');
    const grams = metalGrams(r);
    if (grams === null) return 'small';
    const cell = grams <= small.cellG! ? true : isCell(r);
    if (grams <= (cell ? small.cellG! : small.batteryG!)) return 'small';
    return grams <= (cell ? f.cellG! : f.batteryG!) ? 'middle' : 'over';
  }
  const small = sizeOf(r);
  if (small !== 'over') return small;
  const [battery, cell] = [sideOf(r, f.batteryWh!), sideOf(r, f.cellWh!)];
  const side = battery === cell ? battery : isCell(r) ? cell : battery;
  return side === 'inside' ? 'middle' : side;
}

/** Damaged: one pack in each outer packaging. */
function damaged(r: Reader, q: Asked): Leaf {
  r.cite('us.f');
  r.say('each pack in its own non-metallic inner packaging, cushioning that is non-combustible, non-conductive and absorbs');
  r.say('one pack in each outer packaging of packing group I: metal, wood or plastic, no fibreboard');
  r.say('mark "Damaged/defective lithium ion battery", letters of 12 mm, class 9, papers; highway, rail or vessel only');
  const packs = r.need<number>('package.packs', [1, 2]);
  return r.leaf(packs <= SHIPPING.any('us.f').figures.packs! ? 'allowed' : 'split', '173.185(f)', q.un, false);
}

/** Recycling or disposal by motor vehicle. A size nobody stated counts as larger; the question stands in the notes. */
function recycling(r: Reader, q: Asked): Leaf {
  r.cite('us.d');
  r.say('strong outer packaging, contacts covered one by one; no type test, no specification packaging needed');
  if (!q.metal && !energyStated(r)) {
    r.say('watt-hours not known: packed as a larger one; read the label for the lighter conditions');
    return r.leaf('allowed', '173.185(d)', q.un, false);
  }
  const size = usSize(r, q);
  const light = size === 'small' || size === 'middle';
  if (size === 'middle') r.cite('us.c-iv');
  if (size === 'small') r.cite('us.c');
  return r.leaf('allowed', '173.185(d)', q.un, light && batteryMark(r, q));
}

/** United States highway and rail. */
export function usRoute(r: Reader, q: Asked): Leaf {
  if (q.damaged) return damaged(r, q);
  if (q.recycling && q.mode === 'road') return recycling(r, q);
  const untested = typeTest(r, q);
  if (untested) return untested;
  const size = usSize(r, q);
  if (size === 'conflict') {
    r.say(CONFLICT);
    return r.leaf('hold', '173.185(b)', q.un, null, ['ratedEnergy']);
  }
  if (size === 'over') {
    if (!q.metal && markDuty(r, false) !== 'met') {
      r.say('no watt-hours on the case: ask the maker');
      return r.leaf('hold', '173.185(b)', q.un, null, ['energyMarked']);
    }
    r.cite('us.b');
    return r.leaf('allowed', '173.185(b)', q.un, false);
  }
  if (!q.metal && !isCell(r) && !r.need<boolean>('energyMarked', [true, false])) {
    r.cite('us.mark');
    r.say('no watt-hours on the case: ask the maker, or send it fully regulated (173.185(b))');
    return r.leaf('hold', '173.185(b)', q.un, null, ['energyMarked']);
  }
  const provision = size === 'small' ? '173.185(c)' : '173.185(c)(1)(iv)';
  r.cite(size === 'small' ? 'us.c' : 'us.c-iv');
  const marked = batteryMark(r, q);
  r.say('strong outer packaging that stands a 1.2 m drop unless installed, contacts covered');
  if (size === 'middle') r.say('text LITHIUM BATTERIES—FORBIDDEN FOR TRANSPORT ABOARD AIRCRAFT AND VESSEL');
  if (q.placement !== 'loose') return r.leaf('allowed', provision, q.un, marked);
  if (size === 'small')
    r.say('text LITHIUM ION BATTERIES—FORBIDDEN FOR TRANSPORT ABOARD PASSENGER AIRCRAFT, or the cargo-aircraft label');
  const gross = SHIPPING.any('us.c').figures.grossKg!;
  r.say(`at most ${gross} kg gross in a package`);
  return r.leaf(r.need<number>('package.grossKg', [1, 40]) <= gross ? 'allowed' : 'split', provision, q.un, marked);
}
