export type { Statement, Waiting } from './standing';
export { type DueItem, openDues } from './fold-dues';
import { type DueItem, openDues } from './fold-dues';
import type {
  Bodies,
  FormBody,
  GaugeBody,
  MeasuredLogBody,
  InstrumentAddress,
  Kind,
  LabelBody,
  LoggedEntry,
  LookGroup,
  PackRemovedBody,
  PackUse,
  PhotoBody,
  Purpose,
  ReadingBody,
  SourceBody,
  Subject,
  SummaryBody,
  TriageBody,
} from './entry';
import type { ContainerLookBody, DistanceSchool, WatchSchool } from './entry-yard';
import { byTime, KINDS, subjectId, subjectType } from './entry';
import { type Discharge, dischargeOf } from './fold-discharge';
import { consignmentOf } from './fold-consignment';
import { inHand, leftAt, type LeftTo, neverHere, putAt } from './fold-left';
import { incidentsOf, type InIncident } from './fold-incident';
import { type Display, METRIC } from '../quantity/display';
import { value } from '../quantity/figure';
import { reachOf } from './reach';
import { type Answers, answersOf, hasSign, TRIAGE_SIGNS } from './answers';
import { type Item, note, type Statement, firstSubjectId, standing, type Waiting, when } from './standing';

/** Something was done with a pack that is no rest, and after which an older charge says nothing. */
export interface Worked {
  readonly at: string;
  readonly fitted: boolean;
  /** It changed the charge. */
  readonly charge: boolean;
  /** The charge it was left at by what was said, % of full; null where nobody said. */
  readonly to: number | null;
}

export interface PackFacts {
  readonly id: string;
  readonly tag: string;
  readonly use: PackUse | null;
  readonly slot: 'internal' | 'external' | 'dock' | null;
  readonly notebook: string | null;
  /** Every notebook, and every place, whose hazards may reach it. */
  readonly notebooks: readonly string[];
  readonly places: readonly string[];
  readonly job: string | null;
  readonly labels: readonly Statement<LabelBody>[];
  readonly readings: readonly Statement<ReadingBody>[];
  readonly gauges: readonly Statement<GaugeBody>[];
  /** Discharge logs on its record, each file once. */
  readonly logs?: readonly Statement<MeasuredLogBody>[];
  readonly looks: readonly Statement<{ readonly groups: readonly LookGroup[]; readonly where: 'pack' | 'outside' }>[];
  readonly findings: readonly Statement<Bodies['finding-recorded']>[];
  /** Clearings in force. */
  readonly clearings: readonly Statement<{ readonly clears: readonly string[] }>[];
  /** Declarations of 24 quiet hours that two people signed; whether the looks bear them out is judged later. */
  readonly quiets: readonly Statement<{ readonly ends: readonly string[] }>[];
  readonly evidence: readonly Statement<{ readonly typeTested: 'yes' | 'no' }>[];
  readonly purpose: Purpose | null;
  /** When it was first meant for recycling or found worn out, unwanted or expired: the day it became waste. */
  readonly wasteSince: string | null;
  readonly place: string | null;
  readonly placedAt: string | null;
  /** Why it lies where it may not; null where nobody gave a reason. */
  readonly despite: string | null;
  /** Looks at its container while it lay there. */
  readonly containers: readonly Statement<ContainerLookBody>[];
  readonly incidents: readonly Statement<InIncident>[];
  /** When it was taken out, fitted, charged or brought down, and whether it was in a machine from then on: that is no rest. */
  readonly worked: readonly Worked[];
  /** Full cycles in a host. */
  readonly cycles: readonly Statement<Bodies['cycled']>[];
  /** When it left with its owner; null while it is here, or here again. */
  readonly left: string | null;
  readonly leftTo: LeftTo | null;
  /** The consignment it is in, or left with. Absent where there is none. */
  readonly consignment?: string;
  /** When it was refused or came back: nobody knows what happened to it before. Absent where it never was away. */
  readonly cameBack?: string;
  readonly dues: readonly DueItem[];
  /** It is being brought down. Absent otherwise. */
  readonly discharge?: Discharge;
  /** Outline, connector, ears and cable: what was said last of each. */
  readonly form: Statement<FormBody> | null;
  readonly source: SourceBody;
  readonly removed: Statement<PackRemovedBody> | null;
  readonly photos: readonly Statement<PhotoBody>[];
  readonly owner: string | null;
  readonly waiting: readonly Waiting[];
  /** Who added it, where more than one device did: none knew of the other's, and they may be two packs. Absent otherwise. */
  readonly addedTwice?: readonly { readonly id: string; readonly by: string; readonly at: string }[];
  /** A hazard this program does not know: shown as damaged, "update this app". */
  readonly unknownHazard: boolean;
  /** This device holds a part of its record only: nothing mild follows from a part. */
  readonly partial?: true;
  readonly lastAt: string;
  readonly entries: number;
  readonly unsent: number;
}

