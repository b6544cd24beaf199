import { condition } from '../condition/condition';
import type { Condition, LoggedEntry } from '../logbook/entry';
import { DEFAULT_POLICY, foldPack, type PackFacts } from '../logbook/fold';
import { localDay } from '../quantity/day';
import { rule, type Ruling } from '../ruling/ruling';
import { type Action, ACTIONS, type Harm, harmOf } from './actions';
import { compareWriting, NOTHING_WRONG, type OwnEntry, ownLog, type Writing } from './by-hand';
import { logOf, type Written } from './log';
import { type Act, SIMULATED_PACK } from './measure';
import { packOf, type Scenario } from './scenario';
import type { Fault } from './world';
import { counted } from '../quantity/counted';

/** What a learner says before the ruling is shown. */
export interface Bet {
  readonly condition: Condition;
  /** How sure, 0 to 1. */
  readonly sure: number;
}

/** One scenario as far as it was played: all else follows from it. */
export interface Session {
  readonly scenario: Scenario;
  readonly actions: readonly Action[];
  readonly bet: Bet | null;
  /** What the learner wrote down at the stations; absent: the bench writes down what each action finds. */
  readonly own?: readonly OwnEntry[];
}

/** What was unsafe, in the order in which it was done. */
export function harmsOf({ scenario, actions }: Session): Harm[] {
  const pack = packOf(scenario);
  return actions.flatMap((a) => harmOf(pack, a, scenario.reacting === true) ?? []);
}

/** Has it ended by what was done? Then nothing more can be done, only judged. */
export const isOver = (s: Session): boolean => s.actions.includes('leave') || harmsOf(s).some((h) => h.ends);

/** May this be done now? Each thing is done once; the cells are read again only where they were read before. */
export const mayDo = (s: Session, action: Action): boolean =>
  s.bet === null &&
  !isOver(s) &&
  !s.actions.includes(action) &&
  (action !== 'rest' || s.actions.includes('cells')) &&
  !(action === 'cells at once' && s.actions.includes('cells'));

/** Does something; what may not be done now changes nothing. */
export const act = (s: Session, action: Action): Session => (mayDo(s, action) ? { ...s, actions: [...s.actions, action] } : s);

/** Writes something down at a station; after the end nothing is written any more. */
export const writeOwn = (s: Session, e: Omit<OwnEntry, 'after'>): Session =>
  s.own && s.bet === null && !isOver(s) ? { ...s, own: [...s.own, { ...e, after: s.actions.length }] } : s;

/** Says what the ruling will be: then nothing more can be done. The first word counts. */
export const placeBet = (s: Session, bet: Bet): Session => (s.bet === null ? { ...s, bet } : s);

/** What was there to be seen and read so far, action by action. */
export const foundBy = (s: Session): Written => logOf(s.scenario, s.actions).written;

const factsAfter = (scenario: Scenario, actions: readonly Action[]): { facts: PackFacts; now: Date } => {
  const { entries, now } = logOf(scenario, actions);
  return { facts: foldPack(SIMULATED_PACK, entries)!, now };
};

/** Of a pack that reacts nobody writes anything but the call. */
const ownOf = ({ scenario, own }: Session): readonly OwnEntry[] | undefined => (scenario.reacting ? undefined : own);

/** The record of the session: what the learner wrote down, or what the bench wrote for who does not write. */
export function recordOf(s: Session, start?: number): { facts: PackFacts; entries: readonly LoggedEntry[]; now: Date } {
  const own = ownOf(s);
  const { scenario, actions } = s;
  const { entries, now } = own ? ownLog(scenario, actions, own, start) : logOf(scenario, actions, start);
  return { facts: foldPack(SIMULATED_PACK, entries)!, entries, now };
}

/** The record of a session that ends now: what was done first lies as long ago as it took. */
export const recordUntil = (s: Session, now: Date) => recordOf(s, now.getTime() - logOf(s.scenario, s.actions, 0).now.getTime());

/** What a record says by the same rules as in the workshop. */
export const ruledOn = ({ facts, now }: Pick<ReturnType<typeof recordOf>, 'facts' | 'now'>): Ruling =>
  rule(facts, DEFAULT_POLICY, now, localDay('UTC', now));

/** What the record of a session says by the same fold and the same rules as in the workshop. */
export const rulingOf = (s: Session): Ruling => ruledOn(recordOf(s));

/** What a record says: the condition, and of an unproven pack what does not add up. */
interface Verdict {
  readonly condition: Condition;
  readonly apart: readonly string[];
}

const judged = (scenario: Scenario, actions: readonly Action[]): Verdict => verdictOf(factsAfter(scenario, actions));

function verdictOf({ facts, now }: { facts: PackFacts; now: Date }): Verdict {
  const j = condition(facts, DEFAULT_POLICY, now);
  return { condition: j.condition, apart: j.condition === 'unproven' ? j.contradictions.map((c) => c.relation) : [] };
}

/** Does a record say what the whole of it says? "Unproven" alone is no answer where something does not add up. */
const reaches = (v: Verdict, goal: Verdict): boolean =>
  v.condition === goal.condition && (goal.apart.length === 0 || v.apart.some((r) => goal.apart.includes(r)));

export const minutesOf = (actions: readonly Action[]): number => actions.reduce((sum, a) => sum + ACTIONS[a].minutes, 0);

/** What the whole of the record would say: everything read that can be, or the call where it reacts. */
const wholeOf = (scenario: Scenario): Verdict => judged(scenario, scenario.reacting ? ['leave'] : ACTS_IN_ORDER);

