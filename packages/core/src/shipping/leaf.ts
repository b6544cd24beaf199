import type { Contradiction } from '../coherence/relation';
import type { LadderResult } from '../condition/ladder';
import { type Outcome, type Provision, SEVERITY, type ShippingFacts } from './facts';
import { both, COUNT, cut, exactly, POSITIVE, type Possible, within } from './possible';
import { SHIPPING } from './rulebook';

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

/** A fact that the rules ask for, and every answer that may make a difference. */
export interface Question {
  readonly key: string;
  /** Names of the facts nobody has, as in a table. */
  readonly fields: readonly string[];
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

/** Numbers that are counted. */
const WHOLE: ReadonlySet<string> = new Set([
  'series',
  'parallel',
  'package.packs',
  'package.equipment',
  'package.packsPerEquipment',
  'package.sets',
]);

/** What is asked about one pack on one route, worked out once. */
export interface Asked {
  readonly facts: ShippingFacts;
  /** What the finding codes mean. */
  readonly ladder: LadderResult;
  /** Facts that contradict each other. */
  readonly contradictions: readonly Contradiction[];
  /** Day of dispatch. */
  readonly on: string;
}

/** Reads a fact by its dotted name, or asks for it. Assumptions win over facts: they are the explorer's answers. */
export class Reader {
  readonly used = new Set<string>();
  readonly rules: string[] = [];
  readonly notes: string[] = [];

  constructor(
    readonly asked: Asked,
    private readonly assumed: ReadonlyMap<string, unknown>,
  ) {}

  get facts(): ShippingFacts {
    return this.asked.facts;
  }

  get ladder(): LadderResult {
    return this.asked.ladder;
  }

  /** The fact, or undefined when unknown and not assumed. */
  peek<T>(field: string): T | undefined {
    let value: unknown = this.facts;
    for (const key of pathOf(field)) value = (value as Record<string, unknown> | undefined)?.[key];
    if (value !== undefined) this.used.add(field);
    return value as T | undefined;
  }

  /** The fact; asks when it is unknown. */
  need<T>(field: string, answers: readonly T[]): T {
    return this.peek<T>(field) ?? this.decide(field, [field], answers);
  }

  /** An answer that no single fact gives. @param fields names of the facts that would settle it. */
  decide<T>(key: string, fields: readonly string[], answers: readonly T[]): T {
    if (this.assumed.has(key)) return this.assumed.get(key) as T;
    throw new Unknown({ key, fields, answers });
  }

  /** Values a number may still have: as stated, as far as the explorer assumed, or anything. */
  possible(field: string): Possible {
    const assumed = this.assumed.get(field) as Possible | undefined;
    if (assumed) return assumed;
    const stated = this.peek<number>(field);
    return stated !== undefined ? exactly(stated) : WHOLE.has(field) ? COUNT : POSITIVE;
  }

  /**
   * Is a number at most a limit? Equality is inside; asks when both are possible, so that every edge of the rules is tried.
   * @param p what other facts leave possible; @param fields names of the facts that would settle it.
   */
  atMost(field: string, limit: number, p: Possible = this.possible(field), fields: readonly string[] = [field]): boolean {
    const assumed = this.assumed.get(field) as Possible | undefined;
    const now = assumed ? both(assumed, p) : p;
    const known = within(now, limit);
    if (known !== null) return known;
    throw new Unknown({ key: field, fields, answers: cut(now, limit, WHOLE.has(field)) });
  }

  /** What can be said without asking; null when a fact is missing. */
  known<T>(say: () => T): T | null {
    try {
      return say();
    } catch (e) {
      if (e instanceof Unknown) return null;
      throw e;
    }
  }

  /** Figures of a rule in the edition in force on the day of dispatch. @throws RangeError when none is in force. */
  figures(rule: string): Readonly<Record<string, number>> {
    return SHIPPING.figures(rule, this.asked.on);
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
    missing: readonly string[] = [],
  ): Leaf {
    const open = outcome === 'allowed' || outcome === 'split';
    const mark = open ? un !== null && (batteryMark ?? false) : null;
    return { outcome, provision, un, batteryMark: mark, missing, rules: this.rules, notes: this.notes };
  }
}

/** Of everything that applies the most severe is reported, the first of equals; what a hold waits for stays listed. */
export function mostSevere(leaves: readonly Leaf[]): Leaf {
  const worst = leaves.reduce((a, b) => (SEVERITY[b.outcome] > SEVERITY[a.outcome] ? b : a));
  const missing = worst.outcome === 'forbidden' ? [] : [...new Set(leaves.flatMap((l) => l.missing))];
  return { ...worst, missing };
}
