import type { Contradiction } from '../coherence/relation';
import { packageContradictions, packContradictions, relationOf } from '../coherence/relations';
import { ladder, type LadderResult, RANK } from '../condition/ladder';
import { factWords } from '../coherence/fact-words';
import type { Condition, Purpose } from '../logbook/entry';
import { decide } from './decide';
import { type Outcome, type Provision, type Route, SEVERITY, type ShippingFacts } from './facts';
import { type Leaf, type Question, Reader, Unknown } from './leaf';
import { DecisionGraph, Trace } from './graph';
import { SHIPPING } from './rulebook';
import { statedOf, statedPackage } from './stated';

export interface Classified {
  readonly condition: Condition;
  readonly outcome: Outcome;
  readonly provision: Provision | null;
  readonly un: string | null;
  readonly batteryMark: boolean | null;
  /** What a hold waits for, dotted names. */
  readonly missing: readonly string[];
  readonly rules: readonly string[];
  readonly notes: readonly string[];
  /** Facts the rules looked at. */
  readonly used: readonly string[];
  /** Facts that cannot all be true. */
  readonly contradictions: readonly Contradiction[];
}

interface Search {
  readonly facts: ShippingFacts;
  readonly route: Route;
  readonly ladder: LadderResult;
  readonly contradictions: readonly Contradiction[];
  readonly used: Set<string>;
  readonly trace: Trace | null;
}

/** What came out of a question, and how it depends on the answers: equal ones depend on nothing. */
interface Node {
  readonly leaf: Leaf;
  readonly depends: string;
}

const told = (l: Leaf) => `${l.outcome} ${l.provision} ${l.un}`;
const light = (l: Leaf) => l.outcome === 'allowed' || l.outcome === 'split';
/** Every string of the lists once, in order. The lists are short and asked for at every question. */
function union(lists: readonly (readonly string[])[]): string[] {
  const out: string[] = [];
  for (const list of lists) for (const x of list) if (!out.includes(x)) out.push(x);
  return out;
}

/**
 * Answers every question the rules ask in every possible way and joins what comes out: an answer that cannot change the outcome
 * is not asked for, what is forbidden either way is forbidden, and everything else waits for the fact.
 */
function explore(s: Search, assumed: ReadonlyMap<string, unknown>): Node {
  const reader = new Reader(
    { facts: s.facts, ladder: s.ladder, contradictions: s.contradictions, on: s.route.on },
    assumed,
    s.trace,
  );
  try {
    const leaf = decide(reader, assumed.has('mode') ? { ...s.route, mode: assumed.get('mode') as Route['mode'] } : s.route);
    return { leaf, depends: told(leaf) };
  } catch (e) {
    if (!(e instanceof Unknown)) throw e;
    const { question } = e;
    return join(
      question,
      question.answers.map((a) => explore(s, new Map(assumed).set(question.key, a))),
    );
  } finally {
    for (const u of reader.used) s.used.add(u);
  }
}

/** Steps 0 to 3 stop at the first missing fact; later ones report everything that can still change the ruling. */
const EARLY: ReadonlySet<string> = new Set(['findings', 'mode', 'placement']);
/** Questions about size or mark: a hold for them names what would apply if it were over. */
const SIZES: ReadonlySet<string> = new Set(['ratedEnergy', 'energyMarked', 'series', 'parallel', 'lithiumContent']);
const OVER = /^P903$|^173\.185\(b\)$|-IA?$/;

/** The provision of the larger of several classes; null when none of them is one. */
const overOf = (leaves: readonly Leaf[]): Provision | null =>
  leaves.map((c) => c.provision).find((p) => p !== null && OVER.test(p)) ?? null;

