import { NOTHING_WRONG, type OwnEntry, type Writing } from '../by-hand';
import type { Course, Hurting, Ruled } from './course';

/** A course as far as it was played: all else follows from it. */
export interface StagedSession {
  readonly course: Course;
  readonly actions: readonly string[];
  /** What the learner says the ruling will be, how sure (0 to 1), and after how many actions. */
  readonly bet: StagedBet | null;
  /** What the learner wrote down before the bet; absent: the bench writes down what each action finds. */
  readonly own?: readonly OwnEntry[];
}

export interface StagedBet {
  readonly word: string;
  readonly sure: number;
  readonly after: number;
}

/** The ruling on what was found before it. */
export const rulingOn = ({ course, actions, bet, own }: StagedSession): Ruled =>
  course.ruled(actions.slice(0, bet?.after ?? actions.length), own);

/** What was unsafe, in the order in which it was done. */
export const stagedHarms = ({ course, actions }: StagedSession): Hurting[] =>
  actions.flatMap((a, i) => course.harm(a, actions.slice(0, i)) ?? []);

/** It has ended: by harm, by what ends it, or by a ruling that lets nothing go on. */
export const stagedOver = (s: StagedSession): boolean =>
  s.actions.some((a) => s.course.ends.includes(a)) ||
  stagedHarms(s).some((h) => h.ends) ||
  (s.bet !== null && !s.course.goesOn.includes(rulingOn(s).word));

/** What there is to do now: the first part until the bet, the second after it. */
export const stagedActions = ({ course, bet }: StagedSession): readonly string[] => (bet === null ? course.before : course.after);

/** May this be done now? Each thing once, and one of two ways to the same. */
export function mayDoStaged(s: StagedSession, action: string): boolean {
  const { course, actions } = s;
  const done = (a: string) => actions.includes(a);
  return (
    !stagedOver(s) &&
    stagedActions(s).includes(action) &&
    !done(action) &&
    !course.rivals.some((r) => r.includes(action) && r.some(done)) &&
    course.possible(action, actions)
  );
}

/** Does something; what may not be done now changes nothing. */
export const actStaged = (s: StagedSession, action: string): StagedSession =>
  mayDoStaged(s, action) ? { ...s, actions: [...s.actions, action] } : s;

/** Says what the ruling will be. The first word counts. */
export const betStaged = (s: StagedSession, word: string, sure: number): StagedSession =>
  s.bet === null && !stagedOver(s) ? { ...s, bet: { word, sure, after: s.actions.length } } : s;

/**
 * Writes something down before the bet. Of one question another answer with nothing done in between is a slip of the finger: it takes the
 * place of the first.
 */
export function writeStaged(s: StagedSession, e: Omit<OwnEntry, 'after'>): StagedSession {
  if (!s.own || !s.course.byHand || s.bet !== null || stagedOver(s)) return s;
  const fields = Object.keys(e.body);
  const slip = (o: OwnEntry) =>
    o.after === s.actions.length && o.kind === e.kind && Object.keys(o.body).every((k) => fields.includes(k));
  return { ...s, own: [...s.own.filter((o) => !slip(o)), { ...e, after: s.actions.length }] };
}

export const stagedMinutes = ({ course, actions }: StagedSession): number =>
  actions.reduce((sum, a) => sum + course.actions[a]!.minutes, 0);

/** What to look back at; harm stands first and is never weighed against the rest. */
export interface StagedDebrief {
  readonly harm: readonly Hurting[];
  /** Broken, wrong or left out, in words. */
  readonly slips: readonly string[];
  readonly truth: readonly string[];
  /** What the record said, and what it would with everything found out. */
  readonly ruled: string;
  readonly settled: string;
  /** The ruling is what it should be, for the reasons it should, and what may go on came to its end. */
  readonly found: boolean;
  readonly way: readonly string[];
  readonly minutes: number;
  readonly writing: Writing;
  /** Was the bet right; null: none was placed. */
  readonly right: boolean | null;
  readonly full: boolean;
}

/** Of a course that is over, or as far as it went. */
export function stagedDebrief(s: StagedSession): StagedDebrief {
  const { course, actions, bet, own } = s;
  const harm = stagedHarms(s);
  const record = rulingOn(s);
  const whole = course.ruled(course.way.before);
  const slips = course.slips(bet ? actions.slice(bet.after) : [], actions);
  // What nobody looked at waits too: what keeps it back is to be found.
  const known = course.goesOn.includes(whole.word)
    ? bet !== null && course.finished(actions)
    : whole.reasons.every((r) => record.reasons.includes(r));
  const found = record.word === whole.word && known;
  const before = actions.slice(0, bet?.after ?? actions.length);
  const writing = own && course.byHand ? course.byHand.compare(before, own) : NOTHING_WRONG;
  const right = bet === null ? null : bet.word === record.word;
  return {
    harm,
    slips,
    truth: course.truth,
    ruled: record.word,
    settled: whole.word,
    found,
    way: [...course.way.before, ...course.way.after],
    minutes: stagedMinutes(s),
    writing,
    right,
    full:
      harm.length === 0 &&
      writing.wrong.length === 0 &&
      slips.length === 0 &&
      found &&
      (right === true || course.called(actions)),
  };
}
