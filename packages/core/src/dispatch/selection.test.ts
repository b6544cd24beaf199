import { DEFAULT_POLICY } from '../logbook/fold';
import { SHIPPING } from '../shipping/rulebook';
import { ON, SMALL } from '../shipping/testing';
import { type Chosen, chosenLoad, chosenMatrix, draftBand, fromMemory } from './selection';

const chosen = (tag: string, more: object = {}): Chosen => ({
  id: tag,
  tag,
  shipping: { ...SMALL, conditionKnown: true, mass: 0.5, package: { packs: 1 }, ...more },
});
const cell = (packs: readonly Chosen[], mode: string, purpose = 'use', placement = 'loose') =>
  chosenMatrix(packs, ON).find((c) => c.mode === mode && c.purpose === purpose && c.placement === placement)!;

test('the worst pack decides, and stands first', () => {
  const packs = [chosen('A'), chosen('B', { findings: ['swollen'] }), chosen('C'), chosen('D', { typeTested: undefined })];
  expect(cell(packs, 'road')).toMatchObject({ word: 'hold', going: 3 });
  expect(cell(packs, 'road').packs.map((p) => [p.pack.tag, p.cell.word])).toEqual([
    ['D', 'hold'],
    ['B', 'as damaged'],
    ['A', 'yes'],
    ['C', 'yes'],
  ]);
  expect(cell(packs, 'air-cargo')).toMatchObject({ word: 'no', going: 2 });
  expect(chosenMatrix([], ON)).toEqual([]);
});

// ADR 1.1.3.6, from memory: factor 3, 1000 points; small packs are free of it.
describe('in one vehicle', () => {
  const swollen = (tag: string, mass?: number) => chosen(tag, { findings: ['swollen'], mass });
  test.each([
    [[chosen('A', { mass: 900 })], 0, true],
    [[swollen('A', 333)], 999, true],
    [[swollen('A', 200), swollen('B', 134)], 1002, false],
    [[chosen('A', { findings: undefined, conditionKnown: false, mass: 334 })], 1002, false],
    [[chosen('A', { findings: ['hissing'], mass: 0.3 })], 0.9, false],
    [[chosen('A', { findings: ['hissing'], mass: undefined })], 0, false],
    [[swollen('A', 1), swollen('B')], 3, false],
  ] as const)('load %#', (packs, points, relief) => {
    const load = chosenLoad(cell(packs, 'road'));
    expect(load.points).toBeCloseTo(points, 6);
    expect(load.relief).toBe(relief);
  });
  test('what was not weighed, and what has no figure at all, is named', () => {
    const bound = chosen('B', { findings: ['swollen'], mass: undefined, package: { packs: 1, netKg: 0.6 } });
    expect(chosenLoad(cell([swollen('A'), bound], 'road'))).toMatchObject({ notWeighed: ['B'], unknown: ['A'], netKg: 0.6 });
  });
});

test('a paper is a draft until every rule it rests on was compared with its own edition', () => {
  const rules = cell([chosen('A')], 'road').packs[0]!.cell.result.rules;
  const left = fromMemory(rules, ON, DEFAULT_POLICY);
  expect(left.map((r) => r.id)).toContain('road.188');
  expect(draftBand(left)).toMatch(/^Draft, from memory: check .*ADR\/RID 2025/);
  const check = (edition: (id: string) => string) => ({
    checked: Object.fromEntries(rules.map((rule) => [rule, { rule, edition: edition(rule), on: ON }])),
  });
  expect(
    draftBand(
      fromMemory(
        rules,
        ON,
        check((id) => SHIPPING.shown(id, ON).edition ?? 'printed'),
      ),
    ),
  ).toBeNull();
  expect(
    fromMemory(
      rules,
      ON,
      check(() => 'another'),
    ).map((r) => r.id),
  ).toContain('road.188');
});
