import type { Contradiction } from '../coherence/relation';
import { packContradictions } from '../coherence/relations';
import type { StatedFacts } from '../coherence/stated';
import type { LookGroup } from '../logbook/entry';
import { LOOK_GROUPS } from '../logbook/entry';
import type { PackFacts, PolicyFacts } from '../logbook/fold';
import { canonical } from '../logbook/ids';
import type { LabelBody } from '../pack/label';
import { type Nature, natureOf, naturesOf } from '../pack/nature';
import { statedLabel } from '../pack/series';
import type { Limit } from '../quantity/limit';
import { expanded } from '../quantity/uncertainty';
import { type Electrical, electrical } from './charge';
import { findingOf, groupOf } from './findings';
import { labelWords, mergeLabels, type MergedLabel } from './label';
import { recordBefore } from './as-said';
import { ladder, RANK } from './ladder';
import { type Assessed, type ConditionThen, freshOf, type Looked, vouchedFor, worseOf } from './over-time';
import { measure } from './measured';
import { quietedFindings } from './quiet';
import { latest, seriesOf } from './series';
import { cellSets } from './sets';

/** A finding as it stands now. */
export interface ActiveFinding {
  readonly code: string;
  readonly words: string;
  /** What was seen, as it was tapped or written; absent where nothing was said besides. */
  readonly note?: string;
  readonly from: 'recorded' | 'measured';
  readonly entries: readonly string[];
  /** Cleared in writing by a second person, or ended by 24 quiet hours. */
  readonly state: 'stands' | 'cleared' | 'quieted';
}

export interface Judgement extends ConditionThen {
  /** Codes that decided. */
  readonly because: readonly string[];
  readonly findings: readonly ActiveFinding[];
  /** Why it cannot be vouched for, in words. */
  readonly open: readonly string[];
  /** Facts that cannot all be true. */
  readonly contradictions: readonly Contradiction[];
  /** What was taken for the worse because nobody said it, in words. */
  readonly asked: readonly string[];
  readonly looked: Looked;
  readonly notLooked: readonly LookGroup[];
  readonly limits: readonly Limit[];
  readonly notExcluded: readonly string[];
  readonly label: MergedLabel;
  readonly nature: Nature;
  readonly electrical: Electrical;
}

/** A finding in words, as it was seen: "swollen: base rocks". */
export const findingWords = (f: Pick<ActiveFinding, 'words' | 'note'>): string => (f.note ? `${f.words}: ${f.note}` : f.words);

/** Findings in words, those of one kind in one: "swollen: base rocks, keyboard uneven". */
export function foundWords(findings: readonly Pick<ActiveFinding, 'words' | 'note'>[]): string[] {
  const seen = new Map<string, Set<string>>();
  for (const f of findings) {
    const notes = seen.get(f.words) ?? new Set<string>();
    if (f.note) notes.add(f.note);
    seen.set(f.words, notes);
  }
  return [...seen].map(([words, notes]) => (notes.size > 0 ? `${words}: ${[...notes].join(', ')}` : words));
}

/** A look that found nothing says nothing of a group in which something was found at the same sitting. */
const SITTING = 3_600_000;

/** The newest look of each group that says something of it, beside everything that stands; null where there is none. */
function newestLooks(facts: PackFacts, standing: readonly ActiveFinding[]): Looked {
  const out = Object.fromEntries(LOOK_GROUPS.map((g) => [g, null])) as Record<LookGroup, string | null>;
  const stands = new Set(standing.filter((f) => f.state === 'stands').flatMap((f) => f.entries));
  const found = facts.findings
    .filter((f) => stands.has(f.id))
    .map((f) => ({ group: groupOf(f.body.code), at: Date.parse(f.at) }));
  for (const l of facts.looks) {
    if (l.doubted || l.body.where === 'outside') continue;
    const at = Date.parse(l.at);
    for (const g of l.body.groups) {
      if (found.some((f) => f.group === g && Math.abs(f.at - at) <= SITTING)) continue;
      if (out[g] === null || out[g]! < l.at) out[g] = l.at;
    }
  }
  return out;
}

const isCritical = (code: string): boolean => ['reacting', 'unstable'].includes(findingOf(code)?.class ?? '');

