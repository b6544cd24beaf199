import {
  type Condition,
  condition,
  foldedCode,
  foldIncident,
  foldJob,
  foldNotebook,
  foldPack,
  foldPlace,
  localDay,
  type LoggedEntry,
  type PackFacts,
  PLACE_HAZARDS,
  type PolicyFacts,
  type Subject,
  subjectId,
  subjectType,
  withReached,
} from '@gavrel/core';
import type { Knex } from 'knex';
import { ask } from '../store/db';
import { type EntriesOf, entriesOf, ofType, surroundings } from './read';
import { NO_ROWS, type Rows, writeRows } from './write';

/** What projecting needs to know besides the log. */
export interface Context {
  readonly workshop: string;
  readonly zone: string;
  readonly now: Date;
}

export type BySubject = ReadonlyMap<Subject, readonly LoggedEntry[]>;

/** A row of the packs table. The facts follow from the log alone; the condition also from the day and the policy. */
export function packRow(ctx: Context, facts: PackFacts, policy: PolicyFacts) {
  const judged = condition(facts, policy, ctx.now);
  const label = judged.label.all;
  const code = label.typeCode ?? '';
  return {
    workshop_id: ctx.workshop,
    id: facts.id,
    facts,
    tag: facts.tag,
    code,
    folded: [facts.tag, code, label.spareNumber ?? '', label.serial ?? ''].map(foldedCode).join(' '),
    condition: judged.condition satisfies Condition,
    ruled_on: localDay(ctx.zone, ctx.now),
    place: facts.place,
    notebook: facts.notebook,
  };
}

/** Rows of everything but packs that the subjects fold to. */
export function otherRows(workshop: string, entries: BySubject): Omit<Rows, 'packs'> {
  const of = (type: string, fold: (id: string, e: readonly LoggedEntry[]) => { readonly id: string } | null) =>
    ofType(entries.keys(), type).flatMap((id) => {
      const facts = fold(id, entries.get(`${type}:${id}` as Subject)!);
      return facts ? [{ workshop_id: workshop, id, facts }] : [];
    });
  return {
    notebooks: of('notebook', foldNotebook),
    jobs: of('job', foldJob),
    places: of('place', foldPlace),
    incidents: of('incident', foldIncident),
  };
}

/** Entries of packs that hang on a touched notebook, or lay in a place of which something was said, when nothing else brought them. */
async function linkedPacks(
  trx: Knex.Transaction,
  ctx: Context,
  entries: BySubject,
  fresh: readonly LoggedEntry[],
): Promise<BySubject> {
  const notebooks = ofType(entries.keys(), 'notebook').map((n): Subject => `notebook:${n}`);
  const said = fresh.filter((e) => PLACE_HAZARDS.includes(e.kind)).flatMap((e) => e.subjects);
  const places = said.filter((s) => subjectType(s) === 'place');
  if (notebooks.length + places.length === 0) return new Map();
  // Every pack ever named together with the notebook, or ever moved to the place: more than it holds now, never fewer.
  const linked = await ask<{ subject: Subject }>(
    trx,
    'linked-packs',
    `select distinct p.subject from entry_subjects n
     join entry_subjects p on p.workshop_id = n.workshop_id and p.seq = n.seq and p.subject like 'pack:%'
     where n.workshop_id = ?::uuid and (n.subject = any(?::text[]) or (n.subject = any(?::text[]) and n.kind = 'moved'))`,
    [ctx.workshop, notebooks, places],
  );
  const missing = linked.map((r) => r.subject).filter((s) => !entries.has(s));
  return entriesOf(trx, ctx.workshop, missing);
}

/** Packs, each with its own entries, and what was said of the machines and places whose hazards may reach them; old and new. */
export interface Concerned {
  readonly packs: ReadonlyMap<string, readonly LoggedEntry[]>;
  readonly of: EntriesOf;
}

/**
 * Every pack that new entries concern.
 * @param entries every entry, old and new, of each touched subject.
 * @param fresh the new ones.
 */
export async function concerned(
  trx: Knex.Transaction,
  ctx: Context,
  entries: BySubject,
  fresh: readonly LoggedEntry[],
): Promise<Concerned> {
  const packs = new Map(
    [...entries, ...(await linkedPacks(trx, ctx, entries, fresh))].filter(([s]) => subjectType(s) === 'pack'),
  );
  const of = await surroundings(trx, ctx.workshop, packs, entries);
  return { packs: new Map([...packs].map(([s, list]) => [subjectId(s), list])), of };
}

/** The rows that new entries change. @param entries of each touched subject. */
export function project(ctx: Context, { packs, of }: Concerned, entries: BySubject, policy: PolicyFacts): Rows {
  const facts = [...packs].flatMap(([id, own]) => foldPack(id, withReached(own, of)) ?? []);
  return { packs: facts.map((f) => packRow(ctx, f, policy)), ...otherRows(ctx.workshop, entries) };
}

/** Recomputes conditions that were computed on another day, or all of them when the policy changed. */
export async function refresh(trx: Knex.Transaction, ctx: Context, policy: PolicyFacts, all = false): Promise<void> {
  const today = localDay(ctx.zone, ctx.now);
  const stale = trx('packs').where('workshop_id', ctx.workshop).select('facts');
  const rows: { facts: PackFacts }[] = await (all
    ? stale
    : stale.whereRaw('(ruled_on < ?::date or ruled_on > ?::date)', [today, today]));
  if (rows.length > 0) await writeRows(trx, { ...NO_ROWS, packs: rows.map((r) => packRow(ctx, r.facts, policy)) });
}