const KNOWN: ReadonlySet<string> = new Set(KINDS);

/** Nothing real is thin as nothing, or weighs nothing: what older versions of this program kept as 0 is no reading. */
const isNothing = (r: ReadingBody): boolean =>
  ['thickness', 'new-thickness', 'mass'].includes(r.quantity) && value(r.figure) <= 0;

const clearBody = (i: Item) => i.body as Bodies['finding-cleared'];
const quietBody = (i: Item) => i.body as Bodies['quiet-declared'];

/** Clearings and declarations that wait, written before the server said of each entry whom it waits for. */
function olderWaiting(cleared: readonly Item[], quiets: readonly Item[], confirmed: (e: LoggedEntry) => boolean): Waiting[] {
  const pendingOf = (i: Item, about: readonly string[], reason: string): Waiting => ({
    id: i.entry.id,
    kind: i.kind,
    by: i.entry.by,
    at: i.entry.at,
    reason,
    about,
    trained: i.kind === 'finding-cleared',
  });
  /** Written before the server said of each entry whom it waits for. */
  const older = (i: Item) => i.entry.waits === undefined && !confirmed(i.entry);
  return [
    ...cleared.filter(older).map((i) => pendingOf(i, clearBody(i).clears, clearBody(i).reason)),
    ...quiets.filter(older).map((i) => pendingOf(i, quietBody(i).ends, quietBody(i).reason)),
  ];
}

/**
 * Folds the entries that concern one pack, each with its seq or null.
 * @returns null when none of them adds or mentions the pack.
 */
