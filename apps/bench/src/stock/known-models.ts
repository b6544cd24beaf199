import { modelKey, type NotebookFacts } from '@gavrel/core';

export interface KnownModel {
  readonly maker: string;
  readonly model: string;
}

/**
 * Models that came before, those that came last first, each once whatever its case.
 * @param typed what stands in the fields so far: both must fit the beginning of a word. @param most how many.
 */
export function knownModels(notebooks: readonly NotebookFacts[], typed: KnownModel, most: number): KnownModel[] {
  const starts = (text: string, beginning: string) => ` ${modelKey('', text)}`.includes(` ${modelKey('', beginning)}`);
  const found = new Map<string, KnownModel>();
  for (const n of [...notebooks].sort((a, b) => (a.lastAt < b.lastAt ? 1 : -1))) {
    if (n.maker === '' || n.model === '' || !starts(n.maker, typed.maker) || !starts(n.model, typed.model)) continue;
    const key = modelKey(n.maker, n.model);
    if (!found.has(key)) found.set(key, { maker: n.maker, model: n.model });
  }
  return [...found.values()].slice(0, most);
}
