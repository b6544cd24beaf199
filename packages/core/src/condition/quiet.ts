import type { Statement, PackFacts } from '../logbook/fold';
import { quietSigns } from './container';
import { findingOf, type MeasuredFinding, SMELL_WITH } from './findings';

const HOUR = 3_600_000;

/** Looks are counted by the server's clock: one written down later, or dated back, counts when it arrived. */
const serverTime = (n: Statement<unknown>): number => Date.parse(n.recordedAt ?? n.at);

const isCritical = (code: string): boolean => {
  const cls = findingOf(code)?.class;
  return cls === 'reacting' || cls === 'unstable' || code === 'smell' || SMELL_WITH.includes(code);
};

/**
 * Which critical findings have been ended by 24 quiet hours: a declaration that two people signed, borne out by at least four
 * looks taken after the finding, first to last at least 24 h, none more than 8 h apart, no critical finding among them.
 * No looks is not quiet. The figures are our own rule.
 */
export function quietedFindings(facts: PackFacts, measured: readonly MeasuredFinding[]): ReadonlySet<string> {
  const byReading = new Set(measured.filter((m) => isCritical(m.code)).flatMap((m) => m.entries));
  const ended = new Set<string>();
  const criticalTimes = [
    ...facts.findings.filter((f) => isCritical(f.body.code)).map(serverTime),
    ...[...facts.readings, ...facts.containers, ...facts.incidents].filter((r) => byReading.has(r.id)).map(serverTime),
  ];
  for (const q of facts.quiets) {
    const end = serverTime(q);
    const from = Math.max(0, ...criticalTimes.filter((t) => t <= end));
    // A look at its container counts where smell, hiss and smoke were each asked; one that alarms ends the quiet above.
    const looks = [...facts.looks, ...facts.containers.filter((c) => quietSigns(c.body))]
      .filter((l) => l.seq !== null && !l.doubted)
      .map(serverTime)
      .filter((t) => t > from && t <= end)
      .sort((a, b) => a - b);
    const quiet =
      looks.length >= 4 &&
      looks[looks.length - 1]! - looks[0]! >= 24 * HOUR &&
      looks.every((t, i) => i === 0 || t - looks[i - 1]! <= 8 * HOUR);
    if (quiet) for (const id of q.body.ends) ended.add(id);
  }
  return ended;
}
