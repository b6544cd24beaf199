import fc from 'fast-check';
import { cheapestPlan } from './cheapest';
import { choicesOf, layInto, listed } from './exact';
import { roomBound } from './rooms';
import { liesIn, type Slot } from './slots';

const KINDS = 3;
const share = fc.integer({ min: 1, max: 12 }).map((n) => n / 12);
const shares = fc.option(fc.tuple(share, share, share), { nil: null, freq: 6 });
const slot = (box: number, provision: string): fc.Arbitrary<Slot> =>
  fc.array(shares, { minLength: KINDS, maxLength: KINDS }).map((all) => ({ box, company: 'others', provision, shares: all }));
// Two slots for the first box: it may be used in either way.
const slots = fc.tuple(slot(0, 'P'), slot(0, 'Q'), slot(1, 'P'));
const counts = fc.array(fc.nat(4), { minLength: KINDS, maxLength: KINDS }).filter((d) => d.some((n) => n > 0));
const stock = fc.tuple(fc.nat(4), fc.nat(4));

/** Fewest boxes, then cheapest, by trying every choice of boxes to the end. */
function byTrying(of: readonly Slot[], demand: readonly number[], there: readonly number[], costs: readonly number[]) {
  for (let count = 1; count <= there.reduce((a, b) => a + b, 0); count++) {
    const laid = choicesOf(there, count, 1e6)!
      .filter((chosen) => Array.isArray(layInto(of, demand, listed(chosen), { left: 1e7 })))
      .map((chosen) => chosen.reduce((sum, n, b) => sum + n * costs[b]!, 0));
    if (laid.length > 0) return { count, boxes: Math.min(...laid) };
  }
  return null;
}

test('a plan that is called the cheapest is as cheap as trying everything finds one, whole, and in the stock', () => {
  let known = 0;
  fc.assert(
    fc.property(slots, counts, stock, fc.tuple(fc.nat(9), fc.nat(9)), (of, demand, there, costs) => {
      const most = there.reduce((a, b) => a + b, 0);
      const found = cheapestPlan({ slots: of, demand, stock: there, most, costs });
      if (!found?.proved) return;
      known += 1;
      const best = byTrying(of, demand, there, costs);
      expect({ count: found.loads.length, boxes: found.boxes }).toEqual(best);
      expect(demand.map((_, k) => found.loads.reduce((sum, l) => sum + l.counts[k]!, 0))).toEqual(demand);
      for (const l of found.loads) expect(liesIn(of[l.slot]!, l.counts)).toBe(true);
      const used = there.map((_, b) => found.loads.filter((l) => of[l.slot]!.box === b).length);
      expect(used.every((n, b) => n <= there[b]!)).toBe(true);
      expect(used.reduce((sum, n, b) => sum + n * costs[b]!, 0)).toBe(found.boxes);
    }),
    { numRuns: 600 },
  );
  expect(known).toBeGreaterThan(150);
});

test('what divided packs need is never more than what whole ones need', () => {
  fc.assert(
    fc.property(slots, counts, stock, (of, demand, there) => {
      const most = there.reduce((a, b) => a + b, 0);
      const bound = roomBound({ slots: of, demand, stock: there, most, cost: () => 1 });
      const best = byTrying(of, demand, there, [1, 1]);
      if (bound?.short) expect(best).toBeNull();
      else if (bound && best) expect(bound.value).toBeLessThanOrEqual(best.count + 1e-6);
    }),
    { numRuns: 300 },
  );
});