/** Several answers to one question. */
function join(q: Question, nodes: readonly Node[]): Node {
  const leaves = nodes.map((n) => n.leaf);
  const [first] = leaves as [Leaf, ...Leaf[]];
  const early = q.fields.find((f) => EARLY.has(f));
  const rules = union(leaves.map((l) => l.rules));
  const un = leaves.every((l) => l.un === first.un) ? first.un : null;
  const marked = leaves.some((l) => l.batteryMark === true) || first.batteryMark;
  const done = (leaf: Leaf): Node => ({ leaf, depends: told(leaf) });
  // Sound and damaged never share a provision: nobody has looked is answered only where nothing is open either way.
  const looked = early !== 'findings';
  if (looked && nodes.every((n) => n.depends === nodes[0]!.depends))
    return { ...nodes[0]!, leaf: { ...first, batteryMark: marked, missing: union(leaves.map((l) => l.missing)) } };
  const missing = early ? [early] : union([q.fields, ...leaves.map((l) => l.missing)]);
  if (leaves.every((l) => l.outcome === 'forbidden')) {
    const same = leaves.every((l) => l.provision === first.provision);
    // A route closed for every condition cites its own rule, not that of the damaged.
    const own = early === 'findings' ? leaves[leaves.length - 1]! : first;
    const provision = same || early === 'findings' ? own.provision : SIZES.has(q.fields[0] ?? '') ? overOf(leaves) : null;
    return done({ ...own, provision, un, missing: [] });
  }
  if (leaves.every((l) => SEVERITY[l.outcome] >= SEVERITY.approval)) {
    const asked = leaves.find((l) => l.outcome === 'approval')!;
    return { leaf: { ...asked, un, missing, rules }, depends: told({ ...asked, un }) };
  }
  if (!early && leaves.every(light) && leaves.every((l) => l.provision === first.provision && l.un === first.un))
    return done({ ...(leaves.find((l) => l.outcome === 'allowed') ?? first), batteryMark: marked, missing: [] });
  const note = early === undefined ? q.fields : [early];
  return {
    leaf: {
      outcome: 'hold',
      // While the type test is open nothing else is named.
      provision: q.fields.some((f) => SIZES.has(f)) ? overOf(leaves) : null,
      un,
      batteryMark: null,
      missing,
      rules: early === 'findings' ? union([['unknown'], rules]) : rules,
      notes: union([note.map(ask), leaves.find((l) => l.outcome === 'hold')?.notes ?? []]),
    },
    depends: `${q.key}(${nodes.map((n) => n.depends).join('|')})`,
  };
}

/** What to do for a missing fact. */
const ASK: Record<string, string> = {
  findings: 'examine the pack',
  mode: 'say how it travels: road, rail, sea or air',
  typeTested: 'find the UN 38.3 test summary',
  stateOfCharge: 'measure the charge',
  purpose: 'say whether it is waste: worn out, it flies as waste only with approval',
  ratedEnergy: 'read the watt-hours on the label',
  energyMarked: 'look whether watt-hours are printed on the case',
  series: 'find out the cells in series',
  parallel: 'find out the cells in parallel',
  lithiumContent: 'find out the grams of lithium',
  placement: 'say how it travels: loose, with or in its equipment',
  'package.netKg': 'weigh the packs of the package',
  'package.grossKg': 'weigh the package',
  'package.packs': 'count the packs in the package',
  'package.equipment': 'count the machines in the package',
  'package.packsPerEquipment': 'say how many packs a machine takes',
};
const ask = (field: string): string => ASK[field] ?? `find out: ${factWords(field)}`;

/** Nothing at the terminals says nothing of the cells: what is left to do, and its way when that fails. */
const NO_OUTPUT =
  'no output: wake it or read its gauge; if neither can be done, record "cannot be examined", and it travels as damaged';

/** Nothing that was in an incident leaves before that is over, whatever else the rules say. */
const frozen = (leaf: Leaf): Leaf => ({
  outcome: 'hold',
  provision: leaf.provision,
  un: leaf.un,
  batteryMark: null,
  missing: ['incident'],
  rules: ['incident', ...leaf.rules],
  notes: ['wait until the incident is declared over'],
});

/** What holds of a pack as it lies in its package, whatever route is asked: worked out once for all of them. */
export interface Prepared {
  readonly facts: ShippingFacts;
  readonly ladder: LadderResult;
  /** Contradictions of what the pack is. */
  readonly ofPack: readonly Contradiction[];
  /** Those of the package beside them. */
  readonly contradictions: readonly Contradiction[];
  /** What the record says besides, of facts in dispute. */
  readonly rivals: readonly Prepared[];
  /** Where its decisions start: all that the rules read of the pack without asking for it by name. */
  readonly start: string;
}

/**
 * @param given one pack; contradictions found elsewhere (with the digits as printed) come with it and are not looked for again.
 * @param same the same pack in another package: what is known of the pack itself is taken from it.
 */
export function prepare(given: ShippingFacts, same?: Prepared): Prepared {
  const { rivals, facts } = apart(given);
  const state = same?.ladder ?? ladderOf(facts);
  const ofPack = same?.ofPack ?? facts.contradictions ?? packContradictions(statedOf(facts));
  return {
    facts,
    ladder: state,
    ofPack,
    contradictions: facts.package ? [...ofPack, ...packageContradictions(statedPackage(facts))] : ofPack,
    rivals: rivals.map((r, i) => prepare({ ...facts, ...r }, same?.rivals[i])),
    start: same?.start ?? startOf(facts, state),
  };
}

