import fc from 'fast-check';
import { choicesOf, layInto } from './exact';
import { liesIn, type Slot } from './slots';

const share = fc.integer({ min: 1, max: 10 }).map((n) => n / 10);
const shares = fc.option(fc.tuple(share, share, share), { nil: null });
const KINDS = 3;
const slot = (box: number): fc.Arbitrary<Slot> =>
  fc
    .array(shares, { minLength: KINDS, maxLength: KINDS })
    .map((all) => ({ box, company: 'others', provision: 'P', shares: all }));

/** Puts each pack into each box in turn: every way there is. */
function anyWay(slots: readonly Slot[], packs: readonly number[], boxes: readonly number[]): boolean {
  const inside = boxes.map(() => new Array<number>(KINDS).fill(0));
  const go = (i: number): boolean => {
    if (i === packs.length)
      return inside.every(
        (counts, b) => counts.every((n) => n === 0) || slots.some((s) => s.box === boxes[b] && liesIn(s, counts)),
      );
    return inside.some((counts) => {
      counts[packs[i]!]! += 1;
      const done = go(i + 1);
      counts[packs[i]!]! -= 1;
      return done;
    });
  };
  return go(0);
}

test('packs are laid into boxes whenever any way of putting each into each would do it', () => {
  const some = fc.array(fc.nat(1), { minLength: 1, maxLength: 3 }).map((all) => all.sort());
  const packs = fc.array(fc.nat(KINDS - 1), { minLength: 1, maxLength: 7 });
  fc.assert(
    // Two slots for the first box: it may be used in either way.
    fc.property(slot(0), slot(0), slot(1), packs, some, (a, b, c, all, boxes) => {
      const slots = [a, b, c];
      const demand = Array.from({ length: KINDS }, (_, k) => all.filter((p) => p === k).length);
      const loads = layInto(slots, demand, boxes, { left: 1e6 });
      expect(loads !== null).toBe(anyWay(slots, all, boxes));
      if (loads === null || loads === 'unknown') return;
      expect(demand.map((_, k) => loads.reduce((sum, l) => sum + l.counts[k]!, 0))).toEqual(demand);
      for (const l of loads) expect(liesIn(slots[l.slot]!, l.counts)).toBe(true);
      expect(loads.map((l) => slots[l.slot]!.box)).toEqual(boxes.slice(0, loads.length));
    }),
    { numRuns: 400 },
  );
});

test('what would take too long is not known, and never called impossible', () => {
  const tight: Slot = {
    box: 0,
    company: 'others',
    provision: 'P',
    shares: [
      [0.31, 0.1, 0.1],
      [0.27, 0.1, 0.1],
      [0.23, 0.1, 0.1],
    ],
  };
  const asked = (left: number) => layInto([tight], [9, 9, 9], new Array<number>(8).fill(0), { left });
  expect(asked(3)).toBe('unknown');
  expect(asked(1e6)).not.toBe('unknown');
});

test('every choice of boxes once, none beyond the stock', () => {
  expect(choicesOf([2, 1], 2, 9)).toEqual([
    [2, 0],
    [1, 1],
  ]);
  expect(choicesOf([9, 9, 9], 3, 9)).toBeNull();
  expect(choicesOf([1, 2], 4, 9)).toEqual([]);
  // Of thirty single boxes thirty in one way, and none tried besides.
  const single = new Array<number>(30).fill(1);
  expect(choicesOf(single, 30, 9)).toEqual([single]);
});