const ACTS_IN_ORDER: readonly Act[] = ['look', 'label', 'weigh', 'temperature', 'thickness', 'gauge', 'cells', 'rest'];

/**
 * What is wrong with a scenario that somebody else wrote: the record, read as far as it can be, must say what is said to be wrong, and
 * nothing else. @returns why it cannot be practised, in words; null where it can.
 */
export function flawOf(scenario: Scenario): string | null {
  const { series, cells } = packOf(scenario);
  if (cells.length !== series) return `the voltages of ${counted(cells.length, 'cell')} are given for ${series} in series`;
  if (scenario.reacting) return null;
  const { condition: settled } = wholeOf(scenario);
  const good = settled === 'sound' || settled === 'spent';
  if (good && scenario.faults.length > 0)
    return `everything read together says ${settled}: nobody could find ${scenario.faults.map((f) => `“${f}”`).join(' and ')}`;
  return good || scenario.faults.length > 0 ? null : `nothing is said to be wrong with it, but everything read says ${settled}`;
}

/** A way to the same ruling. */
export interface Way {
  readonly acts: readonly Action[];
  readonly minutes: number;
}

/** The quickest ways to what the whole record says, quickest first: a look, then nothing, one thing, two, or all but the long rest. */
function waysTo(scenario: Scenario, goal: Verdict): Way[] {
  if (scenario.reacting) return [{ acts: ['leave'], minutes: minutesOf(['leave']) }];
  const [look, ...others] = ACTS_IN_ORDER as readonly [Act, ...Act[]];
  const after: readonly (readonly Act[])[] = [
    [],
    ...others.map((a) => [a]),
    ...others.flatMap((a, i) => others.slice(i + 1).map((b) => [a, b])),
    others.filter((a) => a !== 'rest'),
    others,
  ];
  const ways = after
    .filter((acts) => (!acts.includes('rest') || acts.includes('cells')) && reaches(judged(scenario, [look, ...acts]), goal))
    .map((acts) => ({ acts: [look, ...acts], minutes: minutesOf([look, ...acts]) }))
    .sort((a, b) => a.minutes - b.minutes || a.acts.length - b.acts.length);
  // What holds a quicker way whole is no other way.
  return ways.filter((w, i) => !ways.slice(0, i).some((q) => q.acts.every((a) => w.acts.includes(a)))).slice(0, 2);
}

/** What to look back at; harm stands first and is never weighed against the rest. */
export interface Debrief {
  readonly harm: readonly Harm[];
  /** What was wrong with it, in words; empty: nothing. */
  readonly truth: readonly string[];
  /** What the record as it stands says, and what the whole of it would. */
  readonly ruled: Condition;
  readonly settled: Condition;
  /** The record says what the whole of it would. */
  readonly found: boolean;
  /** Things left undone of which each by itself would have been enough. */
  readonly missed: readonly Act[];
  readonly ways: readonly Way[];
  /** What was done before anybody looked; null where looking came first. */
  readonly before: Action | null;
  readonly minutes: number;
  /** Squared difference of how sure and how it came (Brier 1950): 0 is best, 1 worst. Null: no bet. */
  readonly brier: number | null;
  /** What was written down otherwise than it was, and what was there and not written; empty where the bench wrote. */
  readonly writing: Writing;
  /** Nothing unsafe, looked first, nothing written wrong, the ruling settled, and the bet right. */
  readonly full: boolean;
}

const TRUTH: Readonly<Record<Fault, string>> = {
  swollen: 'it is swollen',
  'dead cell': 'one cell is dead',
  'deep discharge': 'every cell is deeply discharged',
  'over-charge': 'one cell is over its charge limit',
  imbalance: 'one cell is far from the others',
  'leaking at rest': 'one cell loses charge at rest, as a soft short would',
  dent: 'a cell is dented',
  puncture: 'it is punctured',
  liquid: 'electrolyte came out once',
  smell: 'it smells of solvent',
  hot: 'it is hot',
  counterfeit: 'its label claims more than its mass can hold',
  're-celled': 'it was rebuilt with another number of cells',
  'gauge failed': 'its gauge has failed for good',
};

/** Of a session whose bet was placed, or which ended by what was done. */
export function debrief(s: Session): Debrief {
  const { scenario, actions, bet } = s;
  const harm = harmsOf(s);
  const ruled = verdictOf(recordOf(s));
  const own = ownOf(s);
  const writing = own ? compareWriting(scenario, actions, own) : NOTHING_WRONG;
  const goal = wholeOf(scenario);
  const open = scenario.reacting || isOver(s) ? [] : ACTS_IN_ORDER.filter((a) => mayDo({ ...s, bet: null }, a));
  const first = actions[0];
  const before = first === undefined || first === 'look' || first === 'leave' ? null : first;
  const found = reaches(ruled, goal);
  const right = bet?.condition === ruled.condition;
  return {
    harm,
    truth: scenario.reacting ? ['it was hissing'] : packOf(scenario).faults.map((f) => TRUTH[f]),
    ruled: ruled.condition,
    settled: goal.condition,
    found,
    // What was there and not written is no thing left undone.
    missed:
      found || reaches(judged(scenario, actions), goal)
        ? []
        : open.filter((a) => reaches(judged(scenario, [...actions, a]), goal)),
    ways: waysTo(scenario, goal),
    before,
    minutes: minutesOf(actions),
    writing,
    brier: bet === null ? null : ((right ? 1 : 0) - bet.sure) ** 2,
    full: harm.length === 0 && before === null && writing.wrong.length === 0 && found && right,
  };
}
