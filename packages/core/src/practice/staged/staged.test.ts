import fc from 'fast-check';
import { hurt } from '../machine/machine';
import { MACHINES } from '../machine/machines';
import { askedOf, hurtPack } from '../shipment/shipment';
import { SHIPMENTS } from '../shipment/shipments';
import { STORES } from '../yard/stores';
import { courseOf, endlessMachine, endlessShipment, endlessStore, type StagedScenario, type WrittenStaged } from './scenario';
import { actStaged, betStaged, rulingOn, stagedDebrief, stagedOver, type StagedSession } from './session';

const begin = (s: StagedScenario): StagedSession => ({ course: courseOf(s), actions: [], bet: null });
/** Somebody who knows the rules does the first part, bets what they say, and goes on. */
const play = (s: StagedScenario, before: readonly string[], after: readonly string[]): StagedSession => {
  const first = before.reduce(actStaged, begin(s));
  return after.reduce(actStaged, betStaged(first, rulingOn(first).word, 0.9));
};
/** What was written in one list, parted where the second part begins. */
const written = (s: WrittenStaged, actions: readonly string[]) => {
  const { before } = courseOf(s);
  // What is in both parts is done first where nothing of the second part came before it.
  const n = actions.findIndex((a) => !before.includes(a));
  return n < 0 ? play(s, actions, []) : play(s, actions.slice(0, n), actions.slice(n));
};
const SEED = fc.integer({ min: 0, max: 2 ** 30 });
const KINDS = fc.constantFrom(endlessMachine, endlessShipment, endlessStore);

describe.each([...MACHINES, ...SHIPMENTS, ...STORES].map((s) => [s.id, s] as const))('%s', (_id, s) => {
  test('an expert has full marks, and a careless hand has not and is told why', () => {
    const good = written(s, s.expert);
    expect(good.actions).toEqual(s.expert);
    expect(stagedDebrief(good)).toMatchObject({ harm: [], slips: [], full: true });
    const bad = stagedDebrief(written(s, s.careless));
    expect(bad.full).toBe(false);
    expect(bad.harm.length + bad.slips.length).toBeGreaterThan(0);
  });
});

/** Steps that every way needs wherever they are on it; a look that finds nothing new is only missed where it matters. */
const NEEDED =
  /^(off|unplug|outer|map|plastic|shoulders|drain|dead|trained|run-down|down|tape|inner|plain|un|paper|hand|.*mark|class9|cargo-only|sand|date|carry|called|hourly|daily|months|done|leave)$/;

test('the way that is told has full marks, and no step of it can be left out', () => {
  fc.assert(
    fc.property(KINDS, SEED, fc.nat(), (make, seed, k) => {
      const s = make(seed);
      const { before, after } = courseOf(s).way;
      expect(stagedDebrief(play(s, before, after)).full).toBe(true);
      const all = [...before, ...after];
      const out = all[k % all.length]!;
      const left = (part: readonly string[]) => part.filter((a) => a !== out);
      // What may go nowhere may go nowhere unseen; what goes on must have been looked at.
      if (NEEDED.test(out) || (out === 'look' && after.length > 0))
        expect(stagedDebrief(play(s, left(before), left(after))).full).toBe(false);
    }),
    { numRuns: 200 },
  );
});

test('whatever is done: harm is never full marks, nothing happens after the end, and a session opened again is the same', () => {
  fc.assert(
    fc.property(KINDS, SEED, fc.infiniteStream(fc.nat()), fc.nat({ max: 10 }), (make, seed, order, n) => {
      const s = make(seed);
      const course = courseOf(s);
      const all = [...new Set([...course.before, ...course.after])];
      const actions = all
        .map((a) => [a, order.next().value as number] as const)
        .sort((a, b) => a[1] - b[1])
        .map(([a]) => a);
      const first = actions.slice(0, n).reduce(actStaged, begin(s));
      const bet = betStaged(first, rulingOn(first).word, 0.7);
      const played = actions.slice(n).reduce(actStaged, bet);
      const d = stagedDebrief(played);
      if (d.harm.length > 0 || d.slips.length > 0) expect(d.full).toBe(false);
      const end = played.actions.findIndex((_, i) =>
        stagedOver({ ...played, actions: played.actions.slice(0, i + 1), bet: null }),
      );
      if (end >= 0) expect(played.actions.length).toBe(end + 1);
      expect(stagedDebrief({ ...played, course: courseOf(make(seed)) })).toEqual(d);
    }),
    { numRuns: 200 },
  );
});

test('what is hurt is neither charged nor discharged, opened by the trained person or not at all, and sent as damaged or not at all', () => {
  fc.assert(
    fc.property(SEED, (seed) => {
      const [m, p] = [endlessMachine(seed), endlessShipment(seed)];
      if ('machine' in m && hurt(m.machine)) {
        const { way } = courseOf(m);
        expect(way.before).not.toContain('run-down');
        if (way.after.includes('plastic')) expect(way.before).toContain('trained');
      }
      if ('shipment' in p && hurtPack(p.shipment)) {
        const { way, ruled } = courseOf(p);
        expect(way.before).not.toContain('down');
        expect(ruled(way.before).word).not.toBe('yes');
        // Nothing that flies; on the road each in a packing of its own.
        if (/air/.test(p.shipment.mode)) expect(way.after).toEqual([]);
        if (way.after.length > 0) expect(askedOf(p.shipment, way.before)).toMatchObject({ inner: true, un: true });
      }
    }),
    { numRuns: 200 },
  );
});
