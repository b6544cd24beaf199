import type { ShippingFacts } from './facts';

/** What one question finds in other facts, as a key: equal keys lead on in the same way. */
export type Probe = (facts: ShippingFacts) => unknown;

/** Facts of one pack as one way of travelling lays them: some fields are set by the way itself. */
export interface Lying {
  readonly name: string;
  readonly facts: (pack: ShippingFacts) => ShippingFacts;
  readonly sets: ReadonlySet<string>;
}

const AS_IT_IS: Lying = { name: '', facts: (pack) => pack, sets: new Set() };

/** The questions that decisions about one pack asked of its facts, each once and in order, with what they found. */
export class Trace {
  readonly steps: { readonly probe: Probe; readonly found: unknown }[];
  private readonly names: Set<string>;

  /** @param of a trace of the same pack lying otherwise, which this one goes on writing. */
  constructor(
    private readonly lying: Lying = AS_IT_IS,
    of?: Trace,
  ) {
    this.steps = of?.steps ?? [];
    this.names = of?.names ?? new Set();
  }

  /** A fact that was read; one that the way of travelling sets is no question to the pack. */
  field(name: string, probe: Probe, found: unknown): void {
    if (!this.lying.sets.has(name)) this.note(name, probe, found);
  }

  /** Something computed. @param name says what: the same is the same in the same facts; @param fields that it read. */
  part(name: string, fields: ReadonlySet<string>, probe: Probe, found: unknown): void {
    const { lying } = this;
    const own = [...fields].some((f) => lying.sets.has(f));
    this.note(own ? `${lying.name} ${name}` : name, (pack) => probe(lying.facts(pack)), found);
  }

  private note(name: string, probe: Probe, found: unknown): void {
    if (this.names.has(name)) return;
    this.names.add(name);
    this.steps.push({ probe, found });
  }
}

/** A question with where each finding leads, or the answer at the end. */
type Node<T> = { readonly probe: Probe; readonly next: Map<unknown, Node<T>> } | { readonly answer: T };

/**
 * Decisions as a graph of questions, drawn while they are made: whoever finds the same at every question gets the same answer, without
 * deciding again. It holds as long as a decision is a function of where it starts and of what its questions find.
 */
export class DecisionGraph<T> {
  private readonly starts = new Map<string, Node<T>>();
  private size = 0;

  /** @param most answers kept; then all are let go, for facts that never come again must not fill the memory. */
  constructor(private readonly most: number) {}

  /** The answer for these facts; undefined when nobody came this way before. */
  find(start: string, facts: ShippingFacts): T | undefined {
    let node = this.starts.get(start);
    while (node !== undefined) {
      if ('answer' in node) return node.answer;
      node = node.next.get(node.probe(facts));
    }
    return undefined;
  }

  add(start: string, { steps }: Trace, answer: T): void {
    if (this.size >= this.most) {
      this.starts.clear();
      this.size = 0;
    }
    this.size += 1;
    let way: Map<unknown, Node<T>> = this.starts;
    let from: unknown = start;
    for (const { probe, found } of steps) {
      const known = way.get(from);
      const node = known && 'next' in known ? known : { probe, next: new Map<unknown, Node<T>>() };
      way.set(from, node);
      way = node.next;
      from = found;
    }
    way.set(from, { answer });
  }
}