/** The same pack in the same package for another purpose, of which no fact and no contradiction depends. */
export const preparedFor = (p: Prepared, purpose: Purpose): Prepared => ({
  ...p,
  facts: { ...p.facts, purpose },
  rivals: p.rivals.map((r) => preparedFor(r, purpose)),
});

const startOf = ({ findings, conditionKnown, disputed, policy, frozen }: ShippingFacts, state: LadderResult): string =>
  JSON.stringify([
    state.condition,
    state.because,
    findings ?? null,
    conditionKnown !== false,
    disputed ?? null,
    policy?.innerCellLimit === true,
    frozen === true,
  ]);

/** What the finding codes mean where this workshop sets its own allowance for growth. */
function ladderOf({ findings, cleared, makerCleared, conditionKnown, quieted, policy }: ShippingFacts): LadderResult {
  return ladder({ findings, cleared, makerCleared, conditionKnown, quieted, swelling: policy?.swelling });
}

function apart(given: ShippingFacts): { readonly facts: ShippingFacts; readonly rivals: NonNullable<ShippingFacts['rivals']> } {
  if (given.rivals === undefined) return { facts: given, rivals: [] };
  const { rivals, ...facts } = given;
  return { facts, rivals };
}

/** What facts say that contradict each other is not vouched for. */
function conditionWith(condition: Condition, contradictions: readonly Contradiction[]): Condition {
  const doubt = contradictions.some((c) => ['size', 'hold'].includes(relationOf(c.relation).effect));
  return doubt && RANK[condition] < RANK.unproven ? 'unproven' : condition;
}

/** Asks the rules about one pack on one route. Pure; `on` picks the edition. */
export const classify = (facts: ShippingFacts, route: Route): Classified => classifyPrepared(prepare(facts), route);

const worse = (a: Classified, b: Classified): boolean =>
  SEVERITY[a.outcome] !== SEVERITY[b.outcome] ? SEVERITY[a.outcome] > SEVERITY[b.outcome] : RANK[a.condition] > RANK[b.condition];
const worseOf = (a: Condition, b: Condition): Condition => (RANK[a] > RANK[b] ? a : b);

/**
 * Where facts are in dispute every rival is asked too: the most severe answer is given, of equals that of the worse condition. The condition is the
 * worst of all, whichever answer that is.
 */
export function classifyPrepared(p: Prepared, route: Route): Classified {
  const said = answer(p, route);
  if (p.rivals.length === 0) return said;
  const used = new Set(said.used);
  return p.rivals.reduce<Classified>((worst, r) => {
    const c = answer(r, route);
    for (const u of c.used) used.add(u);
    const condition = worseOf(c.condition, worst.condition);
    return { ...(worse(c, worst) ? c : worst), condition, used: [...used].sort() };
  }, said);
}

/** Decisions of this program so far: rules never change while it runs. */
const decisions = new DecisionGraph<Classified>(10_000);

/** What contradicts itself is told in its own words and figures, so it is decided by itself. */
function answer(p: Prepared, route: Route): Classified {
  if (p.contradictions.length > 0) return decideOne(p, route);
  const start = `${route.mode} ${route.region} ${SHIPPING.span(route.on)} ${p.start}`;
  const known = decisions.find(start, p.facts);
  if (known) return known;
  const trace = new Trace();
  const made = decideOne(p, route, trace);
  decisions.add(start, trace, made);
  return made;
}

/** Decides without looking at earlier decisions. @param trace notes what the decision asked. */
export function decideOne(
  { facts, ladder: state, contradictions }: Prepared,
  route: Route,
  trace: Trace | null = null,
): Classified {
  const used = new Set<string>();
  const { leaf } = explore({ facts, route, ladder: state, contradictions, used, trace }, new Map());
  const noted =
    state.because.includes('no-output') && leaf.missing.includes('findings')
      ? { ...leaf, notes: [NO_OUTPUT, ...leaf.notes] }
      : leaf;
  const { outcome, provision, un, batteryMark, missing, rules, notes } =
    facts.frozen && SEVERITY[leaf.outcome] < SEVERITY.hold ? frozen(leaf) : noted;
  return {
    condition: conditionWith(state.condition, contradictions),
    outcome,
    provision,
    un,
    batteryMark,
    missing,
    rules,
    notes,
    contradictions,
    used: [...used].sort(),
  };
}
