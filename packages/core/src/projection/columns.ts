import { mergeLabels } from '../condition/label';
import type { PackFacts } from '../logbook/fold';
import { foldedCode, matchCode } from '../pack/type-code';

/** What lists show of a pack and find it by. */
export interface PackColumns {
  readonly tag: string;
  /** Type code as it stands on the label; empty where nobody read one. */
  readonly code: string;
  /** What a pack is found by: tag, type code, spare number and serial number, as far as they are known. */
  readonly keys: readonly string[];
}

/** The columns of a pack, the same on a device and on the server. */
export function packColumns(facts: PackFacts): PackColumns {
  const { typeCode, spareNumber, serial } = mergeLabels(facts.labels).all;
  const keys = [facts.tag, typeCode, spareNumber, serial].filter((k): k is string => k !== undefined && k !== '');
  return { tag: facts.tag, code: typeCode ?? '', keys };
}

/** The keys as one text to search in, look-alike characters made one; a blank, which no search holds, between them. */
export const searchText = ({ keys }: PackColumns): string => keys.map(foldedCode).join(' ');

/**
 * Is the pack found by these words? Words of nothing find all.
 * @returns the characters that were taken for others, none where it fits as it stands; null where it is not found.
 */
export function findPack({ keys }: PackColumns, words: string): readonly string[] | null {
  if (foldedCode(words) === '') return [];
  const matches = keys.map((k) => matchCode(words, k));
  if (matches.some((m) => m.kind === 'exact')) return [];
  return matches.flatMap((m) => (m.kind === 'forgiven' ? [m.pairs] : []))[0] ?? null;
}
