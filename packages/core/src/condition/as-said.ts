import type { Statement, PackFacts } from '../logbook/fold';

/** Statements as they stood before anybody asked to mend them. */
function before<T>(list: readonly Statement<T>[]): readonly Statement<T>[] {
  return list.filter((n) => !n.unconfirmed).map((n) => (n.doubted ? { ...n, doubted: false } : n));
}

/**
 * The record of a pack without the corrections and retractions that wait for a second person; null where none waits. What they would make
 * milder is judged by this: the worse of both counts until somebody else agrees.
 */
export function asFirstSaid(facts: PackFacts): PackFacts | null {
  const { labels, readings, gauges, findings, evidence, cycles } = facts;
  const lists: readonly (readonly Statement<unknown>[])[] = [labels, readings, gauges, findings, evidence, cycles];
  if (!lists.some((list) => list.some((n) => n.doubted))) return null;
  return {
    ...facts,
    labels: before(labels),
    readings: before(readings),
    gauges: before(gauges),
    findings: before(findings),
    evidence: before(evidence),
    cycles: before(cycles),
  };
}
