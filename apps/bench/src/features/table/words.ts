import { factWords } from '@gavrel/core';
import { type Problem, type Ruled, wordOfRow } from '@gavrel/core/batch';

export type Word = ReturnType<typeof wordOfRow>;

export const MARK: Record<Word, string> = {
  allowed: '○',
  'as damaged': '△',
  split: '◫',
  hold: '…',
  approval: '✎',
  forbidden: '×',
  problem: '?',
};

export const wordOf = (r: Ruled) => `${MARK[wordOfRow(r)]} ${wordOfRow(r)}`;
/** Columns by what they mean, and what is wrong with them. */
export const problemWords = (p: Problem) => `${p.column.split(', ').map(factWords).join(', ')}: ${p.words}`;
export const waitsFor = (r: Ruled) => r.missing.map(factWords).join(', ');
/** What a row lacks, or does not agree on, in a line. */
export const troubleOf = (r: Ruled) => r.problems[0] ?? r.contradictions[0];
