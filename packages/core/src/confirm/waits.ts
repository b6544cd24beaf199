import { alarmsOf, signsOf } from '../condition/container';
import { findingOf } from '../condition/findings';
import { type Judgement } from '../condition/condition';
import { RANK } from '../condition/ladder';
import { hasSign, INTAKE_SIGNS, milderAnswers, TRIAGE_SIGNS } from '../logbook/answers';
import { type Bodies, byTime, type Kind, type LoggedEntry, type Subject, type Waits } from '../logbook/entry';
import { foldPack, type PolicyFacts } from '../logbook/fold';
import { withReached } from '../logbook/reach';
import { authorsOwnMend, bodyOf, isBenign, isMend, READ_OFF, rootKinds } from '../logbook/standing';
import { ALL_ROUTES, type Cell, CELL_WORDS, matrix } from '../ruling/matrix';
import { rule, type Ruling } from '../ruling/ruling';

/** What is known when an entry comes in. */
export interface Known {
  /** Every pack the entry may concern, each with its own entries; without the new entry. */
  readonly packs: ReadonlyMap<string, readonly LoggedEntry[]>;
  /** Entries of a machine or a place whose hazards may reach a pack; without the new entry. */
  readonly of: (subject: Subject) => readonly LoggedEntry[] | undefined;
  /** Entries of what the new one is about, and what those rest on. */
  readonly entries: readonly LoggedEntry[];
  /** What stands on each question at intake: of the machine, of the job. */
  readonly triage: object;
  readonly intake: object;
  readonly policy: PolicyFacts;
  readonly now: Date;
  /** Local day of dispatch to ask routes for, YYYY-MM-DD. */
  readonly on: string;
}

/** A state of one pack that would become milder. */
export interface Milder {
  readonly pack: string;
  readonly before: Ruling;
  readonly after: Ruling;
}

/** Kinds that explain, end or outweigh what was said before when they are dated back behind it. */
const EXPLAINS: ReadonlySet<Kind> = new Set([
  'moved',
  'refitted',
  'pack-removed',
  'pack-added',
  'handed-over',
  'drum-collected',
  'consignment-handed-over',
  'brought-down',
  'topped-up',
  'cycled',
  'proof-taken',
]);

const LOOKED_AT: ReadonlySet<Kind> = new Set(['finding-cleared', 'quiet-declared', 'incident-closed', 'triaged', 'intake-noted']);

/** May it have to wait for a second person? All others bring new evidence, or make nothing milder. */
export const mayWait = (e: LoggedEntry): boolean => isMend(e) || EXPLAINS.has(e.kind) || LOOKED_AT.has(e.kind);

const severity = (c: Cell) => CELL_WORDS.indexOf(c.word);

/**
 * Is one ruling milder than another: a better condition, or at an equal one a better answer on any route of any region? A worse condition is
 * never milder, also where it opens a route that was held.
 */
export function isMilderRuling(before: Ruling, after: Ruling): boolean {
  const step = RANK[after.judgement.condition] - RANK[before.judgement.condition];
  if (step !== 0) return step < 0;
  return (['eu', 'us'] as const).some((region) => {
    const of = (r: Ruling) => matrix(r.shipping, r.on, { region, routes: ALL_ROUTES });
    const [a, b] = [of(before), of(after)];
    return a.some((cell, i) => severity(b[i]!) < severity(cell));
  });
}

/** The packs that would be milder with the entry in force than without it. */
export function milderWith(entry: LoggedEntry, k: Known): Milder[] {
  const inForce = { ...entry, seq: entry.seq ?? Number.MAX_SAFE_INTEGER, waits: 'nobody' } as LoggedEntry;
  return [...k.packs].flatMap(([pack, own]): Milder[] => {
    const before = rulingOf(pack, own, k);
    const named = entry.subjects.includes(`pack:${pack}`);
    const after = rulingOf(pack, named ? [...own, inForce] : own, k, inForce);
    return before && after && isMilderRuling(before, after) ? [{ pack, before, after }] : [];
  });
}

/** The ruling of a pack by its own entries and the hazards that reach it. @param more an entry that its machine or place has besides. */
function rulingOf(pack: string, own: readonly LoggedEntry[], k: Known, more?: LoggedEntry): Ruling | null {
  const of = (s: Subject) => (more?.subjects.includes(s) ? [...(k.of(s) ?? []), more] : k.of(s));
  const facts = foldPack(pack, withReached(own, of));
  return facts && rule(facts, k.policy, k.now, k.on);
}

const isDanger = (j: Judgement): boolean => RANK[j.condition] >= RANK.damaged;

/** Most dangerous first. */
const CLASSES = ['reacting', 'unstable', 'hard', 'recall', 'soft', 'unproven', 'spent'] as const;
const classRank = (code: string): number => CLASSES.indexOf(findingOf(code)?.class ?? 'unproven');

