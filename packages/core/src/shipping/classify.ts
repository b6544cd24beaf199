import { ladder, type LadderResult } from '../condition/ladder';
import type { Condition } from '../logbook/entry';
import { decide } from './decide';
import { type Outcome, type Provision, type Route, SEVERITY, type ShippingFacts } from './facts';
import { type Leaf, Reader, Unknown } from './leaf';

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
}

/** Facts whose lack may be answered by stating the limit, as long as they could only turn `allowed` into `split`. */
const COUNTS: ReadonlySet<string> = new Set([
  'package.packs',
  'package.equipment',
  'package.packsPerEquipment',
  'package.netKg',
  'package.grossKg',
  'mass',
]);

const publicName = (field: string) => field.replace(/#.*/, '');
const same = (a: Leaf, b: Leaf) => a.outcome === b.outcome && a.provision === b.provision && a.un === b.un;

interface Search {
  readonly facts: ShippingFacts;
  readonly route: Route;
  readonly ladder: LadderResult;
  readonly used: Set<string>;
  /** Stop at the first answer that is not forbidden: all that is asked is whether every one is. */
  readonly onlyForbidden: boolean;
}

/**
 * Answers every question the rules ask in every possible way and joins what comes out: an answer that cannot change the outcome
 * is not asked for, what is forbidden either way is forbidden, and everything else waits for the fact.
 */
function explore(s: Search, assumed: ReadonlyMap<string, unknown>): Leaf {
  const reader = new Reader(s.facts, s.ladder, assumed);
  try {
    const leaf = decide(reader, assumed.has('mode') ? { ...s.route, mode: assumed.get('mode') as Route['mode'] } : s.route);
    for (const u of reader.used) s.used.add(u);
    return leaf;
  } catch (e) {
    if (!(e instanceof Unknown)) throw e;
    for (const u of reader.used) s.used.add(u);
    const { field, answers } = e.question;
    // Sound and damaged never share a provision: nobody has looked means hold, unless both are forbidden.
    const looking = field === 'findings#condition';
    const children: Leaf[] = [];
    for (const a of answers) {
      const child = explore(looking ? { ...s, onlyForbidden: true } : s, new Map(assumed).set(field, a));
      if (s.onlyForbidden && child.outcome !== 'forbidden') return child;
      children.push(child);
      if (looking && child.outcome !== 'forbidden') break;
    }
    return join(field, children, looking);
  }
}

/** Several leaves for one unknown fact. */
function join(field: string, children: readonly Leaf[], looking: boolean): Leaf {
  const first = children[0]!;
  const worst = children.reduce((a, b) => (SEVERITY[b.outcome] > SEVERITY[a.outcome] ? b : a));
  if (!looking && children.every((c) => same(c, first))) {
    return { ...first, batteryMark: children.some((c) => c.batteryMark === true) ? true : first.batteryMark };
  }
  if (children.every((c) => c.outcome === 'forbidden')) return { ...worst, provision: null };
  const light = children.every((c) => c.outcome === 'allowed' || c.outcome === 'split');
  if (light && COUNTS.has(field) && children.every((c) => c.provision === first.provision)) {
    return children.find((c) => c.outcome === 'allowed') ?? first;
  }
  // Steps 0 to 3 stop at the first missing fact; later ones report everything that can still change the ruling.
  const early = ['chemistry', 'findings', 'mode', 'placement'].includes(publicName(field));
  const inner = early ? [] : children.flatMap((c) => c.missing);
  const missing = [...new Set([publicName(field), ...inner])];
  // A hold over a size or a mark names what would apply if it were over; other holds name nothing.
  const over = ['ratedEnergy', 'energyMarked', 'series', 'parallel'].includes(publicName(field))
    ? children.map((c) => c.provision).find((p) => p !== null && /^P903$|^173\.185\(b\)$|-IA?$/.test(p))
    : null;
  const sameUn = children.every((c) => c.un === first.un);
  return {
    outcome: 'hold',
    provision: over ?? null,
    un: sameUn ? first.un : null,
    batteryMark: null,
    missing,
    rules: [...new Set([...(publicName(field) === 'findings' ? ['unknown'] : []), ...children.flatMap((c) => c.rules)])],
    notes: [ASK[publicName(field)] ?? `find out: ${publicName(field)}`],
  };
}

/** What to do for a missing fact. */
const ASK: Record<string, string> = {
  findings: 'examine the pack',
  chemistry: 'read the chemistry on the label',
  typeTested: 'find the UN 38.3 test summary',
  stateOfCharge: 'measure the charge',
  ratedEnergy: 'read the watt-hours on the label',
  energyMarked: 'look whether watt-hours are printed on the case',
  series: 'find out the cells in series',
  parallel: 'find out the cells in parallel',
  placement: 'say how it travels: loose, with or in its equipment',
  'package.netKg': 'weigh the packs of the package',
};

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

/** Asks the rules about one pack on one route. Pure; `on` picks the edition. */
export function classify(facts: ShippingFacts, route: Route): Classified {
  const used = new Set<string>();
  const state = ladder(facts);
  const leaf = explore({ facts, route, ladder: state, used, onlyForbidden: false }, new Map());
  const said = facts.frozen && SEVERITY[leaf.outcome] < SEVERITY.hold ? frozen(leaf) : leaf;
  return { condition: state.condition, ...said, used: [...used].map(publicName).sort() };
}
