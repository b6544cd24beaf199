import { batteryMark, conflictHold, type Journey, markHold, typeTest } from './common';
import { type Leaf, mostSevere, type Reader, type SizeLimits } from './leaf';
import { grossAtMost, netAtMost, packs } from './package';
import { energies, isCell, markDuty, metalWithin, sizeConflict, sizeOf, within } from './size';

/** Small (c), middle (c)(1)(iv), or over (b). */
type UsSize = 'small' | 'middle' | 'over';

const MARK = 'us.mark-battery';
const TEXT = {
  small: (metal: boolean) =>
    `text LITHIUM ${metal ? 'METAL' : 'ION'} BATTERIES—FORBIDDEN FOR TRANSPORT ABOARD PASSENGER AIRCRAFT, or the cargo-aircraft label`,
  middle: () => 'text LITHIUM BATTERIES—FORBIDDEN FOR TRANSPORT ABOARD AIRCRAFT AND VESSEL',
};

function usSize(r: Reader, q: Journey): UsSize | 'conflict' {
  if (q.metal) {
    r.cite('size.metal');
    if (sizeConflict(r)) return 'conflict';
    if (metalWithin(r, r.limits('size.metal', 'G'))) return 'small';
    return metalWithin(r, r.limits('us.c-iv', 'G')) ? 'middle' : 'over';
  }
  const small = sizeOf(r);
  if (small !== 'over') return small;
  const middle = within(r, r.limits('us.c-iv', 'Wh'));
  return middle === 'small' ? 'middle' : middle;
}

/**
 * Every class that what is stated allows, asking nothing: each declared energy, as a cell or a battery where that is not known.
 * Empty when no size is stated.
 */
function possibleSizes(r: Reader, q: Journey): ReadonlySet<UsSize> {
  const known = r.known(() => usSize(r, q));
  if (known !== null && known !== 'conflict') return new Set([known]);
  const cell = r.known(() => isCell(r));
  const shapes = cell === null || sizeConflict(r) ? [true, false] : [cell];
  if (q.metal) {
    const grams = r.peek<number>('lithiumContent');
    const [small, middle] = [r.limits('size.metal', 'G'), r.limits('us.c-iv', 'G')];
    return new Set(grams === undefined ? [] : shapes.map((one) => classOf(grams, one, small, middle)));
  }
  const [small, middle] = [r.limits('size.small', 'Wh'), r.limits('us.c-iv', 'Wh')];
  const inner = r.facts.policy?.innerCellLimit === true;
  // The strict reading may take the cells of a battery for the limit: then nothing is lighter than it might be.
  const of = (e: number, one: boolean): UsSize => (!one && inner ? 'over' : classOf(e / 1e6, one, small, middle));
  return new Set(energies(r).flatMap((e) => shapes.map((one) => of(e, one))));
}

/** @param one it is a cell, not a battery. */
function classOf(x: number, one: boolean, small: SizeLimits, middle: SizeLimits): UsSize {
  const of = (limits: SizeLimits) => (one ? limits.cell : limits.battery);
  return x <= of(small) ? 'small' : x <= of(middle) ? 'middle' : 'over';
}

/** Damaged: one pack in each outer packaging. */
function damaged(r: Reader, q: Journey): Leaf {
  r.cite('us.f');
  r.say('each pack in its own non-metallic inner packaging, cushioning that is non-combustible, non-conductive and absorbs');
  r.say('one pack in each outer packaging of packing group I: metal, wood or plastic, no fibreboard');
  r.say(
    `mark "Damaged/defective lithium ${q.metal ? 'metal' : 'ion'} battery", letters of 12 mm, class 9, papers; highway, rail or vessel only`,
  );
  const one = r.atMost('package.packs', r.figure('us.f', 'packs'), packs(r));
  return r.leaf(one ? 'allowed' : 'split', '173.185(f)', q.un, false);
}

/** Recycling or disposal by motor vehicle. A size nobody can tell counts as larger; the question stands in the notes. */
function recycling(r: Reader, q: Journey): Leaf {
  r.cite('us.d');
  r.say('strong outer packaging, contacts covered one by one; no type test, no specification packaging needed');
  const sizes = possibleSizes(r, q);
  if (sizes.size === 0 || sizes.has('over')) {
    if (sizes.size !== 1) r.say('size not known: packed as a larger one; watt-hours and cells open the lighter conditions');
    return r.leaf('allowed', '173.185(d)', q.un, false);
  }
  r.say('stands a 1.2 m drop unless installed');
  const marked = batteryMark(r, q, MARK);
  texts(r, q, sizes.has('middle') ? 'middle' : 'small');
  return limited(r, q, '173.185(d)', marked);
}

/** What is printed on the package besides the mark. */
function texts(r: Reader, q: Journey, size: 'small' | 'middle'): void {
  r.cite(size === 'small' ? 'us.c' : 'us.c-iv');
  if (size === 'middle') return r.say(TEXT.middle());
  const kg = r.figure('us.c', 'textNetKg');
  if (q.placement === 'loose') r.say(TEXT.small(q.metal));
  else if (r.known(() => netAtMost(r, kg)) !== true) r.say(`over ${kg} kg of packs in it: ${TEXT.small(q.metal)}`);
}

/** Loose packages have a limit of their own. */
function limited(r: Reader, q: Journey, provision: '173.185(c)' | '173.185(c)(1)(iv)' | '173.185(d)', marked: boolean): Leaf {
  if (q.placement !== 'loose') return r.leaf('allowed', provision, q.un, marked);
  const gross = r.figure('us.c', 'grossKg');
  r.say(`at most ${gross} kg gross in a package`);
  return r.leaf(grossAtMost(r, gross) ? 'allowed' : 'split', provision, q.un, marked);
}

/** United States highway and rail. Of everything that applies the most severe is reported. */
export function usRoute(r: Reader, q: Journey): Leaf {
  if (q.condition === 'damaged') return damaged(r, q);
  if (q.recycling && q.mode === 'road') return recycling(r, q);
  const untested = typeTest(r, q);
  if (untested?.outcome === 'forbidden') return untested;
  const leaves = untested ? [untested] : [];
  const size = usSize(r, q);
  if (size === 'conflict') leaves.push(conflictHold(r, q, '173.185(b)'));
  else if (size === 'over') leaves.push(large(r, q));
  else leaves.push(small(r, q, size));
  return mostSevere(leaves);
}

function large(r: Reader, q: Journey): Leaf {
  if (!q.metal && markDuty(r, false) !== 'met') return markHold(r, q, '173.185(b)');
  r.cite('us.b');
  return r.leaf('allowed', '173.185(b)', q.un, false);
}

function small(r: Reader, q: Journey, size: 'small' | 'middle'): Leaf {
  if (!q.metal && !isCell(r) && !r.need<boolean>('energyMarked', [true, false])) {
    r.cite('us.mark');
    return markHold(r, q, '173.185(b)', 'send it fully regulated (173.185(b))');
  }
  const marked = batteryMark(r, q, MARK);
  r.say('strong outer packaging that stands a 1.2 m drop unless installed, contacts covered');
  texts(r, q, size);
  return limited(r, q, size === 'small' ? '173.185(c)' : '173.185(c)(1)(iv)', marked);
}
