import fc from 'fast-check';
import {
  closeRefit,
  excessTurns,
  groupsOf,
  mirrored,
  screwsOut,
  type Screw,
  type ScrewCount,
  THREADS,
  tipForce,
  tipPressure,
} from './screw';

const mm = (digits: string) => ({ digits, unit: 'mm' as const });
const screw = (id: number, length: string, more: Partial<Screw> = {}): Screw => ({
  id,
  x: id / 20,
  y: 0.5,
  thread: 'M2',
  length: mm(length),
  ...more,
});
const back = (length: string, count: number): ScrewCount => ({ thread: 'M2', length: mm(length), count });

/** Ten screws: six of 6 mm at the rear, four of 4 mm in front (common practice, no source). */
const TEN = [
  ...Array.from({ length: 6 }, (_, i) => screw(i + 1, '6')),
  ...Array.from({ length: 4 }, (_, i) => screw(i + 7, '4')),
];

describe('groups', () => {
  test('longest first; captive and missing ones do not come out', () => {
    const groups = groupsOf([...TEN, screw(11, '4', { captive: true }), screw(12, '6', { state: 'missing' })]);
    expect(groups.map((g) => [g.length?.digits, g.count])).toEqual([
      ['6', 6],
      ['4', 4],
    ]);
  });
  test("the pack's own screws go back too, once, and not those that the map holds already", () => {
    expect(screwsOut(TEN, [back('4', 2), back('3', 1)]).map((g) => [g.length?.digits, g.count])).toEqual([
      ['6', 6],
      ['4', 6],
      ['3', 1],
    ]);
    const mapped = [...TEN, screw(11, '3', { holds: 'pack' })];
    expect(screwsOut(mapped, [back('3', 1)])).toEqual(groupsOf(mapped));
  });
  test('"4" and "4.0" mm are one length', () => expect(groupsOf([screw(1, '4'), screw(2, '4.0')])).toHaveLength(1));
  test('mirroring sets the other side once, with new numbers, and leaves the middle alone', () => {
    const half = [screw(1, '4', { x: 0.1 }), screw(2, '4', { x: 0.5 })];
    const made = mirrored(half);
    expect(made.map((s) => [s.id, s.x])).toEqual([[3, 0.9]]);
    expect(mirrored([...half, ...made])).toEqual([]);
  });
});

describe('a refit closes', () => {
  test('when every group is back', () => expect(closeRefit(groupsOf(TEN), [back('6', 6), back('4', 4)]).closed).toBe(true));
  test('not with one left over', () =>
    expect(closeRefit(groupsOf(TEN), [back('6', 6), back('4', 3)])).toMatchObject({ closed: false, tooLong: [] }));
  test('not with a 6 mm screw in a 4 mm hole, and it says how hard it presses', () => {
    const r = closeRefit(groupsOf(TEN), [back('6', 7), back('4', 3)]);
    expect(r.closed).toBe(false);
    expect(r.tooLong).toMatchObject([{ length: 6, hole: 4 }]);
    expect(r.tooLong[0]!.force).toBeGreaterThan(500);
  });
  test('a shorter screw in a longer hole is no puncture, and still does not close', () =>
    expect(closeRefit(groupsOf(TEN), [back('6', 5), back('4', 5)])).toMatchObject({ closed: false, tooLong: [] }));

  const screws = fc.array(
    fc.record({
      thread: fc.constantFrom(...THREADS),
      length: fc.constantFrom('2', '3', '4', '6', '8'),
      captive: fc.boolean(),
      missing: fc.boolean(),
    }),
    { maxLength: 16 },
  );
  test('if and only if the multiset of screws closes', () => {
    fc.assert(
      fc.property(screws, fc.integer({ min: -1, max: 1 }), fc.nat(20), (list, change, at) => {
        const map = list.map((s, i): Screw => ({
          id: i + 1,
          x: 0.5,
          y: 0.5,
          thread: s.thread,
          length: mm(s.length),
          captive: s.captive,
          ...(s.missing && { state: 'missing' as const }),
        }));
        const out = groupsOf(map);
        // In another order, in portions, and with one group changed.
        const portions = out
          .flatMap((g): ScrewCount[] => [
            { ...g, count: g.count - 1 },
            { ...g, count: 1 },
          ])
          .reverse();
        const i = portions.length === 0 ? 0 : at % portions.length;
        const changed = portions.map((p, n) => (n === i ? { ...p, count: p.count + change } : p));
        const really = out.length > 0 && change !== 0;
        expect(closeRefit(groupsOf(map), changed).closed).toBe(!really);
      }),
    );
  });
});

// Worked figures of the trade, from memory: M2 at 0.2 N m is about 500 N, 159 MPa on its end, 2.5 turns a millimetre.
test('a screw that bottoms presses with F = T / (K d)', () => {
  expect(tipForce('M2', 0.2)).toBeCloseTo(500, 6);
  expect(tipPressure('M2', 500)).toBeCloseTo(159.2, 1);
  expect(excessTurns('M2', 1)).toBeCloseTo(2.5, 9);
});
