import * as checks from '@gavrel/contract/schemas';
import { act, debrief, flawOf, placeBet, rulingOf, SCENARIOS } from '@gavrel/core/practice';
import fc from 'fast-check';
import { exampleFile, readScenarios, withOwn, withoutOwn } from './own';
import { NOTHING_YET, scenarioOf } from './record';

const example = () => (JSON.parse(exampleFile()) as Record<string, unknown>[])[0]!;
const read = (change: object) => readScenarios(JSON.stringify({ ...example(), ...change }), checks);

test('the example is taken as it stands, played, and taken again as a newer one; ours keep their names', () => {
  const { scenarios, errors } = readScenarios(exampleFile(), checks);
  expect(errors).toEqual([]);
  const [mine] = scenarios;
  const r = withOwn(withOwn(NOTHING_YET, scenarios), [{ ...mine!, title: 'Mended' }]);
  expect(r.own).toHaveLength(1);
  expect(scenarioOf(mine!.id, r.own)?.title).toBe('Mended');
  const begun = act({ scenario: mine!, actions: [], bet: null }, 'look');
  const ended = placeBet(begun, { condition: rulingOf(begun).judgement.condition, sure: 0.7 });
  expect(debrief(ended).ways.length).toBeGreaterThan(0);
  expect(withoutOwn(r, mine!.id).own).toEqual([]);
  for (const s of SCENARIOS) {
    const { expert: _e, careless: _c, ...plain } = s;
    const taken = readScenarios(JSON.stringify(plain), checks);
    expect([s.id, taken.errors, taken.scenarios[0]?.id]).toEqual([s.id, [], `own-${s.id}`]);
    expect(scenarioOf(s.id, taken.scenarios)).toBe(s);
  }
});

test.each([
  ['no JSON', '{ "id": ', /not JSON/],
  ['another file', '{"maker":"Tern"}', /id is required/],
  ['an unknown fault', JSON.stringify({ ...example(), faults: ['cursed'] }), /faults\[0\] must be one of.*swollen/],
  ['an unknown grade', JSON.stringify({ ...example(), grade: 'magic' }), /grade must be one of/],
  ['words for a number', JSON.stringify({ ...example(), set: { growth: 'much' } }), /growth must be a number/],
  [
    'a figure no pack has',
    JSON.stringify({ ...example(), set: { surfaceC: 900 } }),
    /surfaceC must be less than or equal to 150/,
  ],
  ['a field that means nothing', JSON.stringify({ ...example(), prize: 3 }), /prize is not allowed/],
  ['the same name twice', JSON.stringify([example(), example()]), /contains a duplicate/],
  ['an empty list', '[]', /at least 1/],
])('%s is named, and nothing is taken', (_what, text, words) => {
  const { scenarios, errors } = readScenarios(text, checks);
  expect(scenarios).toEqual([]);
  expect(errors.join('\n')).toMatch(words);
});

test('a story that its own pack contradicts cannot be practised', () => {
  const hidden = read({ faults: ['swollen'], set: { growth: 2 } });
  expect(hidden.errors.join()).toMatch(/says (sound|spent): nobody could find “swollen”/);
  expect(read({ faults: [], set: { growth: 30 } }).errors.join()).toMatch(
    /nothing is said to be wrong with it, but everything read says damaged/,
  );
  expect(read({ faults: [], set: { series: 3, cells: [3.7, 3.7] } }).errors.join()).toMatch(/2 cells are given for 3 in series/);
  expect(read({ set: { series: 3 } }).errors.join()).toMatch(/cells/);
});

test('whatever stands in a file, it is taken or refused in words; what is taken can be played to its end', () => {
  const odd = fc.record(
    {
      seed: fc.nat(),
      faults: fc.subarray(['swollen', 'dent', 'hot', 'imbalance', 'x']),
      set: fc.dictionary(fc.constantFrom('growth', 'surfaceC', 'drift', 'health'), fc.double()),
    },
    { requiredKeys: [] },
  );
  fc.assert(
    fc.property(
      fc.oneof(
        fc.json(),
        odd.map((o) => JSON.stringify({ ...example(), ...o })),
        fc.string(),
      ),
      (text) => {
        const { scenarios, errors } = readScenarios(text, checks);
        expect(scenarios.length > 0).toBe(errors.length === 0);
        for (const scenario of scenarios) {
          expect(flawOf(scenario)).toBeNull();
          const { settled, truth } = debrief({ scenario, actions: ['look'], bet: { condition: 'sound', sure: 0.5 } });
          expect(truth.length > 0).toBe(!['sound', 'spent'].includes(settled));
        }
      },
    ),
    { numRuns: 60 },
  );
});
