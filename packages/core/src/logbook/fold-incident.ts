import { byTime, type LoggedEntry, subjectId, subjectType } from './entry';
import type { IncidentSort, IncidentStep, YardBodies } from './entry-yard';
import { type Item, note, type Statement, firstSubjectId, type Standing, standing, when } from './standing';

/** Something burnt, smoked or leaked: what, where, which packs, and what was done, in order. */
export interface IncidentFacts {
  readonly id: string;
  /** Everything that was said to happen, in order. */
  readonly what: readonly IncidentSort[];
  /** When it was first written down, and when it was last seen to burn, smoke or leak. */
  readonly at: string;
  readonly lastAt: string;
  readonly by: string;
  readonly places: readonly string[];
  /** Packs it came from, where that was said. */
  readonly sources: readonly string[];
  readonly packs: readonly string[];
  readonly notes: readonly string[];
  readonly steps: readonly Statement<{ readonly step: IncidentStep; readonly note?: string }>[];
  readonly looks: readonly Statement<YardBodies['incident-looked']>[];
  /** Declared over by a lead and a second person: who said so, and who signed. */
  readonly closed: {
    readonly at: string;
    readonly reason: string;
    readonly falseAlarm: boolean;
    readonly by: readonly string[];
    readonly signedBy: readonly string[];
  } | null;
  /** Declared over, without a second person yet: each part with the packs it names. */
  readonly closing: readonly {
    readonly id: string;
    readonly by: string;
    readonly reason: string;
    readonly falseAlarm: boolean;
    readonly packs: readonly string[];
  }[];
}

const packsOf = (i: Item) => i.entry.subjects.filter((s) => subjectType(s) === 'pack').map(subjectId);

const closeBody = (i: Item) => i.body as YardBodies['incident-closed'];

/** Was nothing on fire after all? Only where every declaration in force says so. */
const falseAlarm = (closes: readonly Item[]): boolean =>
  closes.length > 0 && closes.every((c) => closeBody(c).falseAlarm === true);

/** The packs that must be named by whoever declares it over, each in a part in force. A later word that it burns opens it again. */
function closedAt(
  opened: readonly Item[],
  closes: readonly Item[],
  { confirmed, signers }: Standing,
  packs: readonly string[],
): IncidentFacts['closed'] {
  const last = opened[opened.length - 1]!.entry;
  const inForce = closes.filter((c) => byTime(c.entry, last) > 0 && confirmed(c.entry));
  const named = new Set(inForce.flatMap((c) => c.entry.subjects));
  const newest = inForce[inForce.length - 1];
  if (!newest || !packs.every((p) => named.has(`pack:${p}`))) return null;
  return {
    at: when(newest.entry),
    reason: closeBody(newest).reason,
    falseAlarm: falseAlarm(inForce),
    by: [...new Set(inForce.map((c) => c.entry.by))],
    signedBy: [...new Set(inForce.flatMap((c) => signers(c.entry)))],
  };
}

/** Folds one incident; null before it was opened. */
export function foldIncident(id: string, entries: readonly LoggedEntry[]): IncidentFacts | null {
  const all = [...entries].sort(byTime);
  const stands = standing(all);
  const { items, confirmed } = stands;
  const of = (kind: keyof YardBodies) => items.filter((i) => i.kind === kind);
  const opened = of('incident-opened');
  const first = opened[0];
  if (!first) return null;
  const named = (type: 'pack' | 'place') => [
    ...new Set(opened.flatMap((o) => o.entry.subjects.filter((s) => subjectType(s) === type).map(subjectId))),
  ];
  const bodies = opened.map((o) => o.body as YardBodies['incident-opened']);
  const packs = named('pack');
  const closes = of('incident-closed');
  return {
    id,
    what: [...new Set(bodies.map((b) => b.what))],
    at: when(first.entry),
    lastAt: when(opened[opened.length - 1]!.entry),
    by: first.entry.by,
    places: named('place'),
    sources: [...new Set(bodies.flatMap((b) => b.source ?? []))],
    packs,
    notes: bodies.flatMap((b) => b.note ?? []),
    steps: of('incident-noted').map((i) => note(i, i.body as YardBodies['incident-noted'])),
    looks: of('incident-looked').map((i) => note(i, i.body as YardBodies['incident-looked'])),
    closed: closedAt(opened, closes, stands, packs),
    closing: closes
      .filter((c) => !confirmed(c.entry))
      .map((c) => ({
        id: c.entry.id,
        by: c.entry.by,
        reason: closeBody(c).reason,
        falseAlarm: closeBody(c).falseAlarm === true,
        packs: packsOf(c),
      })),
  };
}

/** What an incident says of one pack. */
export interface InIncident {
  readonly incident: string;
  readonly what: IncidentSort;
  /** True where this pack was said to be the source, null where nobody said which one it was. */
  readonly source: boolean | null;
  /** Nothing may be done with the pack until the incident is over. */
  readonly frozen: boolean;
  /** Over, and two people say that nothing was on fire. */
  readonly falseAlarm: boolean;
}

/**
 * The incidents a pack was in. It is frozen until a declaration that it is over names it, two people signed it, and it is not
 * older than the last word that something burns.
 */
export function incidentsOf(
  pack: string,
  items: readonly Item[],
  confirmed: (e: LoggedEntry) => boolean,
): Statement<InIncident>[] {
  const closes = items.filter((i) => i.kind === 'incident-closed' && confirmed(i.entry));
  return items
    .filter((i) => i.kind === 'incident-opened')
    .map((i) => {
      const body = i.body as YardBodies['incident-opened'];
      const incident = firstSubjectId(i.entry, 'incident') ?? '';
      const over = closes.filter(
        (c) =>
          c.entry.subjects.includes(`incident:${incident}`) &&
          c.entry.subjects.includes(`pack:${pack}`) &&
          byTime(c.entry, i.entry) > 0,
      );
      const source = body.source === undefined ? null : body.source === pack;
      return note(i, { incident, what: body.what, source, frozen: over.length === 0, falseAlarm: falseAlarm(over) });
    });
}