/** Is the finding corrected to something at least as dangerous? */
function asDangerous(before: unknown, after: unknown): boolean {
  const [a, b] = [before, after].map((x) => classRank((x as Bodies['finding-recorded']).code)) as [number, number];
  return b < a || (b === a && (before as Bodies['finding-recorded']).code === (after as Bodies['finding-recorded']).code);
}

/** Does what is said of a place instead warn of everything that the look warned of? A pack may yet turn out to have lain there. */
function warnsAsMuch(at: string, before: Bodies['container-looked'], after: Bodies['container-looked'] | null): boolean {
  const heat = (body: Bodies['container-looked']) => alarmsOf({ at, body }, []).length > 0;
  const [old, now] = [signsOf(before), after ? signsOf(after) : []];
  return old.every((s) => now.includes(s)) && (!heat(before) || (after !== null && heat(after)));
}

/** Danger that readings or looks show: an entry that such a finding rests on is a breach. */
const isBreach = (id: string, k: Known): boolean =>
  [...k.packs].some(([pack, own]) => {
    const found = rulingOf(pack, own, k)?.judgement.findings ?? [];
    return found.some((f) => f.from === 'measured' && f.entries.includes(id));
  });

/** Whom a correction or a retraction waits for. */
function forMend(entry: LoggedEntry, k: Known): Waits {
  const target = k.entries.find((e) => e.id === entry.replaces);
  // Nothing is known of what it mends: nobody can say that it is harmless.
  if (!target) return 'trained';
  const kind = rootKinds(k.entries)(target);
  const [old, fresh] = [bodyOf(target), entry.kind === 'corrected' ? bodyOf(entry) : null];
  if (isBenign(kind, old) && (fresh === null || isBenign(kind, fresh))) return 'nobody';
  if (kind === 'finding-recorded') {
    const spent = classRank((old as Bodies['finding-recorded']).code) === CLASSES.indexOf('spent');
    // A worse finding instead acts at once, unless the other one made things worse together with what else was found.
    if (!spent && !(fresh !== null && asDangerous(old, fresh))) return 'trained';
  }
  const signs = kind === 'triaged' ? TRIAGE_SIGNS : kind === 'intake-noted' ? INTAKE_SIGNS : null;
  if (signs && hasSign(signs, old as object)) {
    // Corrected to the same or worse on every question it answered.
    const answers = fresh as object | null;
    const kept = answers !== null && Object.keys(old as object).every((q) => q in answers);
    if (!kept || milderAnswers(signs, old as object, answers).length > 0) return 'trained';
  }
  if (
    kind === 'container-looked' &&
    !warnsAsMuch(target.at, old as Bodies['container-looked'], fresh as Bodies['container-looked'] | null)
  )
    return 'trained';
  if (kind === 'incident-opened' && fresh === null) return 'trained';
  if (isBreach(target.id, k)) return 'trained';
  const milder = milderWith(entry, k);
  if (milder.length === 0) return 'nobody';
  const danger = milder.some((m) => isDanger(m.before.judgement));
  if (danger) return 'trained';
  // A slip of the eye at a label is mended by who made it, while nothing stands on it and no danger goes with it.
  const own = READ_OFF.has(kind) && authorsOwnMend({ ...entry, seq: entry.seq ?? 0 } as LoggedEntry, target, kind, k.entries);
  return own ? 'nobody' : 'second';
}

/** Does it stand before something that was known of one of its packs, by its date, or at the same moment by its id? */
const isDatedBack = (entry: LoggedEntry, k: Known): boolean =>
  [...k.packs.values()].some((own) => withReached(own, k.of).some((e) => e.seq !== null && byTime(e, entry) > 0));

/**
 * The one function that says whom an entry waits for before it may make anything milder, by comparing what is with what would be, for
 * every pack and machine concerned. Nobody alone lowers what another could already see: a server asks it of each entry it takes
 * and keeps the answer with it.
 * @returns undefined for kinds that never make anything milder: what is new evidence is no mending.
 */
export function waitsFor(entry: LoggedEntry, k: Known): Waits | undefined {
  if (isMend(entry)) return forMend(entry, k);
  switch (entry.kind) {
    case 'finding-cleared':
    case 'quiet-declared':
    case 'incident-closed':
      return 'trained';
    case 'triaged':
      return milderAnswers(TRIAGE_SIGNS, k.triage, entry.body).length > 0 ? 'trained' : 'nobody';
    case 'intake-noted':
      return milderAnswers(INTAKE_SIGNS, k.intake, entry.body).length > 0 ? 'trained' : 'nobody';
    default:
      if (!EXPLAINS.has(entry.kind) || !isDatedBack(entry, k)) return undefined;
  }
  const milder = milderWith(entry, k);
  if (milder.length === 0) return 'nobody';
  return milder.some((m) => isDanger(m.before.judgement)) ? 'trained' : 'second';
}
