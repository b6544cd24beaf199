import type { LadderResult } from '../condition/ladder';
import type { Outcome, Provision, ShippingFacts } from './facts';

/** What the rules say once every fact they ask for is known. */
export interface Leaf {
  readonly outcome: Outcome;
  readonly provision: Provision | null;
  readonly un: string | null;
  readonly batteryMark: boolean | null;
  readonly missing: readonly string[];
  /** Ids of the rules that decided, in order. */
  readonly rules: readonly string[];
  /** What to do or know, in order. */
  readonly notes: readonly string[];
}

/** A fact that the rules ask for: its dotted name and the representative answers, one in each class of answers. */
export interface Question {
  readonly field: string;
  readonly answers: readonly unknown[];
}

/** Thrown by the reader when a rule asks for a fact nobody has; the explorer answers it every possible way. */
export class Unknown {
  constructor(readonly question: Question) {}
}

/** Dotted names, taken apart once. */
const PATHS = new Map<string, readonly string[]>();
function pathOf(field: string): readonly string[] {
  let path = PATHS.get(field);
  if (!path) {
    path = field.split('.');
    PATHS.set(field, path);
  }
  return path;
}

/** Reads a fact by its dotted name, or asks for it. Assumptions win over facts: they are the explorer's answers. */
export class Reader {
  readonly used = new Set<string>();
  readonly rules: string[] = [];
  readonly notes: string[] = [];

  constructor(
    readonly facts: ShippingFacts,
    /** What the finding codes mean, computed once for every question about the pack. */
    readonly ladder: LadderResult,
    private readonly assumed: ReadonlyMap<string, unknown>,
  ) {}

  /** The fact, or undefined when unknown and not assumed. */
  peek<T>(field: string): T | undefined {
    if (this.assumed.has(field)) return this.assumed.get(field) as T;
    let value: unknown = this.facts;
    for (const key of pathOf(field)) value = (value as Record<string, unknown> | undefined)?.[key];
    if (value !== undefined) this.used.add(field);
    return value as T | undefined;
  }

  /** The fact; asks when it is unknown. */
  need<T>(field: string, answers: readonly T[]): T {
    const value = this.peek<T>(field);
    if (value === undefined) throw new Unknown({ field, answers });
    return value;
  }

  cite(rule: string): void {
    if (!this.rules.includes(rule)) this.rules.push(rule);
  }

  say(note: string): void {
    if (!this.notes.includes(note)) this.notes.push(note);
  }

  leaf(
    outcome: Outcome,
    provision: Provision | null,
    un: string | null,
    batteryMark: boolean | null = null,
    missing: string[] = [],
  ): Leaf {
    const mark = outcome === 'allowed' || outcome === 'split' ? (batteryMark ?? false) : null;
    return {
      outcome,
      provision,
      un,
      batteryMark: un === null ? (mark === null ? null : false) : mark,
      missing,
      rules: [...this.rules],
      notes: [...this.notes],
    };
  }
}