export function foldPack(id: string, entries: readonly LoggedEntry[]): PackFacts | null {
  const me: Subject = `pack:${id}`;
  const seen = new Map(entries.map((e) => [e.id, e]));
  const all = [...seen.values()].sort(byTime);
  if (!all.some((e) => e.subjects.includes(me))) return null;
  const { items, waiting, confirmed } = standing(all);
  const pick = <K extends Kind>(kind: K) => items.filter((i) => i.kind === kind).map((i) => note(i, i.body as Bodies[K]));
  const last = <T>(list: readonly T[]): T | undefined => list[list.length - 1];

  const reach = reachOf(all).map((r) => r.subject);
  const reached = (type: 'notebook' | 'place') => [...new Set(reach.filter((s) => subjectType(s) === type).map(subjectId))];
  const added = items.filter((i) => i.kind === 'pack-added');
  const originals = added.filter((i) => i.entry.kind === 'pack-added');
  const twice = new Set(originals.map((i) => i.entry.device)).size > 1 ? originals : [];
  // Taken back, it still has the name it was given.
  const addedBody = (added[0]?.body ?? all.find((e) => e.kind === 'pack-added')?.body) as Bodies['pack-added'] | undefined;
  // What the server holds back explains and ends nothing until a second person agrees.
  const pending = (i: Item) => (i.entry.waits === 'second' || i.entry.waits === 'trained') && !confirmed(i.entry);
  const inForce = items.filter((i) => !pending(i));
  // A move is shown at once: whoever looks for the pack finds it there.
  const whereabouts = items.filter((i) => i.kind === 'moved' || !pending(i));
  const move = putAt(whereabouts, me);
  const gone = leftAt(whereabouts, me) ?? neverHere(all, items, me);
  const left = gone?.at ?? null;
  const { id: consignment, back } = consignmentOf(items, me, (i) => inHand(i, me));
  const isOld = (at: string) => back !== null && at <= back;
  const cleared = items.filter((i) => i.kind === 'finding-cleared');
  const quiets = items.filter((i) => i.kind === 'quiet-declared');
  const discharge = dischargeOf(items, me);
  // The same file opened on two devices is one log.
  const logs = pick('log-measured').filter((n, i, list) => list.findIndex((x) => x.body.sha256 === n.body.sha256) === i);
  const stillWaiting = [...waiting, ...olderWaiting(cleared, quiets, confirmed)];
  return {
    id,
    tag: addedBody?.tag ?? '',
    use: useOf(items, me),
    slot: addedBody?.slot ?? null,
    notebook: linked(items, me, 'notebook'),
    notebooks: reached('notebook'),
    places: reached('place'),
    job: linked(items, me, 'job'),
    labels: pick('label-read'),
    readings: pick('reading-taken').filter((r) => !isNothing(r.body)),
    gauges: pick('gauge-read'),
    ...(logs.length > 0 && { logs }),
    looks: pick('looked')
      .filter((n) => !isOld(n.at))
      .map((n) => ({ ...n, body: { groups: n.body.groups, where: n.body.where ?? 'pack' } })),
    findings: pick('finding-recorded'),
    clearings: cleared.filter((i) => confirmed(i.entry)).map((i) => note(i, { clears: clearBody(i).clears })),
    quiets: quiets.filter((i) => confirmed(i.entry)).map((i) => note(i, { ends: quietBody(i).ends })),
    evidence: pick('evidence-stated'),
    wasteSince: wasteSince(pick('intended'), pick('finding-recorded')),
    purpose: last(pick('intended'))?.body.purpose ?? null,
    place: move && firstSubjectId(move.entry, 'place'),
    placedAt: move && when(move.entry),
    despite: (move?.body as Bodies['moved'] | undefined)?.despite ?? null,
    // A look whose writer did not know of this pack warns of it, and is no evidence for it.
    containers: items
      .filter((i) => i.kind === 'container-looked')
      .map((i) =>
        note({ ...i, doubted: i.doubted || !i.entry.subjects.includes(me) || isOld(when(i.entry)) }, i.body as ContainerLookBody),
      ),
    incidents: incidentsOf(id, items, confirmed),
    worked: workedOn(inForce, me),
    cycles: pick('cycled'),
    left,
    leftTo: gone?.to ?? null,
    ...(consignment !== null && { consignment }),
    ...(back !== null && { cameBack: back }),
    dues: openDues(items),
    ...(discharge && { discharge }),
    form: lastWords(pick('form-noted')),
    source: Object.assign({}, ...pick('source-stated').map((n) => n.body)) as SourceBody,
    removed: pick('pack-removed').reduce<Statement<PackRemovedBody> | null>(
      (a, n) => ({ ...n, body: addRemoval(a?.body, n.body) }),
      null,
    ),
    photos: pick('photo-taken'),
    owner: last(pick('owner-linked'))?.body.owner ?? null,
    waiting: stillWaiting,
    ...(twice.length > 1 && { addedTwice: twice.map(({ entry: e }) => ({ id: e.id, by: e.by, at: when(e) })) }),
    unknownHazard: all.some((e) => !KNOWN.has(e.kind) && e.hazard),
    lastAt: when(last(all)!),
    entries: all.length,
    unsent: all.filter((e) => e.seq === null).length,
  };
}

/** What the pack is for now: as it was added, until it is taken out of a machine or fitted into one. */
function useOf(items: readonly Item[], me: Subject): PackUse | null {
  let use: PackUse | null = null;
  for (const i of items) {
    if (i.kind === 'pack-added') use = (i.body as Bodies['pack-added']).use;
    else if (i.kind === 'pack-removed') use = 'removed';
    else if (i.kind === 'refitted' && i.entry.subjects.includes(me)) use = 'fitted';
  }
  return use;
}

