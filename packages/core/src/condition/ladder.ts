import { NOT_CLEARED } from '../coherence/of-pack';
import type { Condition } from '../logbook/entry';
import { findingOf, SMELL_WITH } from './findings';

/** Least to most dangerous. */
export const RANK: Record<Condition, number> = { sound: 0, spent: 1, unproven: 2, damaged: 3, critical: 4 };

export interface CodeFacts {
  /** Active finding codes; undefined: nobody has looked. An empty list: looked, nothing found. */
  readonly findings?: readonly string[];
  /** Soft findings cleared in writing: all of them, or by code. */
  readonly cleared?: boolean | readonly string[];
  /** The maker's own statement that a recall does not concern this pack. */
  readonly makerCleared?: boolean;
  /** False: nobody has looked yet, whatever the list says, except critical and damaged codes. */
  readonly conditionKnown?: boolean;
  /** Critical codes that 24 quiet hours have ended: they stay `damaged` for good. */
  readonly quieted?: readonly string[];
  /** What growth the workshop allows; where it allows none, growth within an allowance is swollen. */
  readonly swelling?: 'any' | 'allowance' | undefined;
}

export interface LadderResult {
  readonly condition: Condition;
  readonly kind: 'reacting' | 'unstable' | null;
  /** Codes that decided, most dangerous first. */
  readonly because: readonly string[];
  readonly unknownCodes: readonly string[];
}

/**
 * The condition that a set of finding codes means. Adding a code never lowers it; clearing acts on soft findings only; an
 * unknown code is `unproven` unless another makes it worse. Source: SP 376 with its note, substance from memory; order and
 * classes are our cautious reading.
 */
export function ladder(f: CodeFacts): LadderResult {
  const asFound = f.findings ?? [];
  const codes = [...new Set(f.swelling === 'allowance' ? asFound : asFound.map((c) => (c === 'swelling-spent' ? 'swollen' : c)))];
  const unknownCodes = codes.filter((c) => !findingOf(c));
  const quieted = new Set(f.quieted ?? []);
  const of = (cls: string) => codes.filter((c) => findingOf(c)?.class === cls);

  const reacting = of('reacting').filter((c) => !quieted.has(c));
  if (reacting.length > 0) return { condition: 'critical', kind: 'reacting', because: reacting, unknownCodes };
  const unstable = of('unstable').filter((c) => !quieted.has(c));
  const smellWith = codes.includes('smell') && !quieted.has('smell') ? codes.filter((c) => SMELL_WITH.includes(c)) : [];
  if (unstable.length > 0 || smellWith.length > 0) {
    const because = [...unstable, ...(smellWith.length > 0 ? ['smell', ...smellWith] : [])];
    return { condition: 'critical', kind: 'unstable', because, unknownCodes };
  }

  const named = (code: string) => f.cleared === true || (Array.isArray(f.cleared) && f.cleared.includes(code));
  const isCleared = (code: string) => !NOT_CLEARED.includes(code) && named(code);
  const soft = of('soft');
  const damaged = [
    ...codes.filter((c) => quieted.has(c)),
    ...of('hard'),
    ...(f.makerCleared === true ? [] : of('recall')),
    ...soft.filter((c) => !isCleared(c)),
  ];
  if (damaged.length > 0) {
    return { condition: 'damaged', kind: null, because: [...new Set(damaged)], unknownCodes };
  }
  const unproven = [...of('unproven'), ...unknownCodes];
  if (unproven.length > 0 || f.findings === undefined || f.conditionKnown === false) {
    return { condition: 'unproven', kind: null, because: unproven, unknownCodes };
  }
  const spent = [...of('spent'), ...soft.filter((c) => c === 'deep-discharge')];
  if (spent.length > 0) return { condition: 'spent', kind: null, because: spent, unknownCodes };
  return { condition: 'sound', kind: null, because: [], unknownCodes };
}
