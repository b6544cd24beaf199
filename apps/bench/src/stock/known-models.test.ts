import type { NotebookFacts } from '@gavrel/core';
import { knownModels } from './known-models';

const came = (maker: string, model: string, lastAt: string) => ({ maker, model, lastAt }) as NotebookFacts;
const BOOKS = [
  came('Mereline', 'Gannet 14', '2026-11-01'),
  came('mereline', 'gannet  14', '2026-11-20'),
  came('Skarn', 'Plover 13', '2026-11-25'),
  came('', 'Plover 13', '2026-11-26'),
  came('Brinehart', 'Cove dock', '2026-10-01'),
];

test('each model once, the last that came first, and none without its maker', () => {
  const models = (maker: string, model: string, most = 9) => knownModels(BOOKS, { maker, model }, most).map((m) => m.model);
  expect(models('', '')).toEqual(['Plover 13', 'gannet  14', 'Cove dock']);
  expect(models('', '', 2)).toHaveLength(2);
  // By the beginning of any word, in either field, and by both at once.
  expect([models('', '14'), models('mer', ''), models('skarn', 'gan')]).toEqual([['gannet  14'], ['gannet  14'], []]);
});