const WASTE_CODES: readonly string[] = ['worn-out', 'unwanted', 'expired'];

/** The first day counts: meaning it for use again later does not turn a clock back that may have to be shown. */
function wasteSince(
  meant: readonly Statement<Bodies['intended']>[],
  found: readonly Statement<Bodies['finding-recorded']>[],
): string | null {
  const days = [
    ...meant.filter((m) => m.body.purpose !== 'use').map((m) => m.at),
    ...found.filter((f) => WASTE_CODES.includes(f.body.code)).map((f) => f.at),
  ];
  return days.sort()[0] ?? null;
}

const WORK: ReadonlySet<Kind> = new Set([
  'pack-added',
  'pack-removed',
  'refitted',
  'brought-down',
  'topped-up',
  'cycled',
  'proof-taken',
]);
/** In use, charged or discharged: an older reading of the charge says nothing afterwards. */
const CHANGES_CHARGE: ReadonlySet<Kind> = new Set(['refitted', 'brought-down', 'topped-up', 'cycled', 'proof-taken']);

function workedOn(items: readonly Item[], me: Subject): PackFacts['worked'] {
  let fitted = false;
  return items
    .filter((i) => WORK.has(i.kind) && i.entry.subjects.includes(me))
    .map((i): Worked => {
      if (i.kind === 'pack-added') fitted = (i.body as Bodies['pack-added']).use === 'fitted';
      else if (i.kind === 'refitted' || i.kind === 'pack-removed') fitted = i.kind === 'refitted';
      // Bringing down is written when it begins: where it ended is measured.
      const to = i.kind === 'topped-up' ? (i.body as Bodies['topped-up']).to : null;
      return { at: when(i.entry), fitted, charge: CHANGES_CHARGE.has(i.kind), to };
    });
}

/** The job or notebook a pack was linked to last: when it was added, or when it was fitted. */
const linked = (items: readonly Item[], me: Subject, type: 'job' | 'notebook'): string | null =>
  items
    .filter((i) => i.kind === 'pack-added' || (i.kind === 'refitted' && i.entry.subjects.includes(me)))
    .map((i) => firstSubjectId(i.entry, type))
    .filter((x) => x !== null)
    .pop() ?? null;

/** The last word on each question, signed by who spoke last. */
function lastWords<T extends object>(said: readonly Statement<T>[]): Statement<T> | null {
  const newest = said[said.length - 1];
  return newest ? { ...newest, body: Object.assign({}, ...said.map((n) => n.body)) as T } : null;
}

/** A later statement on how a pack came out adds to the earlier ones, side by side of the bay. */
export const addRemoval = (before: PackRemovedBody | undefined, said: PackRemovedBody): PackRemovedBody => ({
  ...before,
  ...said,
  ...((before?.bay ?? said.bay) && { bay: { ...before?.bay, ...said.bay } }),
});

/** Outline, connector, ears and cable as far as they were said. */
export const formOf = (f: PackFacts): FormBody => f.form?.body ?? {};

export interface NotebookFacts {
  readonly id: string;
  readonly tag: string;
  readonly plate: 'read' | 'unreadable';
  readonly maker: string;
  readonly model: string;
  readonly serial: string;
  readonly job: string | null;
  /** What was looked at from outside in ten seconds in this visit, field by field: the worst, until two people said otherwise. */
  readonly triage: TriageBody;
  readonly triageHistory: Answers<TriageBody>['history'];
  readonly triagedAt: string | null;
  readonly findings: readonly Statement<Bodies['finding-recorded']>[];
  readonly photos: readonly Statement<PhotoBody>[];
  readonly waiting: readonly Waiting[];
  readonly lastAt: string;
}

/**
 * Looks from outside of this visit: after its job closed, or when another one opened, a machine is looked at anew. A sign that was seen
 * before a job that is still open, or by whoever took it in before they opened one, stays.
 */
