import type {
  Bodies,
  CoverBody,
  FastenersBody,
  IntakeBody,
  IsolatedBody,
  Kind,
  LoggedEntry,
  PackRemovedBody,
  PhotoBody,
  ProofBody,
  RefittedBody,
  Source,
  Station,
} from './entry';
import { byTime } from './entry';
import { addRemoval, type DueItem, openDues } from './fold';
import { type Answers, answersOf, INTAKE_SIGNS } from './answers';
import { firstSubjectId, type Item, note, standing, type Statement, type Waiting, when } from './standing';

export interface Removal {
  readonly pack: string;
  readonly said: Statement<PackRemovedBody>;
}

export interface MatchDecision {
  readonly id: string;
  readonly by: string;
  readonly at: string;
  readonly old: string;
  readonly new: string;
  readonly verdict: 'fits' | 'does not fit';
  readonly reason: string;
}

export interface JobFacts {
  readonly id: string;
  readonly notebook: string | null;
  readonly complaint: string;
  readonly openedAt: string;
  readonly closedAt: string | null;
  readonly packs: readonly string[];
  /** Every intake note put together: of a sign the worst stands until two people said otherwise, of all else what was said last. */
  readonly intake: IntakeBody;
  readonly intakeHistory: Answers<IntakeBody>['history'];
  readonly waiting: readonly Waiting[];
  readonly prepared: Statement<Bodies['swollen-prepared']> | null;
  readonly fasteners: Statement<FastenersBody> | null;
  readonly cover: Statement<CoverBody> | null;
  /** The last word on each question of isolating. */
  readonly isolated: Statement<IsolatedBody> | null;
  readonly removals: readonly Removal[];
  readonly matches: readonly MatchDecision[];
  readonly refitted: Statement<RefittedBody> | null;
  readonly fittedPack: string | null;
  readonly proof: ProofBody;
  readonly skipped: readonly Station[];
  readonly handedOver: Statement<Bodies['handed-over']> | null;
  readonly owner: string | null;
  /** What of it is theirs, as said last. */
  readonly owns?: Bodies['owner-linked']['of'];
  readonly photos: readonly Statement<PhotoBody>[];
  /** Who has it in hand; null: it lies. */
  readonly holder: string | null;
  /** When what was written, for the time each station took. */
  readonly visits: readonly { readonly kind: Kind; readonly at: string }[];
  readonly dues: readonly DueItem[];
  readonly lastAt: string;
}

/** The last word on each question and on each source: what one device says of the dock does not unsay another's adapter. */
function isolation(said: readonly Statement<IsolatedBody>[]): Statement<IsolatedBody> | null {
  const sources = new Map<string, Source>();
  for (const { body } of said) for (const s of body.sources ?? []) sources.set(`${s.what} ${s.tag ?? ''}`, s);
  const newest = said[said.length - 1];
  if (!newest) return null;
  const body = Object.assign({}, ...said.map((n) => n.body), sources.size > 0 && { sources: [...sources.values()] });
  return { ...newest, body: body as IsolatedBody };
}

/** What stands on each question of the intake, also of a job that nobody has opened yet. */
export function intakeOf(entries: readonly LoggedEntry[]): IntakeBody {
  const { items, confirmed } = standing([...entries].sort(byTime));
  const noted = items.filter((i) => i.kind === 'intake-noted');
  return answersOf<IntakeBody>(noted, INTAKE_SIGNS, confirmed).said;
}

/** When a job that was opened by a slip was taken back; null where its opening stands. */
function takenBack(opened: LoggedEntry, items: readonly Item[], all: readonly LoggedEntry[]): string | null {
  if (items.some((i) => i.kind === 'job-opened')) return null;
  const back = all.filter((e) => e.kind === 'retracted' && e.replaces === opened.id).pop();
  return when(back ?? opened);
}

/** Folds one job; null before it was opened. One whose opening was taken back is closed. */
export function foldJob(id: string, entries: readonly LoggedEntry[]): JobFacts | null {
  const all = [...entries].sort(byTime);
  const opened = all.find((e) => e.kind === 'job-opened');
  if (!opened) return null;
  const { items, waiting, confirmed } = standing(all);
  const pick = <K extends Kind>(kind: K) => items.filter((i) => i.kind === kind).map((i) => note(i, i.body as Bodies[K]));
  const last = <T>(list: readonly T[]): T | null => list[list.length - 1] ?? null;
  const merged = <K extends Kind>(kind: K) => Object.assign({}, ...pick(kind).map((n) => n.body)) as Bodies[K];
  const removals = new Map<string, Removal>();
  for (const i of items) {
    const pack = i.kind === 'pack-removed' ? firstSubjectId(i.entry, 'pack') : null;
    if (pack === null) continue;
    const body = addRemoval(removals.get(pack)?.said.body, i.body as PackRemovedBody);
    removals.set(pack, { pack, said: { ...note(i, body), body } });
  }
  /** The last word on each question, signed by who spoke last. */
  const lastWords = <K extends Kind>(kind: K): Statement<Bodies[K]> | null => {
    const said = last(pick(kind));
    return said && { ...said, body: merged(kind) };
  };
  const refit = last(items.filter((i) => i.kind === 'refitted'));
  const skipped = new Set(pick('station-skipped').map((n) => n.body.station));
  const complaint = opened.kind === 'job-opened' ? (opened.body.complaint ?? '') : '';
  const linked = last(pick('owner-linked'))?.body;
  const answers = answersOf<IntakeBody>(
    items.filter((i) => i.kind === 'intake-noted'),
    INTAKE_SIGNS,
    confirmed,
  );
  const intake = answers.said;
  return {
    id,
    notebook: firstSubjectId(opened, 'notebook'),
    complaint: intake.complaint ?? complaint,
    openedAt: when(opened),
    closedAt: last(pick('job-closed'))?.at ?? takenBack(opened, items, all),
    packs: [...new Set(items.flatMap((i) => (i.kind === 'pack-added' ? (firstSubjectId(i.entry, 'pack') ?? []) : [])))].sort(),
    intake,
    intakeHistory: answers.history,
    waiting,
    prepared: last(pick('swollen-prepared')),
    fasteners: last(pick('fasteners-mapped')),
    cover: lastWords('cover-opened'),
    isolated: isolation(pick('isolated')),
    removals: [...removals.values()].sort((a, b) => (a.pack < b.pack ? -1 : 1)),
    matches: pick('match-decided').map((n) => ({
      id: n.id,
      by: n.by,
      at: n.at,
      old: n.body.old,
      new: n.body.new,
      verdict: n.body.verdict,
      reason: n.body.reason ?? '',
    })),
    refitted: refit && note(refit, refit.body as RefittedBody),
    fittedPack: refit && firstSubjectId(refit.entry, 'pack'),
    proof: merged('proof-taken'),
    skipped: [...skipped].sort(),
    handedOver: last(pick('handed-over')),
    owner: linked?.owner ?? null,
    ...(linked && { owns: linked.of }),
    photos: pick('photo-taken'),
    holder: holderOf(all),
    visits: all.map((e) => ({ kind: e.kind, at: when(e) })),
    dues: openDues(items),
    lastAt: when(all[all.length - 1]!),
  };
}

/** Who took it up last, until it was put down. Whoever opened the job holds it. */
function holderOf(all: readonly LoggedEntry[]): string | null {
  let holder: string | null = null;
  for (const e of all) {
    if (e.kind === 'job-opened' || e.kind === 'job-taken') holder = e.by;
    else if (e.kind === 'job-put-down' || e.kind === 'job-closed') holder = null;
  }
  return holder;
}