/** Every finding with whether it still stands. A clearing names entries: a hazard that arrives late is not cleared by it. */
function activeFindings(facts: PackFacts, measured: readonly { code: string; entries: readonly string[] }[]): ActiveFinding[] {
  const clearedIds = new Set(facts.clearings.flatMap((c) => c.body.clears));
  const quieted = quietedFindings(facts, measured);
  // Nobody clears what lay in an incident before the incident is over.
  const frozen = new Set(facts.incidents.filter((i) => i.body.frozen).map((i) => i.id));
  // Two people declared it over: what burnt is not burning, and stays damaged for good.
  const over = new Set(facts.incidents.filter((i) => !i.body.frozen).map((i) => i.id));
  const found = [
    ...facts.findings.map((f) => ({
      code: f.body.code,
      entries: [f.id],
      from: 'recorded' as const,
      dwell: f.body.dwellHours,
      note: f.body.note,
    })),
    ...measured.map((m) => ({ ...m, from: 'measured' as const, dwell: undefined, note: undefined })),
  ];
  return found.map(({ code, entries, from, dwell, note }) => {
    // A recorded deep discharge is soft only with its time below 2.0 V on record.
    const short = code === 'deep-discharge' && from === 'recorded' && !(dwell !== undefined && dwell <= 24);
    const actual = short ? 'deep-discharge-severe' : code;
    const soft = findingOf(actual)?.class === 'soft';
    const free = !frozen.has(entries[0]!);
    const ended = from === 'measured' && isCritical(actual) && entries.every((id) => over.has(id));
    const state =
      ended || entries.every((id) => quieted.has(id))
        ? 'quieted'
        : soft && free && entries.every((id) => clearedIds.has(id))
          ? 'cleared'
          : 'stands';
    return { code: actual, words: findingOf(actual)?.words ?? actual, ...(note && { note }), from, entries, state };
  });
}

/** How many cells the sets of cell voltages say that the pack has, each once. */
const countsOf = (facts: PackFacts): number[] => [...new Set(cellSets(facts).flatMap((s) => s.of ?? []))];

/**
 * The layouts that may be the true one: each that the merged label allows, each count of cells that was read against it, then each that a
 * single reading of the label would give.
 */
function layoutsOf(facts: PackFacts, label: MergedLabel): Nature[] {
  const labelled = naturesOf(label.all);
  const counted = labelled[0]!.candidates.length === 0 ? [] : countsOf(facts).filter((n) => !labelled[0]!.candidates.includes(n));
  const all = [...labelled, ...counted.map((n) => natureOf(label.all, n))];
  if (label.disputed.length === 0) return all;
  const seen = new Set(all.map((n) => canonical(n)));
  for (const n of facts.labels.flatMap((l) => naturesOf({ ...label.all, ...l.body }))) {
    if (!seen.has(canonical(n))) all.push(n);
    seen.add(canonical(n));
  }
  return all;
}

/** What is stated of a pack, as relations are asked of it. */
function statedOf(
  facts: PackFacts,
  label: MergedLabel,
  codes: readonly string[],
  policy: Pick<PolicyFacts, 'swelling'>,
): StatedFacts {
  const mass = latest(seriesOf(facts.readings, 'mass'));
  // A weight that was asked about and kept is right.
  const kept = facts.readings.some((r) => mass?.entries.includes(r.id) && r.body.confirmedOdd === true);
  return {
    ...statedLabel(label.all),
    ...(mass && !kept && { mass: { value: mass.mean, half: expanded(mass.u), words: `${Math.round(mass.mean * 1000)} g` } }),
    packVolts: seriesOf(facts.readings, 'pack-voltage').map((s) => ({
      value: s.mean,
      half: expanded(s.u),
      words: `${s.mean.toFixed(2)} V`,
    })),
    cellSets: countsOf(facts),
    findings: codes,
    swelling: policy.swelling,
  };
}

/** Of several layouts the one that leaves most charge: what is not known must not make it fly. */
function mostCharged(facts: PackFacts, label: LabelBody, natures: readonly Nature[]): Electrical {
  const all = natures.map((n) => electrical(facts, label, n));
  const contradictions = distinct(all.flatMap((e) => e.contradictions));
  const worst = all.reduce((a, b) => ((b.charge?.ofRated.hi ?? -1) > (a.charge?.ofRated.hi ?? -1) ? b : a));
  return { ...worst, contradictions, cellsSeen: all.every((e) => e.cellsSeen) };
}

const distinct = (all: readonly Contradiction[]): Contradiction[] => [...new Map(all.map((c) => [c.sentence, c])).values()];

/**
 * What the pack is now. Sound needs all six groups looked at within 30 days, a voltage or gauge reading behind the electrical
 * look, nothing found and nothing too close to tell; whatever is missing makes it unproven, never better.
 */
export function condition(facts: PackFacts, policy: PolicyFacts, now: Date): Judgement {
  const j = judged(facts, policy, now);
  const before = recordBefore(facts);
  const first = before && condition(before, policy, now);
  if (!first) return j;
  const worse = worseOf(j, first);
  if (RANK[first.condition] <= RANK[j.condition]) return { ...j, ...worse };
  return {
    ...j,
    ...worse,
    because: first.because,
    open: [...new Set([...j.open, ...first.open])],
    contradictions: distinct([...j.contradictions, ...first.contradictions]),
  };
}

/** What does not depend on the clock, by the facts and the one policy that it asks; facts never change in place. */
const assessments = new WeakMap<PackFacts, Map<PolicyFacts['swelling'], Assessment>>();

