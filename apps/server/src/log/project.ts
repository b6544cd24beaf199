import {
  canonical,
  condition,
  foldedCode,
  foldJob,
  foldNotebook,
  foldPack,
  foldPlace,
  foldPolicy,
  type LoggedEntry,
  type PackFacts,
  type PolicyFacts,
  type Subject,
  subjectType,
} from '@gavrel/core';
import type { Knex } from 'knex';
import { localDay } from '../store/workshop';
import { entriesOf, entriesOfPacks, ofType } from './read';

/** What projecting needs to know besides the log. */
export interface Context {
  readonly workshop: string;
  readonly zone: string;
  readonly now: Date;
}

/** A row of the packs table. The facts follow from the log alone; the condition also from the day and the policy. */
export function packRow(ctx: Context, facts: PackFacts, policy: PolicyFacts) {
  const day = localDay(ctx.zone, ctx.now);
  const judged = condition(facts, policy, ctx.now);
  const label = judged.label.all;
  const code = label.typeCode ?? '';
  return {
    workshop_id: ctx.workshop,
    id: facts.id,
    facts: canonical(facts),
    tag: facts.tag,
    code,
    folded: [facts.tag, code, label.spareNumber ?? '', label.serial ?? ''].map(foldedCode).join(' '),
    condition: judged.condition,
    ruled_on: day,
    place: facts.place,
    notebook: facts.notebook,
  };
}

export async function policyOf(trx: Knex.Transaction, workshop: string): Promise<PolicyFacts> {
  const entries = await entriesOf(trx, workshop, [`policy:${workshop}`]);
  return foldPolicy(entries.get(`policy:${workshop}`) ?? []);
}

const upsert = async (trx: Knex.Transaction, table: string, rows: readonly object[]): Promise<void> => {
  if (rows.length > 0) await trx(table).insert(rows).onConflict(['workshop_id', 'id']).merge();
};

const simple = (ctx: Context, rows: readonly ({ readonly id: string } | null)[]) =>
  rows.flatMap((f) => (f === null ? [] : [{ workshop_id: ctx.workshop, id: f.id, facts: canonical(f) }]));

/** Brings the tables up to date for everything the new entries touch, under the workshop's lock. */
export async function project(trx: Knex.Transaction, ctx: Context, fresh: readonly LoggedEntry[]): Promise<void> {
  const touched = new Set<Subject>(fresh.flatMap((e) => e.subjects));
  const packs = new Set(ofType(touched, 'pack'));
  const notebooks = ofType(touched, 'notebook');
  if (notebooks.length > 0) {
    const linked: { id: string }[] = await trx('packs')
      .where('workshop_id', ctx.workshop)
      .whereIn('notebook', notebooks)
      .select('id');
    for (const row of linked) packs.add(row.id);
  }
  const others = [...touched].filter((s) => subjectType(s) !== 'pack');
  const policy = await policyOf(trx, ctx.workshop);
  if (packs.size > 0) {
    const byPack = await entriesOfPacks(trx, ctx.workshop, [...packs]);
    const rows = [...byPack].flatMap(([id, entries]) => foldPack(id, entries) ?? []).map((f) => packRow(ctx, f, policy));
    await upsert(trx, 'packs', rows);
  }
  if (others.length === 0) return;
  const entries = await entriesOf(trx, ctx.workshop, others);
  const of = (type: string, fold: (id: string, e: readonly LoggedEntry[]) => { readonly id: string } | null) =>
    simple(
      ctx,
      ofType(others, type).map((id) => fold(id, entries.get(`${type}:${id}` as Subject) ?? [])),
    );
  await upsert(trx, 'notebooks', of('notebook', foldNotebook));
  await upsert(trx, 'jobs', of('job', foldJob));
  await upsert(trx, 'places', of('place', foldPlace));
  if (ofType(others, 'policy').length > 0) await refresh(trx, ctx, policy, true);
}

/** Recomputes conditions that were computed on another day, or all of them when the policy changed. */
export async function refresh(trx: Knex.Transaction, ctx: Context, policy: PolicyFacts, all = false): Promise<void> {
  const day = localDay(ctx.zone, ctx.now);
  const stale = trx('packs').where('workshop_id', ctx.workshop).select('facts');
  const rows: { facts: PackFacts }[] = await (all ? stale : stale.whereNot('ruled_on', day));
  await upsert(
    trx,
    'packs',
    rows.map((r) => packRow(ctx, r.facts, policy)),
  );
}
