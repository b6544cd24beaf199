import { LOOK_GROUPS } from '../logbook/entry';
import { FINDINGS, findingOf, GROUP_FINDINGS, OTHER_FINDINGS } from './findings';

/** Found by readings alone: no look shows them. */
const MEASURED = [
  'container-smell',
  'over-voltage',
  'reversed-cell',
  'deep-discharge-severe',
  'imbalance-severe',
  'container-alarm',
  'drifts',
  'in-incident',
  'swelling-spent',
];

test('every finding is offered at exactly one look or among the papers, unless only readings show it', () => {
  const offered = [...LOOK_GROUPS.flatMap((g) => GROUP_FINDINGS[g]), ...OTHER_FINDINGS];
  expect(offered.filter((code) => findingOf(code) === undefined)).toEqual([]);
  expect(new Set(offered).size).toBe(offered.length);
  expect([...offered, ...MEASURED].sort()).toEqual(FINDINGS.map((f) => f.code).sort());
  // Each is told apart by its words.
  expect(new Set(FINDINGS.map((f) => f.words)).size).toBe(FINDINGS.length);
});
