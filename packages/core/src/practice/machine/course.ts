import { opening, type Opening, type OpeningWord } from '../../job/opening';
import type { Bodies, Kind, LoggedEntry, Subject } from '../../logbook/entry';
import { isHazard } from '../../logbook/entry';
import { foldNotebook } from '../../logbook/fold';
import { foldJob } from '../../logbook/fold-job';
import type { OwnEntry } from '../by-hand';
import type { Course } from '../staged/course';
import { compareAnswers } from './by-hand';
import { chargeShown, INSIDE, liveOf, MACHINE_ACTIONS, type MachineAction, machineHarm, OUTSIDE, shows, slipsOf } from './acts';
import { oddWords, reacts, type TrueMachine } from './machine';

const START = Date.parse('2026-11-02T08:00:00.000Z');
const JOB = 'b0000000-0000-4000-8000-00000000000b';
const MACHINE = 'b0000000-0000-4000-8000-00000000000c';
const SUBJECTS: readonly Subject[] = [`job:${JOB}`, `notebook:${MACHINE}`];
const TRAINED = 'trained';

/**
 * The log of job and machine as these actions write it, or, where the learner writes by hand, what they wrote; what somebody else does goes on
 * record by itself.
 */
function logOf(m: TrueMachine, actions: readonly MachineAction[], own?: readonly OwnEntry[]): LoggedEntry[] {
  const entries: LoggedEntry[] = [];
  const say = <K extends Kind>(kind: K, body: Bodies[K], by = 'learner', id?: string) => {
    const seq = entries.length + 1;
    const time = new Date(START + seq * 60_000).toISOString();
    entries.push({
      id: id ?? `c0000000-0000-4000-8000-${String(seq).padStart(12, '0')}`,
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
  const written = (after: number) => {
    for (const o of own ?? []) if (o.after === after) say(o.kind, o.body, 'learner', o.id);
  };
  actions.forEach((action, i) => {
    written(i);
    if (action === 'trained') say('swollen-prepared', { charge: 'as found' }, TRAINED);
    // Whoever leaves says afterwards what was heard.
    if (action === 'leave' && reacts(m)) say('intake-noted', { sound: 'hiss' });
    if (own) return;
    if (action === 'owner') say('intake-noted', m.owner);
    if (action === 'hands') say('triaged', m.hands);
    if (action === 'eyes') say('intake-noted', m.eyes);
    if (action === 'shown' || action === 'run-down') say('intake-noted', { charge: chargeShown(m, actions.slice(0, i + 1)) });
  });
  written(actions.length);
  return entries;
}

/** The job and the machine as these actions, and what was written by hand, leave them. */
function machineRecord(m: TrueMachine, actions: readonly MachineAction[], own?: readonly OwnEntry[]) {
  const entries = logOf(m, actions, own);
  return { job: foldJob(JOB, entries)!, notebook: foldNotebook(MACHINE, entries)! };
}

/** What the record of these actions says on opening, by the same folds and the same rule as in the workshop. */
function ruledBy(m: TrueMachine, actions: readonly MachineAction[], own?: readonly OwnEntry[]): Opening {
  const { job, notebook } = machineRecord(m, actions, own);
  return opening(job, notebook, [], null, [TRAINED]);
}

const LOOKS: readonly MachineAction[] = ['owner', 'hands', 'eyes'];
const KEPT_CLOSED = { before: LOOKS, after: [] } as const;

/** The way through a machine that somebody trained takes: looks, then what the ruling itself asks for, then the order of isolating. */
function wayOf(m: TrueMachine): Course<MachineAction>['way'] {
  if (reacts(m)) return { before: ['leave'], after: [] };
  const shown: readonly MachineAction[] = [...LOOKS, 'shown'];
  const before: readonly MachineAction[] = ruledBy(m, LOOKS).asDamaged
    ? [...LOOKS, 'trained']
    : ruledBy(m, shown).word === 'bring down first'
      ? [...shown, 'run-down']
      : shown;
  if (ruledBy(m, before).word !== 'open now') return KEPT_CLOSED;
  const plug: readonly MachineAction[] = m.plugged && !before.includes('run-down') ? ['unplug'] : [];
  const outer: readonly MachineAction[] = m.outer ? ['outer'] : [];
  return { before, after: ['off', ...plug, ...outer, 'feet', 'map', 'plastic', 'shoulders', 'drain', 'dead'] };
}

/** What lies under the cover. */
const UNDER: readonly MachineAction[] = ['fan', 'shoulders', 'wires'];

/** A closed machine: what is asked and looked at, the ruling on opening, and the order of isolating. */
export const machineCourse = (m: TrueMachine): Course<MachineAction, OpeningWord> => ({
  actions: MACHINE_ACTIONS,
  before: OUTSIDE,
  after: INSIDE,
  words: ['open now', 'bring down first', 'do not open', 'emergency'],
  goesOn: ['open now'],
  ends: ['leave', 'dead'],
  rivals: [
    ['map', 'cup'],
    ['plastic', 'metal'],
    ['shoulders', 'wires'],
  ],
  title: 'It opens. What do you do?',
  truth: oddWords(m),
  way: wayOf(m),
  ruled: (done, own) => ruledBy(m, done, own),
  byHand: { compare: (done, own) => compareAnswers(m, done, own), record: (done, own) => machineRecord(m, done, own) },
  harm: (action, done) => machineHarm(m, action, done),
  slips: (after) => slipsOf(m, after),
  shows: (action, done) => shows(m, action, done),
  possible: (action, done) => !UNDER.includes(action) || done.includes('plastic') || done.includes('metal'),
  finished: (done) => done.includes('dead') && liveOf(m, done).length === 0,
  called: (done) => reacts(m) && done.includes('leave'),
});