function triagesOf(items: readonly Item[]): Item[] {
  const closed = items.filter((i) => i.kind === 'job-closed').pop();
  const opened = items.filter((i) => i.kind === 'job-opened').pop();
  return items
    .filter((i) => i.kind === 'triaged' && (!closed || byTime(i.entry, closed.entry) > 0))
    .flatMap((i) => {
      if (!opened || when(i.entry) >= when(opened.entry)) return [i];
      const signs = Object.entries(i.body as TriageBody).filter(([q, a]) => hasSign(TRIAGE_SIGNS, { [q]: a }));
      return signs.length > 0 ? [{ ...i, body: Object.fromEntries(signs) }] : [];
    });
}

/** What stands on each question of the look from outside, also of a machine that nobody has identified yet. */
export function triageOf(entries: readonly LoggedEntry[]): TriageBody {
  const { items, confirmed } = standing([...entries].sort(byTime));
  return answersOf<TriageBody>(triagesOf(items), TRIAGE_SIGNS, confirmed).said;
}

/** Folds one notebook; null before it was identified. What was looked at from outside belongs to a visit: after its job closed it is asked anew. */
export function foldNotebook(id: string, entries: readonly LoggedEntry[]): NotebookFacts | null {
  const all = [...entries].sort(byTime);
  const { items, waiting, confirmed } = standing(all);
  const bodies = items.filter((i) => i.kind === 'notebook-identified');
  const triages = triagesOf(items);
  // What one reading of the plate leaves unsaid, an earlier one said.
  const body = Object.assign({}, ...bodies.map((i) => i.body)) as Bodies['notebook-identified'];
  if (bodies.length === 0) return null;
  const job = items.filter((i) => i.kind === 'job-opened').map((i) => firstSubjectId(i.entry, 'job'));
  const triage = answersOf<TriageBody>(triages, TRIAGE_SIGNS, confirmed);
  return {
    id,
    tag: body.tag,
    plate: body.plate,
    maker: body.maker ?? '',
    model: body.model ?? '',
    serial: body.serial ?? '',
    job: job[job.length - 1] ?? null,
    triage: triage.said,
    triageHistory: triage.history,
    triagedAt: triages.length > 0 ? when(triages[triages.length - 1]!.entry) : null,
    findings: items.filter((i) => i.kind === 'finding-recorded').map((i) => note(i, i.body as Bodies['finding-recorded'])),
    photos: items.filter((i) => i.kind === 'photo-taken').map((i) => note(i, i.body as PhotoBody)),
    waiting,
    lastAt: when(all[all.length - 1]!),
  };
}

/** A type code as it is compared for evidence: case and spaces do not matter, look-alikes do. */
export const typeKey = (code: string): string => code.toUpperCase().replace(/\s+/g, '');

export interface PolicyFacts extends Display {
  readonly swelling: 'any' | 'allowance';
  readonly innerCellLimit: boolean;
  readonly siteCard: Bodies['site-card-set'] | null;
  /** Rules compared with the printed edition, by id: the last comparison of each. */
  readonly checked: Readonly<Record<string, Bodies['rule-checked']>>;
  /** Test summaries on file, by type code as it is compared: what was said last of each. */
  readonly summaries: Readonly<Record<string, SummaryBody>>;
  /** Code of the list of waste that the workshop uses; null: ours. */
  readonly wasteCode: string | null;
  /** Under which the workshop is registered as a producer or handler of waste; null: not said. */
  readonly wasteProducer: string | null;
  /** Nobody is trained to assess who did not pass every grade of practice. */
  readonly assessAfterPractice: boolean;
  readonly distances: DistanceSchool;
  readonly watch: WatchSchool;
  /** Days a drum may stay; null: the law's year. */
  readonly drumDays: number | null;
  /** Days a look stays good for calling a pack sound, and for dispatch. Our own policy. */
  readonly lookDays: number;
  readonly dispatchDays: number;
  /** Days in quarantine after which the lead is told. */
  readonly stayDays: number;
}

export const DEFAULT_POLICY: PolicyFacts = {
  ...METRIC,
  swelling: 'any',
  innerCellLimit: false,
  siteCard: null,
  checked: {},
  summaries: {},
  wasteCode: null,
  wasteProducer: null,
  assessAfterPractice: false,
  distances: 'practice',
  watch: 'usual',
  drumDays: null,
  lookDays: 30,
  dispatchDays: 7,
  stayDays: 28,
};

