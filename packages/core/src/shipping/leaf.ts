import type { Contradiction } from '../coherence/relation';
import type { LadderResult } from '../condition/ladder';
import { type Outcome, type Provision, SEVERITY, type ShippingFacts } from './facts';
import { both, COUNT, cut, exactly, POSITIVE, type Possible, within } from './possible';
import type { Probe, Trace } from './graph';
import { figureOf } from '../rules/rule';
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

/** How a fact is read by its dotted name, made once for each. */
const GETTERS = new Map<string, Probe>();
function getterOf(field: string): Probe {
  let get = GETTERS.get(field);
  if (!get) {
    const path = field.split('.');
    get = (facts) => {
      let value: unknown = facts;
      for (const key of path) value = (value as Record<string, unknown> | undefined)?.[key];
      return value;
    };
    GETTERS.set(field, get);
  }
  return get;
}

/** Stands for a list or a group of facts: what is in it belongs to where the decision starts. */
const GIVEN = Symbol('given');
const keyOf = (value: unknown): unknown => (typeof value === 'object' && value !== null ? GIVEN : value);
/** A part of the decision that asks or says something by itself, so that its answer alone does not stand for it. */
const ASKS = Symbol('asks');

/** Numbers that are counted. */
const WHOLE: ReadonlySet<string> = new Set([
  'series',
  'parallel',
  'package.packs',
  'package.equipment',
  'package.packsPerEquipment',
  'package.sets',
]);

const anything = (field: string): Possible => (WHOLE.has(field) ? COUNT : POSITIVE);

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

/** What a cell and a battery may have at most. */
export interface SizeLimits {
  readonly cell: number;
  readonly battery: number;
}

/** Reads a fact by its dotted name, or asks for it. Assumptions win over facts: they are the explorer's answers. */
export class Reader {
  readonly used = new Set<string>();
  readonly rules: string[] = [];
  readonly notes: string[] = [];
  /** Names of the assumptions that were looked for. */
  private readonly consulted = new Set<string>();

  /** @param trace where the questions to the facts are noted; without one nothing is. */
  constructor(
    readonly asked: Asked,
    private readonly assumed: ReadonlyMap<string, unknown>,
    private readonly trace: Trace | null = null,
  ) {}

  get facts(): ShippingFacts {
    return this.asked.facts;
  }

  get ladder(): LadderResult {
    return this.asked.ladder;
  }

  /** The fact, or undefined when unknown and not assumed. */
  peek<T>(field: string): T | undefined {
    const get = getterOf(field);
    const value = get(this.facts);
    if (value !== undefined) this.used.add(field);
    this.trace?.field(field, (facts) => keyOf(get(facts)), keyOf(value));
    return value as T | undefined;
  }

  private assumption(key: string): unknown {
    this.consulted.add(key);
    return this.assumed.get(key);
  }

  /**
   * A part of the decision that depends on the facts only through its answer: whether 48.2 or 48.3 Wh stand on the label, both are at
   * most 100. @param name says what is computed; @param compute reads nothing but the reader it is given.
   */
  derive<T extends string | number | boolean | null>(name: string, compute: (r: Reader) => T): T {
    if (!this.trace) return compute(this);
    const { asked, assumed } = this;
    const here = attempt(compute, asked, assumed);
    const probe: Probe = (facts) => attempt(compute, { ...asked, facts }, assumed).found;
    const assumptions = [...here.reader.consulted].map((k) => `${k}=${JSON.stringify(assumed.get(k))}`);
    this.trace.part(`${name} ${assumptions.join()}`, here.reader.used, probe, here.found);
    for (const u of here.reader.used) this.used.add(u);
    return here.found === ASKS ? compute(this) : (here.value as T);
  }

  /** What a computation looked at, one way to one key. */
  get looked(): string {
    return `${[...this.used].join()} ${[...this.consulted].join()}`;
  }

  /** The fact; asks when it is unknown. */
  need<T>(field: string, answers: readonly T[]): T {
    return this.peek<T>(field) ?? this.decide(field, [field], answers);
  }

  /** An answer that no single fact gives. @param fields names of the facts that would settle it. */
  decide<T>(key: string, fields: readonly string[], answers: readonly T[]): T {
    const answer = this.assumption(key);
    if (answer !== undefined) return answer as T;
    throw new Unknown({ key, fields, answers });
  }

  /** Values a number may still have: as stated, as far as the explorer assumed, or anything. */
  possible(field: string): Possible {
    const assumed = this.assumption(field) as Possible | undefined;
    if (assumed) return assumed;
    const stated = this.peek<number>(field);
    return stated !== undefined ? exactly(stated) : anything(field);
  }

  /**
   * Is a number at most a limit? Equality is inside; asks when both are possible, so that every edge of the rules is tried.
   * @param p what other facts leave possible; @param fields names of the facts that would settle it.
   */
  atMost(
    field: string,
    limit: number,
    p: Possible | ((r: Reader) => Possible) = (r) => r.possible(field),
    fields: readonly string[] = [field],
  ): boolean {
    const rest = (r: Reader, now: Possible) => {
      const assumed = r.assumption(field) as Possible | undefined;
      return assumed ? both(assumed, now) : now;
    };
    const computed = typeof p === 'function';
    const known = computed
      ? this.derive(`${field} at most ${limit}`, (r) => within(rest(r, p(r)), limit))
      : within(rest(this, p), limit);
    if (known !== null) return known;
    // What is computed is computed again where it is asked for: only the side of the limit is assumed of it.
    const from = computed ? ((this.assumption(field) as Possible | undefined) ?? anything(field)) : rest(this, p);
    throw new Unknown({ key: field, fields, answers: cut(from, limit, WHOLE.has(field)) });
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
    return SHIPPING.inForce(rule, this.asked.on).figures;
  }

  /** The limits of a size in a rule: of watt-hours, or of grams of lithium. @throws RangeError as `figure`. */
  limits(rule: string, of: 'Wh' | 'G'): SizeLimits {
    return { cell: this.figure(rule, `cell${of}`), battery: this.figure(rule, `battery${of}`) };
  }

  /** One figure of a rule in the edition in force. @throws RangeError when none is in force, or it has no such figure. */
  figure(rule: string, name: string): number {
    return figureOf(SHIPPING.inForce(rule, this.asked.on), name);
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

/** Computes something with a reader of its own, and what stands for it as a key. */
function attempt<T>(compute: (r: Reader) => T, asked: Asked, assumed: ReadonlyMap<string, unknown>) {
  const reader = new Reader(asked, assumed);
  const value = reader.known(() => ({ is: compute(reader) }));
  const silent = reader.rules.length === 0 && reader.notes.length === 0;
  return value !== null && silent
    ? { reader, value: value.is, found: `${String(value.is)} ${reader.looked}` }
    : { reader, value: null, found: ASKS };
}

/** Of everything that applies the most severe is reported, the first of equals; what a hold waits for stays listed. */
export function mostSevere(leaves: readonly Leaf[]): Leaf {
  const worst = leaves.reduce((a, b) => (SEVERITY[b.outcome] > SEVERITY[a.outcome] ? b : a));
  const missing = worst.outcome === 'forbidden' ? [] : [...new Set(leaves.flatMap((l) => l.missing))];
  return { ...worst, missing };
}
