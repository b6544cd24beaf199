import type { Condition, LookGroup } from '../logbook/entry';
import { LOOK_GROUPS } from '../logbook/entry';
import type { PackFacts, PolicyFacts } from '../logbook/fold';
import { canonical } from '../logbook/ids';
import { type Nature, natureOf } from '../pack/nature';
import type { Limit } from '../quantity/limit';
import { findingOf } from './findings';
import { ladder } from './ladder';
import { mergeLabels, type MergedLabel } from './label';
import { measure } from './measured';
import { quietedFindings } from './quiet';

/** A finding as it stands now. */
export interface ActiveFinding {
  readonly code: string;
  readonly words: string;
  readonly from: 'recorded' | 'measured';
  readonly entries: readonly string[];
  /** Cleared in writing by a second person, or ended by 24 quiet hours. */
  readonly state: 'stands' | 'cleared' | 'quieted';
}

export interface Judgement {
  readonly condition: Condition;
  readonly kind: 'reacting' | 'unstable' | null;
  /** Codes that decided. */
  readonly because: readonly string[];
  readonly findings: readonly ActiveFinding[];
  /** Why it cannot be vouched for, in words. */
  readonly open: readonly string[];
  readonly looked: Readonly<Record<LookGroup, string | null>>;
  readonly notLooked: readonly LookGroup[];
  readonly limits: readonly Limit[];
  readonly notExcluded: readonly string[];
  readonly label: MergedLabel;
  readonly nature: Nature;
}

const DAY = 86_400_000;

function lookedAt(facts: PackFacts, days: number, now: Date): Record<LookGroup, string | null> {
  const out = Object.fromEntries(LOOK_GROUPS.map((g) => [g, null])) as Record<LookGroup, string | null>;
  const oldest = now.getTime() - days * DAY;
  for (const l of facts.looks) {
    if (l.doubted || l.body.where === 'outside' || Date.parse(l.at) < oldest) continue;
    for (const g of l.body.groups) if (out[g] === null || out[g]! < l.at) out[g] = l.at;
  }
  return out;
}

/** Every finding with whether it still stands. A clearing names entries: a hazard that arrives late is not cleared by it. */
function activeFindings(facts: PackFacts, measured: readonly { code: string; entries: readonly string[] }[]): ActiveFinding[] {
  const clearedIds = new Set(facts.clearings.flatMap((c) => c.body.clears));
  const quieted = quietedFindings(facts, measured);
  // Nobody clears what lay in an incident before the incident is over.
  const frozen = new Set(facts.incidents.filter((i) => i.body.frozen).map((i) => i.id));
  const found = [
    ...facts.findings.map((f) => ({ code: f.body.code, entries: [f.id], from: 'recorded' as const, dwell: f.body.dwellHours })),
    ...measured.map((m) => ({ ...m, from: 'measured' as const, dwell: undefined })),
  ];
  return found.map(({ code, entries, from, dwell }) => {
    // A recorded deep discharge is soft only with its time below 2.0 V on record.
    const short = code === 'deep-discharge' && from === 'recorded' && !(dwell !== undefined && dwell <= 24);
    const actual = short ? 'deep-discharge-severe' : code;
    const soft = findingOf(actual)?.class === 'soft';
    const free = !frozen.has(entries[0]!);
    const state = entries.every((id) => quieted.has(id))
      ? 'quieted'
      : soft && free && entries.every((id) => clearedIds.has(id))
        ? 'cleared'
        : 'stands';
    return { code: actual, words: findingOf(actual)?.words ?? actual, from, entries, state };
  });
}

/** The layouts the label readings allow: the merged one first, then each that a single reading would give. */
function naturesOf(facts: PackFacts, label: MergedLabel): Nature[] {
  const all = [natureOf(label.all)];
  if (label.disputed.length === 0) return all;
  const seen = new Set(all.map((n) => canonical(n)));
  for (const l of facts.labels) {
    const n = natureOf({ ...label.all, ...l.body });
    if (!seen.has(canonical(n))) all.push(n);
    seen.add(canonical(n));
  }
  return all;
}

/**
 * What the pack is now. Sound needs all six groups looked at within 30 days, a voltage or gauge reading behind the electrical
 * look, nothing found and nothing too close to tell; whatever is missing makes it unproven, never better.
 */
export function condition(facts: PackFacts, policy: PolicyFacts, now: Date): Judgement {
  const label = mergeLabels(facts.labels);
  const natures = naturesOf(facts, label);
  const nature = natures[0]!;
  // A disputed label may name several layouts: danger is judged on each.
  const all = natures.map((n) => measure(facts, n, policy));
  const measured = { ...all[0]!, findings: all.flatMap((m) => m.findings), unclear: [...new Set(all.flatMap((m) => m.unclear))] };
  const findings = activeFindings(facts, measured.findings);
  const looked = lookedAt(facts, policy.lookDays, now);
  const hasVolts =
    facts.gauges.some((g) => !g.doubted) || facts.readings.some((r) => !r.doubted && r.body.quantity.endsWith('-voltage'));
  const notLooked = LOOK_GROUPS.filter((g) => looked[g] === null || (g === 'electrical' && !hasVolts));

  const codes = [...new Set(findings.map((f) => f.code))];
  const standing = (code: string, state: ActiveFinding['state']) =>
    findings.filter((f) => f.code === code).every((f) => f.state === state);
  const result = ladder({
    findings: facts.unknownHazard ? [...codes, 'opened'] : codes,
    cleared: codes.filter((c) => standing(c, 'cleared')),
    quieted: codes.filter((c) => standing(c, 'quieted')),
    conditionKnown: true,
    swelling: policy.swelling,
  });
  const open = [
    ...(notLooked.length > 0 ? [`not looked at: ${notLooked.join(', ')}`] : []),
    ...(facts.incidents.some((i) => i.body.frozen) ? ['frozen by an incident until it is declared over'] : []),
    ...measured.unclear,
    ...(label.disputed.length > 0 ? [`the label is disputed: ${label.disputed.join(', ')}`] : []),
    ...(facts.partial ? ['only a part of its record is on this device'] : []),
    ...(facts.unknownHazard ? ['an entry this program does not know: update this app'] : []),
    ...result.unknownCodes.map((c) => `unknown finding ${c}`),
  ];
  const mild = result.condition === 'sound' || result.condition === 'spent';
  const unproven = mild && (facts.partial || notLooked.length > 0 || measured.unclear.length > 0 || natures.length > 1);
  return {
    condition: unproven ? 'unproven' : result.condition,
    kind: result.kind,
    because: result.because,
    findings,
    open,
    looked,
    notLooked,
    limits: measured.limits,
    notExcluded: measured.notExcluded,
    label,
    nature,
  };
}
