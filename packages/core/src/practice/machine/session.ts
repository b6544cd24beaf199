import { opening, type Opening, type OpeningWord } from '../../job/opening';
import type { Bodies, Kind, LoggedEntry, Subject } from '../../logbook/entry';
import { isHazard } from '../../logbook/entry';
import { foldNotebook } from '../../logbook/fold';
import { foldJob } from '../../logbook/fold-job';
import { randomOf } from '../random';
import type { Grade } from '../scenario';
import {
  chargeShown,
  INSIDE,
  liveOf,
  MACHINE_ACTIONS,
  type MachineAction,
  machineHarm,
  type MachineHarm,
  OUTSIDE,
  slipsOf,
} from './acts';
import { machineOf, oddWords, reacts, type TrueMachine } from './machine';

/** A machine with its story. */
export interface MachineScenario {
  readonly id: string;
  readonly grade: Grade;
  readonly title: string;
  readonly story: string;
  readonly machine: TrueMachine;
}

/** A written one, with the two ways through it that are tried. */
export interface WrittenMachine extends MachineScenario {
  readonly expert: readonly MachineAction[];
  readonly careless: readonly MachineAction[];
}

export const OPENING_WORDS = [
  'open now',
  'bring down first',
  'do not open',
  'emergency',
] as const satisfies readonly OpeningWord[];

/** One machine as far as it was played: all else follows from it. */
export interface MachineSession {
  readonly scenario: MachineScenario;
  readonly actions: readonly MachineAction[];
  /** What the learner says the ruling will be, how sure (0 to 1), and after how many actions. */
  readonly bet: { readonly word: OpeningWord; readonly sure: number; readonly after: number } | null;
}

const START = Date.parse('2026-11-02T08:00:00.000Z');
const JOB = 'b0000000-0000-4000-8000-00000000000b';
const MACHINE = 'b0000000-0000-4000-8000-00000000000c';
const SUBJECTS: readonly Subject[] = [`job:${JOB}`, `notebook:${MACHINE}`];
const TRAINED = 'trained';

/** The log of job and machine as these actions write it. */
function logOf(m: TrueMachine, actions: readonly MachineAction[]): LoggedEntry[] {
  const entries: LoggedEntry[] = [];
  const say = <K extends Kind>(kind: K, body: Bodies[K], by = 'learner') => {
    const seq = entries.length + 1;
    const time = new Date(START + seq * 60_000).toISOString();
    entries.push({
      id: `c0000000-0000-4000-8000-${String(seq).padStart(12, '0')}`,
      v: 1,
      workshop: 'practice',
      subjects: SUBJECTS,
      kind,
      at: time,
      tz: 'UTC',
      by,
      device: 'practice',
      hazard: isHazard(kind),
      body,
      seq,
      recordedAt: time,
      effectiveAt: time,
    } as unknown as LoggedEntry);
  };
  say('notebook-identified', { tag: 'PRACTICE', plate: 'unreadable' });
  say('job-opened', {});
  actions.forEach((action, i) => {
    if (action === 'owner') say('intake-noted', m.owner);
    if (action === 'hands') say('triaged', m.hands);
    if (action === 'eyes') say('intake-noted', m.eyes);
    if (action === 'shown' || action === 'run-down') say('intake-noted', { charge: chargeShown(m, actions.slice(0, i + 1)) });
    if (action === 'trained') say('swollen-prepared', { charge: 'as found' }, TRAINED);
    // Whoever leaves says afterwards what was heard.
    if (action === 'leave' && reacts(m)) say('intake-noted', { sound: 'hiss' });
  });
  return entries;
}

/** What the record of these actions says on opening, by the same folds and the same rule as in the workshop. */
function ruledBy(m: TrueMachine, actions: readonly MachineAction[]): Opening {
  const entries = logOf(m, actions);
  return opening(foldJob(JOB, entries)!, foldNotebook(MACHINE, entries), [], null, [TRAINED]);
}

const outsideOf = (s: MachineSession): readonly MachineAction[] => s.actions.slice(0, s.bet?.after ?? s.actions.length);
const insideOf = (s: MachineSession): readonly MachineAction[] => (s.bet ? s.actions.slice(s.bet.after) : []);

/** The ruling on opening after what was done outside. */
export const openingRuling = (s: MachineSession): Opening => ruledBy(s.scenario.machine, outsideOf(s));

/** What was unsafe, in the order in which it was done. */
export const machineHarms = ({ scenario, actions }: MachineSession): MachineHarm[] =>
  actions.flatMap((a, i) => machineHarm(scenario.machine, a, actions.slice(0, i)) ?? []);

/** It has ended: by harm, by leaving, by calling it isolated, or by a ruling that keeps it closed. */
export const machineOver = (s: MachineSession): boolean =>
  s.actions.includes('leave') ||
  s.actions.includes('dead') ||
  machineHarms(s).some((h) => h.ends) ||
  (s.bet !== null && openingRuling(s).word !== 'open now');

/** What can be done now: outside until the bet, inside after a ruling that opens it. */
export const machineActions = (s: MachineSession): readonly MachineAction[] => (s.bet === null ? OUTSIDE : INSIDE);

