import fc from 'fast-check';
import { NOTHING_IN_SIGHT, sighted } from './sighting';

/** What is told of pictures taken at those times. */
function toldOf(pictures: readonly (readonly [number, readonly string[]])[], alone = false): string[] {
  let inSight = NOTHING_IN_SIGHT;
  return pictures.flatMap(([at, codes]) => {
    const next = sighted(inSight, codes, at, alone);
    inSight = next.inSight;
    return next.code === null ? [] : [next.code];
  });
}

test('a code is told at its second picture, once while it stays, and again only after it was gone', () => {
  expect(toldOf([[0, ['A']]])).toEqual([]);
  expect(toldOf([0, 200, 400, 600].map((at) => [at, ['A']]))).toEqual(['A']);
  // A picture without it, a hand before the lens: it is not a second time.
  expect(toldOf([0, 200, 400, 1900, 2100].map((at) => [at, at === 400 ? [] : ['A']]))).toEqual(['A']);
  expect(toldOf([0, 200, 2300, 2500].map((at) => [at, ['A']]))).toEqual(['A', 'A']);
});

test('several at once come one after another; however pictures fall, nothing is told that stood in fewer than two', () => {
  expect(toldOf([0, 200, 400, 600].map((at) => [at, ['A', 'B', 'C']]))).toEqual(['A', 'B', 'C']);
  // Where a code becomes a tag, nobody knows which of two is meant, until one is out of the picture.
  expect(
    toldOf(
      [0, 200, 400].map((at) => [at, ['A', 'B']]),
      true,
    ),
  ).toEqual([]);
  expect(
    toldOf(
      [
        [0, ['A', 'B']],
        [200, ['A', 'B']],
        [400, ['B']],
      ],
      true,
    ),
  ).toEqual(['B']);
  const picture = fc.tuple(fc.nat(900), fc.subarray(['A', 'B', 'C', 'D']));
  fc.assert(
    fc.property(fc.array(picture, { maxLength: 40 }), (steps) => {
      let clock = 0;
      const pictures = steps.map(([later, codes]) => [(clock += later), codes] as const);
      const told = toldOf(pictures);
      for (const c of ['A', 'B', 'C', 'D']) {
        const times = pictures.flatMap(([at, codes]) => (codes.includes(c) ? [at] : []));
        // A second implementation: cut where it was away, and count the stretches of two or more.
        const stretches = times.reduce<number[]>(
          (list, at, i) => (i > 0 && at - times[i - 1]! < 2000 ? [...list.slice(0, -1), list.at(-1)! + 1] : [...list, 1]),
          [],
        );
        expect(told.filter((t) => t === c).length).toBeLessThanOrEqual(stretches.filter((n) => n >= 2).length);
        if (times.length > 0 && pictures.every(([, codes]) => codes.every((x) => x === c)))
          expect(told.length).toBe(stretches.filter((n) => n >= 2).length);
      }
    }),
  );
});
