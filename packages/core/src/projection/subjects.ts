import { type Kind, type LoggedEntry, type Subject, type SubjectType, subjectType } from '../logbook/entry';
import { foldInstrument, foldModel, foldNotebook, foldPack, foldPolicy } from '../logbook/fold';
import { foldBox, foldCarrier, foldConsignment, foldNotice } from '../logbook/fold-consignment';
import { foldIncident } from '../logbook/fold-incident';
import { foldJob } from '../logbook/fold-job';
import { foldPlace, foldRound } from '../logbook/fold-place';
import { PLACE_HAZARDS } from '../logbook/reach';

/** What each type of subject folds to. The one list that the device, the server and a rebuild go by. */
export const FOLDS = {
  pack: foldPack,
  notebook: foldNotebook,
  job: foldJob,
  place: foldPlace,
  instrument: foldInstrument,
  model: (_id: string, entries: readonly LoggedEntry[]) => foldModel(entries),
  round: foldRound,
  incident: foldIncident,
  consignment: foldConsignment,
  box: foldBox,
  carrier: foldCarrier,
  notice: foldNotice,
  policy: (_id: string, entries: readonly LoggedEntry[]) => foldPolicy(entries),
} as const satisfies Record<SubjectType, (id: string, entries: readonly LoggedEntry[]) => unknown>;

export type FactsOf<T extends SubjectType> = NonNullable<ReturnType<(typeof FOLDS)[T]>>;

/** What changed, by type and id; null where nothing is left of a subject. */
export type Diff = { readonly [T in SubjectType]: ReadonlyMap<string, FactsOf<T> | null> };

/** A subject whose log names packs that may be concerned by what was said of it; by entries of the given kinds, of any where null. */
export interface Link {
  readonly subject: Subject;
  readonly kinds: readonly Kind[] | null;
}

/**
 * How new entries reach packs that they do not name: a machine's hazards reach every pack ever named with it, what was seen at a place
 * every pack ever moved there. More than it holds now, never fewer: which of them it really reaches the fold of each pack decides.
 */
export function linksOf(fresh: readonly LoggedEntry[]): Link[] {
  const machines = fresh.flatMap((e) => e.subjects).filter((s) => subjectType(s) === 'notebook');
  const places = fresh
    .filter((e) => PLACE_HAZARDS.includes(e.kind))
    .flatMap((e) => e.subjects)
    .filter((s) => subjectType(s) === 'place');
  return [
    ...[...new Set(machines)].map((subject) => ({ subject, kinds: null })),
    ...[...new Set(places)].map((subject) => ({ subject, kinds: ['moved'] as const })),
  ];
}

/** Packs that a link's log names. */
export const linkedPacks = ({ kinds }: Link, entries: readonly LoggedEntry[]): Subject[] =>
  entries
    .filter((e) => kinds === null || kinds.includes(e.kind))
    .flatMap((e) => e.subjects)
    .filter((s) => subjectType(s) === 'pack');
