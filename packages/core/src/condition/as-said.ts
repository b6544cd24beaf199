import type { PackFacts, Statement } from '../logbook/fold';
import type { Waiting } from '../logbook/standing';

const LISTS = ['labels', 'readings', 'gauges', 'findings', 'evidence', 'cycles'] as const;
type Lists = Pick<PackFacts, (typeof LISTS)[number]>;

/** Mends that wait are taken back one by one up to this many; what came after them at once, so that a long quarrel costs no more. */
const ONE_BY_ONE = 8;

const isMend = (w: Waiting): boolean => w.kind === 'corrected' || w.kind === 'retracted';

/** A list without some of the mends that wait. @param kept mends that wait still. */
function without<T>(list: readonly Statement<T>[], away: readonly Waiting[], kept: readonly Waiting[]): readonly Statement<T>[] {
  const mends = (n: Statement<T>, all: readonly Waiting[]) => all.some((w) => w.about.includes(n.id));
  return list
    .filter((n) => !away.some((w) => w.id === n.id))
    .map((n) => {
      if (!mends(n, away)) return n;
      const waits = kept.some((w) => w.id === n.id);
      const asked = mends(n, kept);
      return { ...n, doubted: waits || asked, unconfirmed: waits && !asked };
    });
}

/** A list as if nobody had ever asked to mend it. */
function unasked<T>(list: readonly Statement<T>[]): readonly Statement<T>[] {
  return list.filter((n) => !n.unconfirmed).map((n) => (n.doubted ? { ...n, doubted: false } : n));
}

function map(facts: PackFacts, f: <T>(list: readonly Statement<T>[]) => readonly Statement<T>[]): Lists {
  const { labels, readings, gauges, findings, evidence, cycles } = facts;
  return {
    labels: f(labels),
    readings: f(readings),
    gauges: f(gauges),
    findings: f(findings),
    evidence: f(evidence),
    cycles: f(cycles),
  };
}

function made(facts: PackFacts): PackFacts | null {
  const lists: readonly (readonly Statement<unknown>[])[] = LISTS.map((k) => facts[k]);
  if (!lists.some((list) => list.some((n) => n.doubted))) return null;
  const ids = new Set(lists.flat().map((n) => n.id));
  // Facts name them in the order in which they came in.
  const waits = facts.waiting.filter((w) => isMend(w) && [w.id, ...w.about].some((id) => ids.has(id)));
  // What is left was declined.
  if (waits.length === 0) return { ...facts, ...map(facts, unasked) };
  const first = Math.min(waits.length - 1, ONE_BY_ONE);
  const [kept, away] = [waits.slice(0, first), waits.slice(first)];
  return {
    ...facts,
    ...map(facts, (list) => without(list, away, kept)),
    waiting: facts.waiting.filter((w) => !away.includes(w)),
  };
}

/** Facts never change in place, and one ruling asks several times. */
const known = new WeakMap<PackFacts, PackFacts | null>();

/**
 * The record of a pack as it stood before the correction or retraction that came in last, of those that wait for a second person; null
 * where none waits. What it would make milder is judged by this too, and so on back to the record that nobody doubted: the worst of
 * them all counts until somebody else agrees. One step at a time, so that another one never makes milder what the first had left.
 */
export function recordBefore(facts: PackFacts): PackFacts | null {
  const before = known.get(facts);
  if (before !== undefined) return before;
  const record = made(facts);
  known.set(facts, record);
  return record;
}