/** Would these switches make any pack's condition or route milder, or ask less of who confirms that? Such a switch waits for a second lead. */
export const isMilderPolicy = (set: Bodies['policy-set'], now: PolicyFacts): boolean =>
  set.swelling === 'allowance' ||
  (set.innerCellLimit === false && now.innerCellLimit) ||
  (set.assessAfterPractice === false && now.assessAfterPractice) ||
  (set.watch === 'usual' && now.watch === 'close') ||
  (set.drumDays ?? 0) > (now.drumDays ?? 365) ||
  (set.lookDays ?? 0) > now.lookDays ||
  (set.dispatchDays ?? 0) > now.dispatchDays;

/**
 * Folds the workshop's policy. A switch to the milder school is in force only once a second person confirmed it; of several in
 * force the last one counts.
 */
export const foldPolicy = (entries: readonly LoggedEntry[]): PolicyFacts => walkPolicy(entries).policy;

/** Milder switches that no second lead has confirmed yet. */
export const waitingPolicy = (entries: readonly LoggedEntry[]): readonly LoggedEntry[] => walkPolicy(entries).waiting;

function walkPolicy(entries: readonly LoggedEntry[]): { policy: PolicyFacts; waiting: LoggedEntry[] } {
  const { items, confirmed } = standing([...entries].sort(byTime));
  const waiting: LoggedEntry[] = [];
  // There may be thousands: they are gathered, not copied for each.
  const checked: Record<string, Bodies['rule-checked']> = {};
  const summaries: Record<string, SummaryBody> = {};
  let policy: PolicyFacts = { ...DEFAULT_POLICY, checked, summaries };
  for (const i of items) {
    if (i.kind === 'rule-checked') {
      const body = i.body as Bodies['rule-checked'];
      checked[body.rule] = body;
    }
    if (i.kind === 'summary-filed') {
      const body = i.body as SummaryBody;
      summaries[typeKey(body.typeCode)] = body;
    }
    if (i.kind === 'site-card-set') policy = { ...policy, siteCard: i.body as Bodies['site-card-set'] };
    if (i.kind !== 'policy-set') continue;
    const body = i.body as Bodies['policy-set'];
    if (isMilderPolicy(body, policy) && !confirmed(i.entry)) waiting.push(i.entry);
    else policy = { ...policy, ...body };
  }
  // Written and taken back again is not written.
  policy = { ...policy, wasteCode: policy.wasteCode || null, wasteProducer: policy.wasteProducer || null };
  return { policy, waiting };
}

export type InstrumentFacts = Bodies['instrument-added'] & {
  readonly id: string;
  /** Where the server reaches it, as the lead said; absent where it does not talk. */
  readonly address?: InstrumentAddress;
};

/** Folds one instrument; null before it was added. What was said last stands. */
export function foldInstrument(id: string, entries: readonly LoggedEntry[]): InstrumentFacts | null {
  const { items } = standing([...entries].sort(byTime));
  const last = <K extends 'instrument-added' | 'instrument-connected'>(kind: K) =>
    items.filter((i) => i.kind === kind).pop()?.body as Bodies[K] | undefined;
  const body = last('instrument-added');
  const address = last('instrument-connected')?.address;
  return body ? { id, ...body, ...(address && { address }) } : null;
}

export interface TakenSheet {
  readonly id: string;
  readonly from: string;
  readonly at: string;
  readonly sheet: Record<string, unknown>;
}

/** Sheets of one model that came from other workshops, oldest first. */
export function foldModel(entries: readonly LoggedEntry[]): TakenSheet[] {
  return standing([...entries].sort(byTime)).items.flatMap((i) => {
    const body = i.body as Bodies['sheet-taken-in'];
    return i.kind === 'sheet-taken-in' ? [{ id: i.entry.id, from: body.from, at: when(i.entry), sheet: body.sheet }] : [];
  });
}
