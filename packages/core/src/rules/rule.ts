/** How sure we are of our copy of a rule. H sure, M substance sure, L look it up. */
export type Certainty = 'H' | 'M' | 'L';

/** One rule: data with dates, a source and a certainty. What it decides is code that names it and reads its figures. */
export interface Rule {
  readonly id: string;
  readonly title: string;
  /** Edition it belongs to; rules of our own and of the trade have none. */
  readonly edition: string | null;
  /** First and last local day in force, YYYY-MM-DD; null is open. */
  readonly from: string | null;
  readonly to: string | null;
  /** Published source with paragraph, or "common practice, no source", or "our own rule". */
  readonly source: string;
  readonly certainty: Certainty;
  /** Figures with their unit in the name; equality is inside. */
  readonly figures: Readonly<Record<string, number>>;
}

/** A rule from its parts, in the order they are read. */
export const asRule = (
  id: string,
  title: string,
  source: string,
  certainty: Certainty,
  from: string | null,
  to: string | null,
  edition: string | null,
  figures: Record<string, number> = {},
): Rule => ({ id, title, edition, from, to, source, certainty, figures });

/** A figure of a rule. @throws RangeError where it has none of that name: a limit nobody wrote down limits nothing, and is never guessed. */
export function figureOf(rule: Rule, name: string): number {
  const x = rule.figures[name];
  if (x === undefined) throw new RangeError(`rule ${rule.id} has no figure ${name}`);
  return x;
}

export const inForce = (r: Rule, on: string): boolean => (r.from === null || r.from <= on) && (r.to === null || on <= r.to);

/** Rules by id; several dated versions may share one. */
export class Rulebook {
  private readonly byId: ReadonlyMap<string, readonly Rule[]>;
  /** Where a rule begins, or has ended: "2026-12-31~" sorts behind that day and before the next. */
  private readonly changes: readonly string[];

  constructor(readonly rules: readonly Rule[]) {
    const map = new Map<string, Rule[]>();
    for (const r of rules) map.set(r.id, [...(map.get(r.id) ?? []), r]);
    this.byId = map;
    const ends = rules.flatMap((r) => [...(r.from ? [r.from] : []), ...(r.to ? [`${r.to}~`] : [])]);
    this.changes = [...new Set(ends)].sort();
  }

  /** Which stretch of days with the same rules a day lies in: 0 before the first change. */
  span(day: string): number {
    const n = this.changes.findIndex((c) => day < c);
    return n < 0 ? this.changes.length : n;
  }

  /** The version in force on a day, or undefined. */
  on(id: string, day: string): Rule | undefined {
    return this.byId.get(id)?.find((r) => inForce(r, day));
  }

  /** The version in force on a day. @throws RangeError when none is. */
  inForce(id: string, day: string): Rule {
    const r = this.on(id, day);
    if (!r) throw new RangeError(`rule ${id} is not in force on ${day}`);
    return r;
  }

  /** The rule of an id that has one version without dates. @throws RangeError for any other: ask for the one in force on the day. */
  undated(id: string): Rule {
    const [r, ...more] = this.byId.get(id) ?? [];
    if (!r || more.length > 0 || r.from !== null || r.to !== null) throw new RangeError(`rule ${id} has dates, or is none`);
    return r;
  }

  /** The version to show for a day: the one in force, else the first held. @throws RangeError for an id nobody wrote. */
  shown(id: string, day: string): Rule {
    const r = this.on(id, day) ?? this.byId.get(id)?.[0];
    if (!r) throw new RangeError(`no rule ${id}`);
    return r;
  }
}
