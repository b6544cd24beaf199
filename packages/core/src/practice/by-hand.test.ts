import fc from 'fast-check';
import { GROUP_FINDINGS } from '../condition/findings';
import { type Bodies, type Kind, LOOK_GROUPS, type ReadingBody } from '../logbook/entry';
import type { Action } from './actions';
import { ACTIONS } from './actions';
import type { OwnEntry } from './by-hand';
import { DIFFICULTIES, endless, type Scenario } from './scenario';
import { SCENARIOS } from './scenarios';
import { act, debrief, foundBy, placeBet, recordOf, rulingOf, type Session, writeOwn } from './session';

/** What the keypad offers as a rest, minutes. */
const RESTS = [0, 10, 30, 120, 300];
const restOf = (minutes: number) => Math.max(...RESTS.filter((r) => r <= minutes));
const id = (n: number) => `e0000000-0000-4000-8000-${String(n).padStart(12, '0')}`;

/** Somebody who writes down what is shown, as the keypad takes it. @param as how one of the entries is written otherwise; null: not at all. */
function scribe(
  scenario: Scenario,
  actions: readonly Action[],
  as: (e: Pick<OwnEntry, 'kind' | 'body'>, n: number) => Pick<OwnEntry, 'kind' | 'body'> | null = (e) => e,
): Session {
  let n = 0;
  let s: Session = { scenario, actions: [], bet: null, own: [] };
  for (const a of actions) {
    const before = s.actions.length;
    s = act(s, a);
    if (s.actions.length === before) continue;
    const { entries } = foundBy(s)[before]!;
    const found = entries.flatMap((e) => (e.kind === 'finding-recorded' ? e.body.code : []));
    for (const { kind, body: shown } of entries) {
      // "Nothing" is said only of where nothing was.
      const groups = LOOK_GROUPS.filter((g) => !found.some((c) => GROUP_FINDINGS[g].includes(c)));
      const body = kind === 'looked' ? { groups } : shown;
      const b = body as Partial<ReadingBody>;
      const rested = b.restMinutes === undefined ? body : { ...b, restMinutes: restOf(b.restMinutes) };
      const e = as({ kind, body: rested as Bodies[Kind] }, n);
      if (e) s = writeOwn(s, { id: id(n), ...e });
      n += 1;
    }
  }
  return s;
}
/** Ends it with the bet of somebody who knows the rules. */
const ended = (s: Session) => debrief(placeBet(s, { condition: rulingOf(s).judgement.condition, sure: 0.9 }));
const CASES = fc.tuple(
  fc.integer({ min: 0, max: 2 ** 30 }),
  fc.constantFrom(...DIFFICULTIES),
  fc.shuffledSubarray((Object.keys(ACTIONS) as Action[]).filter((a) => a !== 'leave')),
);
const NOT_REACTING = SCENARIOS.filter((s) => !s.reacting);

test.each(NOT_REACTING.map((s) => [s.id, s] as const))('%s: who writes down what is shown has full marks', (_id, s) => {
  const d = ended(scribe(s, s.expert));
  expect(d).toMatchObject({ full: true, writing: { wrong: [], left: [] } });
});

test('written down as it is shown, the record says what the bench would have written, in any order', () => {
  fc.assert(
    fc.property(CASES, ([seed, hard, actions]) => {
      const s = endless(seed, hard);
      fc.pre(!s.reacting);
      const own = scribe(s, actions);
      const bench: Session = { scenario: s, actions: own.actions, bet: null };
      // Minutes between two of the entries differ; nothing that is judged does.
      expect(rulingOf(own).judgement.condition).toBe(rulingOf(bench).judgement.condition);
      // What ended it is not written down any more.
      if (!debrief(own).harm.some((h) => h.ends)) expect(debrief(own).writing.wrong).toEqual([]);
    }),
    { numRuns: 60 },
  );
});

test('one figure written wrong is told, and there are no full marks', () => {
  fc.assert(
    fc.property(fc.constantFrom(...NOT_REACTING), fc.nat(30), fc.integer({ min: 1, max: 9 }), (s, at, off) => {
      let wrong: string | null = null;
      const own = scribe(s, s.expert, (e, n) => {
        const b = e.body as ReadingBody;
        if (e.kind !== 'reading-taken' || wrong !== null || n < at) return e;
        const decimals = b.figure.digits.split('.')[1]?.length ?? 0;
        const digits = (Number(b.figure.digits) + (off * 2) / 10 ** decimals).toFixed(decimals);
        wrong = `${digits} ${b.figure.unit}`;
        return { ...e, body: { ...b, figure: { ...b.figure, digits } } };
      });
      fc.pre(wrong !== null);
      const d = ended(own);
      expect(d.full).toBe(false);
      expect(d.writing.wrong).toEqual([expect.stringContaining(`${wrong!}: it was`)]);
      expect(d.writing.left.length).toBeGreaterThan(0);
    }),
    { numRuns: 40 },
  );
});

