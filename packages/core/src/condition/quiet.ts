import type { PackFacts } from '../logbook/fold';
import { findingOf, SMELL_WITH } from './findings';

const HOUR = 3_600_000;

/**
 * Which critical findings have been ended by 24 quiet hours: a declaration that two people signed, borne out by at least four
 * looks taken after the finding, first to last at least 24 h, none more than 8 h apart, no critical finding among them.
 * No looks is not quiet. The figures are our own rule.
 */
export function quietedFindings(facts: PackFacts): ReadonlySet<string> {
  const ended = new Set<string>();
  const criticalTimes = facts.findings
    .filter((f) => {
      const cls = findingOf(f.body.code)?.class;
      return cls === 'reacting' || cls === 'unstable' || f.body.code === 'smell' || SMELL_WITH.includes(f.body.code);
    })
    .map((f) => Date.parse(f.at));
  for (const q of facts.quiets) {
    const end = Date.parse(q.at);
    const from = Math.max(0, ...criticalTimes.filter((t) => t <= end));
    const looks = facts.looks
      .filter((l) => l.seq !== null && !l.doubted)
      .map((l) => Date.parse(l.at))
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