function assessmentOf(facts: PackFacts, policy: Pick<PolicyFacts, 'swelling'>): Assessment {
  const known = assessments.get(facts) ?? new Map<PolicyFacts['swelling'], Assessment>();
  assessments.set(facts, known);
  const made = known.get(policy.swelling) ?? assess(facts, policy);
  known.set(policy.swelling, made);
  return made;
}

type Assessment = ReturnType<typeof assess>;

function assess(facts: PackFacts, policy: Pick<PolicyFacts, 'swelling'>) {
  const label = mergeLabels(facts.labels);
  const natures = layoutsOf(facts, label);
  const nature = natures[0]!;
  // Several layouts may be the true one: danger is judged on each.
  const all = natures.map((n) => measure(facts, n, policy));
  const measured = {
    ...all[0]!,
    findings: all.flatMap((m) => m.findings),
    unclear: [...new Set(all.flatMap((m) => m.unclear))],
    asked: [...new Set(all.flatMap((m) => m.asked))],
  };
  const findings = activeFindings(facts, measured.findings);
  const hasVolts =
    facts.gauges.some((g) => !g.doubted) || facts.readings.some((r) => !r.doubted && r.body.quantity.endsWith('-voltage'));
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
  const e = mostCharged(facts, label.sure, natures);
  const contradictions = distinct([...packContradictions(statedOf(facts, label, codes, policy)), ...e.contradictions]);
  const cells = result.condition === 'sound' && cellsWanted({ nature, electrical: e }) ? [CELLS_NOT_SEEN] : [];
  const cycled = facts.cycles.some((c) => c.body.went === 'not-as-usual') ? ['a full cycle in a host did not go as usual'] : [];
  const unclear = [...measured.unclear, ...cells, ...cycled];
  const doubts = unclear.length > 0 || contradictions.length > 0 || natures.length > 1;
  const doubted = doubts || facts.partial === true || facts.addedTwice !== undefined;
  const looked = newestLooks(facts, findings);
  return { label, nature, measured, findings, hasVolts, result, electrical: e, contradictions, unclear, doubted, looked };
}

function judged(facts: PackFacts, policy: PolicyFacts, now: Date): Judgement {
  const {
    label,
    nature,
    measured,
    findings,
    hasVolts,
    result,
    electrical: e,
    contradictions,
    unclear,
    ...a
  } = assessmentOf(facts, policy);
  const looked = freshOf(a.looked, policy.lookDays, now);
  const notLooked = LOOK_GROUPS.filter((g) => looked[g] === null || (g === 'electrical' && !hasVolts));
  const open = [
    ...contradictions.map((c) => c.sentence),
    ...(notLooked.length > 0 ? [`not looked at: ${notLooked.join(', ')}`] : []),
    ...(facts.addedTwice ? [ADDED_TWICE] : []),
    ...(facts.incidents.some((i) => i.body.frozen) ? ['frozen by an incident until it is declared over'] : []),
    ...unclear,
    ...(label.disputed.length > 0 ? [`two values on the label: ${label.disputed.map(labelWords).join(', ')}`] : []),
    ...(facts.partial ? ['only a part of its record is on this device'] : []),
    ...(facts.unknownHazard ? ['an entry this program does not know: update this app'] : []),
    ...result.unknownCodes.map((c) => `unknown finding ${c}`),
  ];
  const then = vouchedFor(
    { condition: result.condition, kind: result.kind, doubted: a.doubted, looked },
    notLooked,
    policy.lookDays,
  );
  return {
    condition: then.condition,
    until: then.until,
    kind: then.kind,
    because: result.because,
    findings,
    open,
    contradictions,
    asked: measured.asked,
    looked,
    notLooked,
    limits: measured.limits,
    notExcluded: measured.notExcluded,
    label,
    nature,
    electrical: e,
  };
}

/** What time and the policy still need of a pack to tell its condition: all else of its facts is judged already. */
export function assessed(facts: PackFacts, policy: Pick<PolicyFacts, 'swelling'>): Assessed {
  const { result, doubted, looked, hasVolts } = assessmentOf(facts, policy);
  const before = recordBefore(facts);
  return {
    condition: result.condition,
    kind: result.kind,
    doubted,
    looked: hasVolts ? looked : { ...looked, electrical: null },
    before: before && assessed(before, policy),
  };
}

/** Pack volts say nothing better of a single cell: is a look at each of them still owed? */
export const cellsWanted = ({ nature, electrical: e }: Pick<Judgement, 'nature' | 'electrical'>): boolean =>
  nature.lithium && nature.series !== 1 && !e.cellsSeen;

const ADDED_TWICE =
  'two devices gave this tag to a pack: one pack or two? Two: give one a new tag. It counts as the worse of both until one "pack added" is taken back';

const CELLS_NOT_SEEN = 'the cells were not seen one by one: read the gauge, measure at the taps, or run one full cycle in a host';
