import fc from 'fast-check';
import type { Bodies, Kind } from '../../logbook/entry';
import { courseOf, endlessMachine, type StagedScenario } from '../staged/scenario';
import { actStaged, betStaged, rulingOn, stagedDebrief, type StagedSession, writeStaged } from '../staged/session';
import { chargeShown, type MachineAction } from './acts';
import { reacts, type TrueMachine } from './machine';
import { MACHINES } from './machines';

let n = 0;
const write = (s: StagedSession, kind: Kind, body: unknown): StagedSession =>
  writeStaged(s, { id: `e0000000-0000-4000-8000-${String((n += 1)).padStart(12, '0')}`, kind, body: body as Bodies[Kind] });
const begin = (of: StagedScenario): StagedSession => ({ course: courseOf(of), actions: [], bet: null, own: [] });
const machineIn = (s: StagedScenario): TrueMachine => ('machine' in s ? s.machine : null)!;
const CLOSED = MACHINES.filter((s) => !reacts(machineIn(s)));

/** Does it, and writes down what it shows. */
function scribe(m: TrueMachine, s: StagedSession, action: string): StagedSession {
  const after = actStaged(s, action);
  if (after === s) return s;
  switch (action as MachineAction) {
    case 'owner':
      return write(after, 'intake-noted', m.owner);
    case 'hands':
      return write(after, 'triaged', m.hands);
    case 'eyes':
      return write(after, 'intake-noted', m.eyes);
    case 'shown':
    case 'run-down':
      return write(after, 'intake-noted', { charge: chargeShown(m, after.actions as MachineAction[]) });
    default:
      return after;
  }
}
const played = (of: StagedScenario, before: readonly string[]) => before.reduce((s, a) => scribe(machineIn(of), s, a), begin(of));
const onward = (s: StagedSession, after: readonly string[]) => after.reduce(actStaged, betStaged(s, rulingOn(s).word, 0.9));

test.each(CLOSED.map((s) => [s.id, s] as const))('%s: who writes down what is shown has full marks', (_id, of) => {
  const { before, after } = courseOf(of).way;
  const d = stagedDebrief(onward(played(of, before), after));
  expect(d).toMatchObject({ full: true, writing: { wrong: [], left: [] } });
});

test('written down as it is shown, any machine is ruled on as the bench would have it', () => {
  fc.assert(
    fc.property(fc.nat(100_000), fc.shuffledSubarray(['owner', 'hands', 'eyes', 'shown']), (seed, acts) => {
      const of = endlessMachine(seed);
      fc.pre(!reacts(machineIn(of)));
      const own = played(of, acts);
      const bench: StagedSession = { course: own.course, actions: own.actions, bet: null };
      expect(rulingOn(own)).toEqual(rulingOn(bench));
      // Without the writing there is nothing to rule on.
      expect(rulingOn({ ...own, own: [] }).word).not.toBe('open now');
    }),
    { numRuns: 100 },
  );
});

describe('written otherwise', () => {
  const of = CLOSED.find((s) => machineIn(s).hands.lid === 'flush')!;
  const m = machineIn(of);
  test.each([
    ['before anybody looked', begin(of), 'triaged', { lid: 'flush' }, /flush: nothing had shown it/],
    ['than it is', actStaged(begin(of), 'hands'), 'triaged', { ...m.hands, lid: 'not flush' }, /not flush: it was/],
    ['than it shows', actStaged(begin(of), 'shown'), 'intake-noted', { charge: m.charge + 1 }, /charge \d+ %: it was charge/],
  ] as const)('%s', (_why, s, kind, body, words) => {
    const d = stagedDebrief(onward(write(s, kind, body), []));
    expect(d.writing.wrong).toEqual([expect.stringMatching(words)]);
    expect(d.full).toBe(false);
  });
  test('a slip of the finger is another answer; one of before waits as in the workshop, and the danger of it stays', () => {
    const slip = write(write(actStaged(begin(of), 'hands'), 'triaged', { base: 'rocks' }), 'triaged', { base: 'steady' });
    expect(slip.own).toHaveLength(1);
    const late = write(actStaged(write(actStaged(begin(of), 'hands'), 'triaged', { base: 'rocks' }), 'eyes'), 'triaged', {
      base: 'steady',
    });
    expect(late.own).toHaveLength(2);
    expect(rulingOn(late).reasons).not.toEqual(rulingOn(slip).reasons);
  });
  test('what is left out is told, and after the bet nothing is written', () => {
    const s = actStaged(begin(of), 'hands');
    expect(stagedDebrief(onward(s, [])).writing.left).toHaveLength(4);
    const over = betStaged(s, 'do not open', 0.5);
    expect(write(over, 'triaged', m.hands)).toBe(over);
  });
});