test('of a pack that reacts nobody writes: the call is the record', () => {
  const s = SCENARIOS.find((x) => x.reacting)!;
  expect(ended(scribe(s, s.expert, () => null))).toMatchObject({
    full: true,
    ruled: 'critical',
    writing: { wrong: [], left: [] },
  });
});

test('nothing written is nothing on record, however much was done', () => {
  const s = SCENARIOS.find((x) => x.id === 'thick-1')!;
  const silent = scribe(s, s.expert, () => null);
  expect(rulingOf(silent).judgement.condition).toBe('unproven');
  const d = ended(silent);
  expect(d.full).toBe(false);
  expect(d.writing.left.length).toBeGreaterThan(1);
  // It was all there: nothing more had to be done.
  expect(d.missed).toEqual([]);
});

describe('out of the air', () => {
  const s = SCENARIOS.find((x) => x.id === 'thick-1')!;
  const begin: Session = { scenario: s, actions: [], bet: null, own: [] };
  const write = (to: Session, kind: Kind, body: unknown, n = 1, replaces?: string) =>
    writeOwn(to, { id: id(n), kind, body: body as Bodies[Kind], ...(replaces && { replaces }) });
  const wrong = (of: Session) => debrief(of).writing.wrong;
  const mm = (digits: string) => ({ quantity: 'thickness', point: 'centre', figure: { digits, unit: 'mm' } });
  test.each([
    ['looked', { groups: ['shape'] }, /before anybody looked/],
    ['reading-taken', mm('6.00'), /nothing had shown it/],
    ['label-read', { chemistry: 'li-ion' }, /before anybody read it/],
    ['label-read', { series: 3 }, /counted before anybody saw them/],
    ['gauge-read', { designCapacity: { digits: '5000', unit: 'mAh' } }, /before anybody read it/],
    ['finding-recorded', { code: 'punctured' }, /nothing showed it/],
    ['cycled', { went: 'as-usual' }, /not done here/],
  ] as const)('%s %j', (kind, body, words) => {
    expect(wrong(write(begin, kind, body))).toEqual([expect.stringMatching(words)]);
  });
  test('what is mended counts as mended, and what comes after the bet is not written', () => {
    const done = act(begin, 'thickness');
    const shown = foundBy(done)[0]!
      .entries.map((e) => e.body as ReadingBody)
      .find((b) => b.quantity === 'thickness')!;
    const once = write(done, 'reading-taken', mm('99'));
    expect(wrong(once)).toHaveLength(1);
    const mended = write(once, 'corrected', { body: { ...mm('0'), figure: shown.figure }, reason: 'misread' }, 2, id(1));
    expect(wrong(mended)).toEqual([]);
    expect(wrong(write(mended, 'retracted', { reason: 'no' }, 3, id(2)))).toEqual([]);
    const over = placeBet(mended, { condition: 'sound', sure: 0.5 });
    expect(write(over, 'looked', { groups: ['shape'] }, 4)).toBe(over);
  });
  test('a rest longer than it was', () => {
    const done = act(begin, 'cells at once');
    const cell = foundBy(done)[0]!
      .entries.map((e) => e.body as ReadingBody)
      .find((b) => b.quantity === 'cell-voltage')!;
    expect(wrong(write(done, 'reading-taken', { ...cell, restMinutes: 300 }))).toEqual([
      expect.stringMatching(/a rest of 300 min/),
    ]);
  });
  test('entries stand at the moment of the session, whenever that is said to have begun', () => {
    const own = scribe(s, s.expert);
    const start = Date.parse('2026-12-01T09:00:00Z');
    const { entries, now } = recordOf(own, start);
    const times = entries.map((e) => Date.parse(e.at));
    expect([...times].sort((a, b) => a - b)).toEqual(times);
    expect(times[0]).toBeGreaterThanOrEqual(start);
    expect(times[times.length - 1]).toBeLessThanOrEqual(now.getTime());
  });
});

test('an earlier reading of a cell is no second reading of it', () => {
  const s = SCENARIOS.find((x) => x.id === 'volts-5')!;
  const first = new Map<string, ReadingBody>();
  const own = scribe(s, s.expert, (e) => {
    const b = e.body as ReadingBody;
    if (e.kind !== 'reading-taken' || b.quantity !== 'cell-voltage') return e;
    const before = first.get(b.point!);
    if (before) return { ...e, body: { ...b, figure: before.figure } };
    first.set(b.point!, b);
    return e;
  });
  const { writing, full } = ended(own);
  expect(full).toBe(false);
  expect(writing.wrong.join('\n')).toMatch(/cell voltage 1 .*: it was/);
  expect(writing.left.length).toBeGreaterThan(0);
});
