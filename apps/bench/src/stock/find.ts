import { type Condition, findPack } from '@gavrel/core';
import type { PackLine } from '../state/rulings';

/** A line that fits, with what was forgiven. */
export interface Found extends PackLine {
  readonly forgave: readonly string[];
}

/** Lines that fit a search, by tag, type code, spare or serial number; look-alike characters are forgiven, and said. */
export function find(lines: readonly PackLine[], search: string, condition: Condition | null): Found[] {
  return lines.flatMap((l) => {
    if (condition !== null && l.condition !== condition) return [];
    const forgave = findPack(l.columns, search);
    return forgave === null ? [] : [{ ...l, forgave }];
  });
}