const RIVALS: readonly (readonly MachineAction[])[] = [
  ['map', 'cup'],
  ['plastic', 'metal'],
  ['shoulders', 'wires'],
];
/** What lies under the cover. */
const UNDER: readonly MachineAction[] = ['fan', 'shoulders', 'wires'];

/** May this be done now? Each thing once, one of two ways to the same, and nothing under a cover that is on. */
export function mayDoMachine(s: MachineSession, action: MachineAction): boolean {
  const done = (a: MachineAction) => s.actions.includes(a);
  return (
    !machineOver(s) &&
    machineActions(s).includes(action) &&
    !done(action) &&
    !RIVALS.some((r) => r.includes(action) && r.some(done)) &&
    (!UNDER.includes(action) || done('plastic') || done('metal'))
  );
}

/** Does something; what may not be done now changes nothing. */
export const actMachine = (s: MachineSession, action: MachineAction): MachineSession =>
  mayDoMachine(s, action) ? { ...s, actions: [...s.actions, action] } : s;

/** Says what the ruling on opening will be. The first word counts. */
export const betMachine = (s: MachineSession, word: OpeningWord, sure: number): MachineSession =>
  s.bet === null && !machineOver(s) ? { ...s, bet: { word, sure, after: s.actions.length } } : s;

export const machineMinutes = (actions: readonly MachineAction[]): number =>
  actions.reduce((sum, a) => sum + MACHINE_ACTIONS[a].minutes, 0);

const LOOKS: readonly MachineAction[] = ['owner', 'hands', 'eyes'];

/** The way through a machine that somebody trained takes: looks, then what the ruling itself asks for, then the order of isolating. */
export function machineWay(m: TrueMachine): readonly MachineAction[] {
  if (reacts(m)) return ['leave'];
  const asked = ruledBy(m, LOOKS);
  const outside: readonly MachineAction[] = asked.asDamaged
    ? [...LOOKS, 'trained']
    : [...LOOKS, 'shown', ...(ruledBy(m, [...LOOKS, 'shown']).word === 'bring down first' ? (['run-down'] as const) : [])];
  if (ruledBy(m, outside).word !== 'open now') return LOOKS;
  const plug: readonly MachineAction[] = m.plugged && !outside.includes('run-down') ? ['unplug'] : [];
  const outer: readonly MachineAction[] = m.outer ? ['outer'] : [];
  return [...outside, 'off', ...plug, ...outer, 'feet', 'map', 'plastic', 'shoulders', 'drain', 'dead'];
}

/** How many actions of a way come before the ruling. */
export const outsidePart = (way: readonly MachineAction[]): number => {
  const first = way.indexOf('off');
  return first < 0 ? way.length : first;
};

/** What to look back at; harm stands first and is never weighed against the rest. */
export interface MachineDebrief {
  readonly harm: readonly MachineHarm[];
  /** Broken or forgotten, in words. */
  readonly slips: readonly string[];
  /** What was odd about it, in words; empty: nothing. */
  readonly truth: readonly string[];
  /** What the record said, and what it would with everything asked and looked at. */
  readonly ruled: OpeningWord;
  readonly settled: OpeningWord;
  /** The ruling is what it should be, and a machine that may be opened was isolated. */
  readonly found: boolean;
  readonly way: readonly MachineAction[];
  readonly minutes: number;
  /** Was the bet right; null: none was placed. */
  readonly right: boolean | null;
  readonly full: boolean;
}

/** Of a machine that is over, or as far as it went. */
export function machineDebrief(s: MachineSession): MachineDebrief {
  const m = s.scenario.machine;
  const harm = machineHarms(s);
  const record = openingRuling(s);
  const ruled = record.word;
  const way = machineWay(m);
  const whole = ruledBy(m, way.slice(0, outsidePart(way)));
  const settled = whole.word;
  const isolated = insideOf(s).includes('dead') && liveOf(m, s.actions).length === 0;
  // A machine nobody looked at stays closed too: what keeps it closed is to be found.
  const known = settled === 'open now' ? isolated : whole.reasons.every((r) => record.reasons.includes(r));
  const found = ruled === settled && known;
  const slips = slipsOf(m, insideOf(s));
  // Who left a room in which something hissed needs no bet.
  const right = s.bet === null ? null : s.bet.word === ruled;
  const called = settled === 'emergency' && s.actions.includes('leave');
  return {
    harm,
    slips,
    truth: oddWords(m),
    ruled,
    settled,
    found,
    way,
    minutes: machineMinutes(s.actions),
    right,
    full: harm.length === 0 && slips.length === 0 && found && (right === true || called),
  };
}

/** A machine nobody wrote a story for; the same seed is the same machine. @param seed a whole number from 0. */
export const endlessMachine = (seed: number): MachineScenario => ({
  id: `machine-${seed}`,
  grade: 'opening',
  title: `Machine ${seed % 10_000}`,
  story: 'Its owner waits at the counter: the battery does not last.',
  machine: machineOf(randomOf(seed)),
});
