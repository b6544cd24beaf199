import fc from 'fast-check';
import { RANK } from '../condition/ladder';
import { CONDITIONS } from '../logbook/entry';
import { type Action, ACTIONS } from './actions';
import { DIFFICULTIES, endless, GRADES, packOf, type Scenario } from './scenario';
import { WRITTEN } from './grades';
import { SCENARIOS } from './scenarios';
import { act, debrief, foundBy, harmsOf, isOver, mayDo, placeBet, rulingOf, type Session } from './session';
import { dangerous } from './world';

const begin = (scenario: Scenario): Session => ({ scenario, actions: [], bet: null });
const play = (s: Scenario, actions: readonly Action[]): Session => actions.reduce(act, begin(s));
/** Somebody who knows the rules bets what they say. */
const ended = (s: Scenario, actions: readonly Action[]) => {
  const played = play(s, actions);
  return debrief(placeBet(played, { condition: rulingOf(played).judgement.condition, sure: 0.9 }));
};
const ANY = fc.shuffledSubarray(Object.keys(ACTIONS) as Action[]);
const SEED = fc.integer({ min: 0, max: 2 ** 30 });
const HARD = fc.constantFrom(...DIFFICULTIES);

describe.each(SCENARIOS.map((s) => [s.id, s] as const))('%s', (_id, s) => {
  test('an expert has full marks, and what was done is all that is needed', () => {
    expect(play(s, s.expert).actions).toEqual(s.expert);
    expect(ended(s, s.expert)).toMatchObject({ harm: [], before: null, missed: [], full: true });
    expect(ended(s, s.expert).settled === 'sound').toBe(s.faults.length === 0);
  });
  test('a careless hand has not, and is told why', () => {
    const d = ended(s, s.careless);
    expect(d.full).toBe(false);
    expect(d.harm.length + d.missed.length + (d.before ? 1 : 0)).toBeGreaterThan(0);
  });
});

test('ids are each others, every grade has something, and no title or story names what is wrong', () => {
  expect(new Set(WRITTEN.map((s) => s.id)).size).toBe(WRITTEN.length);
  for (const g of GRADES) expect(WRITTEN.filter((s) => s.grade === g).length).toBeGreaterThanOrEqual(5);
  for (const s of WRITTEN)
    expect(`${s.title} ${s.story}`).not.toMatch(
      /swollen|counterfeit|punctured|imbalance|deep|rebuilt|short|gauge failed|solvent/i,
    );
});

test('whatever is done in whatever order: no danger ends sound with everything read, and a session opened again is the same', () => {
  fc.assert(
    fc.property(SEED, HARD, ANY, (seed, hard, actions) => {
      const s = endless(seed, hard);
      const played = play(s, actions);
      const again = JSON.parse(JSON.stringify(played)) as Session;
      expect(foundBy(again)).toEqual(foundBy(played));
      expect(debrief(again)).toEqual(debrief(played));
      if (dangerous(packOf(s))) expect(debrief(played).settled).not.toBe('sound');
      // Harm is told whenever something dangerous was done, whatever else went well.
      const d = debrief(played);
      if (d.harm.length > 0 || d.before !== null) expect(d.full).toBe(false);
      // Nothing happens after the end.
      const end = played.actions.findIndex((_, i) => isOver({ ...played, actions: played.actions.slice(0, i + 1) }));
      if (end >= 0) expect(played.actions).toHaveLength(end + 1);
    }),
    { numRuns: 120 },
  );
});

test('the quickest ways lead where the whole record leads, and none is quicker', () => {
  fc.assert(
    fc.property(SEED, HARD, (seed, hard) => {
      const s = endless(seed, hard);
      const { ways, settled } = debrief(begin(s));
      for (const w of ways) expect(rulingOf({ scenario: s, actions: w.acts, bet: null }).judgement.condition).toBe(settled);
      expect([...ways].sort((a, b) => a.minutes - b.minutes)).toEqual(ways);
    }),
    { numRuns: 40 },
  );
});

test('more looking never makes a danger milder', () => {
  fc.assert(
    fc.property(
      SEED,
      HARD,
      fc.shuffledSubarray(['look', 'label', 'weigh', 'temperature', 'thickness', 'gauge', 'cells'] as Action[]),
      (seed, hard, acts) => {
        const s = endless(seed, hard);
        if (s.reacting) return;
        let worst = 0;
        for (let n = 1; n <= acts.length; n++) {
          const rank = RANK[rulingOf({ scenario: s, actions: acts.slice(0, n), bet: null }).judgement.condition];
          if (worst >= RANK.damaged) expect(rank).toBeGreaterThanOrEqual(RANK.damaged);
          worst = Math.max(worst, rank);
        }
      },
    ),
    { numRuns: 60 },
  );
});

test('a bet counts once, by the square of how far it was off; nothing is done after it', () => {
  const s = SCENARIOS.find((x) => x.id === 'thick-1')!;
  const played = play(s, ['look']);
  const bet = placeBet(played, { condition: 'damaged', sure: 0.9 });
  expect(debrief(bet).brier).toBeCloseTo(0.01, 9);
  expect(debrief(placeBet(played, { condition: 'sound', sure: 0.9 })).brier).toBeCloseTo(0.81, 9);
  expect(placeBet(bet, { condition: 'sound', sure: 0.5 })).toBe(bet);
  expect(act(bet, 'label')).toBe(bet);
  expect(CONDITIONS.every((c) => debrief(placeBet(played, { condition: c, sure: 0.5 })).brier === 0.25)).toBe(true);
});

test('the same shortcut hurts with a fault in the pack and is told off without', () => {
  const [bad, good] = ['volts-3', 'judge-1'].map((id) => SCENARIOS.find((s) => s.id === id)!);
  const harm = (s: Scenario) => harmsOf(play(s, ['charge']))[0]!;
  expect([harm(bad!).ends, harm(good!).ends]).toEqual([true, false]);
  expect(mayDo(play(bad!, ['charge']), 'look')).toBe(false);
  expect(mayDo(play(good!, ['charge']), 'look')).toBe(true);
});

test('the harder, the fewer a look, the label, the scale and the gauge find out; what is plain a look finds alone', () => {
  const found = (hard: (typeof DIFFICULTIES)[number], acts: readonly Action[]) => {
    const all = Array.from({ length: 120 }, (_, seed) => endless(seed, hard)).filter((s) => s.faults.length > 0);
    expect(all.length).toBeGreaterThan(40);
    return all.filter((s) => ended(s, acts).found).length / all.length;
  };
  const [plain, measured, subtle] = DIFFICULTIES.map((hard) => found(hard, ['look', 'label', 'weigh', 'gauge']));
  expect(found('plain', ['look'])).toBe(1);
  expect(plain).toBeGreaterThan(measured!);
  expect(measured).toBeGreaterThan(subtle!);
  expect(subtle).toBeGreaterThan(0);
});
