import {
  act,
  type Action,
  debrief,
  endless,
  GRADES,
  gradesPassed,
  placeBet,
  rulingOf,
  SCENARIOS,
  type Session,
} from '@gavrel/core/practice';
import fc from 'fast-check';
import {
  brierOf,
  calibrationOf,
  lastOf,
  nextScenario,
  NOTHING_YET,
  practiceCsv,
  type PracticeRecord,
  scenarioOf,
  endOfPack,
  withSession,
} from './record';
import { durationWords } from './words';

const DAY = 86_400_000;
const T0 = Date.parse('2026-11-02T08:00:00.000Z');
const [first, second] = SCENARIOS as unknown as [(typeof SCENARIOS)[number], (typeof SCENARIOS)[number]];

const NO_BET = { scenario: 'x', begun: '', at: '', full: true, harm: 0, found: true, bet: null } as const;
const played = (s: (typeof SCENARIOS)[number], actions: readonly Action[]): Session => {
  const done = actions.reduce<Session>(act, { scenario: s, actions: [], bet: null });
  return placeBet(done, { condition: rulingOf(done).judgement.condition, sure: 0.9 });
};
const after = (r: PracticeRecord, s: Session, at: number): PracticeRecord =>
  withSession(r, endOfPack(s, debrief(s)), new Date(at - 60_000).toISOString(), new Date(at));

test('what went wrong comes back sooner than what went right, and before anything new', () => {
  const good = after(NOTHING_YET, played(first, first.expert), T0);
  const bad = after(NOTHING_YET, played(first, first.careless), T0);
  const due = (r: PracticeRecord) => Date.parse(r.cards[first.id]!.due);
  expect(due(bad)).toBeLessThan(due(good));
  expect(nextScenario(bad, new Date(T0))).toBe(second);
  expect(nextScenario(bad, new Date(due(bad) + DAY))).toBe(first);
});

test('one session counts once; the last one says how it stands; bets are counted by how sure they were', () => {
  const s = played(first, first.expert);
  const once = after(NOTHING_YET, s, T0);
  expect(after(once, s, T0)).toBe(once);
  const twice = after(once, played(first, first.careless), T0 + DAY);
  expect(twice.played).toHaveLength(2);
  expect(lastOf(twice, first.id)!.full).toBe(false);
  expect(calibrationOf(twice.played).reduce((n, c) => n + c.bets, 0)).toBe(2);
  expect(JSON.parse(JSON.stringify(twice))).toEqual(twice);
});

test('a grade is passed when the last try of each of its scenarios harmed nobody and found what is wrong', () => {
  const grade = SCENARIOS.filter((s) => s.grade === GRADES[0]);
  const good = grade.reduce((r, s, i) => after(r, played(s, s.expert), T0 + i * DAY), NOTHING_YET);
  expect(gradesPassed(good.played)).toEqual([GRADES[0]]);
  expect(gradesPassed(good.played.slice(1))).toEqual([]);
  expect(gradesPassed(after(good, played(grade[0]!, grade[0]!.careless), T0 + 90 * DAY).played)).toEqual([]);
  // What came later counts, in whatever order it is told.
  expect(gradesPassed([...good.played].reverse())).toEqual([GRADES[0]]);
});

test('the Brier score: 0 for what one knew, 0.25 for never saying anything, null without a bet', () => {
  const bet = (sure: number, right: boolean) => ({ ...NO_BET, bet: { sure, right } });
  expect([brierOf([]), brierOf([NO_BET]), brierOf([bet(1, true)]), brierOf([bet(0.5, true), bet(0.5, false)])]).toEqual([
    ...[null, null, 0, 0.25],
  ]);
});

test('there is always something to practise, whatever was practised, with any clock', () => {
  fc.assert(
    fc.property(
      fc.array(fc.tuple(fc.constantFrom(...SCENARIOS), fc.boolean(), fc.integer({ min: -400, max: 400 })), { maxLength: 12 }),
      fc.integer({ min: -400, max: 400 }),
      (all, day) => {
        const r = all.reduce(
          (rec, [s, good, d]) => after(rec, played(s, good ? s.expert : s.careless), T0 + d * DAY),
          NOTHING_YET,
        );
        const next = nextScenario(r, new Date(T0 + day * DAY));
        expect(scenarioOf(next.id)).toEqual(next);
      },
    ),
    { numRuns: 25 },
  );
});

test('the record as a table: one line a session, titles with commas in one cell', () => {
  const smell = SCENARIOS.find((s) => s.title.includes(','))!;
  const r = after(after(NOTHING_YET, played(smell, smell.expert), T0), played(first, first.careless), T0 + DAY);
  const lines = practiceCsv(r.played).split('\r\n');
  expect(lines).toHaveLength(3);
  expect(lines[1]).toBe(`2026-11-02T07:59:00.000Z,2026-11-02T08:00:00.000Z,"${smell.title}",signs,0,yes,yes,90,yes`);
  expect(lines[2]).toContain(`,${first.title},label and sums,1,`);
});

test('an address names one scenario or none', () => {
  expect(scenarioOf('endless-subtle-42')).toEqual(endless(42, 'subtle'));
  for (const id of [
    '',
    'endless-',
    'endless-42',
    'endless-plain--1',
    'endless-odd-4',
    'endless-plain-99999999999',
    'x',
    '../more',
  ])
    expect(scenarioOf(id)).toBeNull();
});

test.each([
  [1, '1 min'],
  [60, '1 h'],
  [250, '4 h 10 min'],
  [17_290, '12 days'],
  [0, '0 min'],
])('%d minutes are %s', (n, words) => expect(durationWords(n)).toBe(words));
