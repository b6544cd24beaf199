import { createHash } from 'node:crypto';
import {
  condition,
  type Diff,
  judgedBy,
  localDay,
  owesNothing,
  packColumns,
  type PackFacts,
  packOwed,
  type PolicyFacts,
  searchText,
  type SubjectType,
} from '@gavrel/core';
import type { Knex } from 'knex';
import { query } from '../store/db';

type Row = Readonly<Record<string, unknown>> & { readonly id: string };

/** Rows of the tables that are looked things up in. */
export interface Rows {
  readonly packs: readonly Row[];
  readonly pack_daily: readonly Row[];
  readonly notebooks: readonly Row[];
  readonly jobs: readonly Row[];
  readonly places: readonly Row[];
  readonly incidents: readonly Row[];
}

export const NO_ROWS: Rows = { packs: [], pack_daily: [], notebooks: [], jobs: [], places: [], incidents: [] };

/** Which table holds what a type of subject folds to. What is not here is read from the log by whoever needs it. */
export const TABLE_OF = {
  pack: 'packs',
  notebook: 'notebooks',
  job: 'jobs',
  place: 'places',
  incident: 'incidents',
} as const satisfies Partial<Record<SubjectType, keyof Rows>>;
export type StoredType = keyof typeof TABLE_OF;
export const STORED_TYPES = Object.keys(TABLE_OF) as StoredType[];

const COLUMNS: Record<keyof Rows, readonly string[]> = {
  packs: ['facts', 'tag', 'code', 'keys', 'folded', 'use', 'place', 'notebook'],
  pack_daily: ['seq', 'condition', 'ruled_on', 'basis', 'owed'],
  notebooks: ['facts'],
  jobs: ['facts'],
  places: ['facts'],
  incidents: ['facts'],
};
const TABLES = Object.keys(COLUMNS) as (keyof Rows)[];

/** One `with` part a table: its rows over what is there. */
export const UPSERTS = TABLES.map((table) => {
  const list = ['workshop_id', 'id', ...COLUMNS[table]].join(', ');
  const set = COLUMNS[table].map((c) => `${c} = excluded.${c}`).join(', ');
  return `into_${table} as (insert into ${table} (${list}) select ${list} from jsonb_populate_recordset(null::${table}, ?::jsonb)
          on conflict (workshop_id, id) do update set ${set})`;
}).join(',\n');

/** The parameters of `UPSERTS`. */
export const upserted = (rows: Rows): string[] => TABLES.map((t) => JSON.stringify(rows[t]));

/** What the condition of a pack is judged by besides its facts. */
export interface JudgeContext {
  readonly workshop: string;
  readonly zone: string;
  readonly now: Date;
  readonly policy: PolicyFacts;
}

/** What a row was judged by; a row with another one is stale. */
export const basisOf = (policy: PolicyFacts): string =>
  createHash('sha256').update(judgedBy(policy)).digest('base64url').slice(0, 22);

/** What the day and the policy make of the facts. @param seq the last number of the log that the facts hold. */
export function dailyRow({ workshop, zone, now, policy }: JudgeContext, facts: PackFacts, seq: number, basis = basisOf(policy)) {
  const judgement = condition(facts, policy, now);
  const owed = packOwed(facts, judgement, policy, (iso) => localDay(zone, new Date(iso)));
  return {
    workshop_id: workshop,
    id: facts.id,
    seq,
    condition: judgement.condition,
    ruled_on: localDay(zone, now),
    basis,
    owed: owesNothing(owed) ? null : owed,
  };
}

/** The row of a pack: what follows from the log alone. */
function packRow(workshop: string, facts: PackFacts): Row {
  const columns = packColumns(facts);
  const { id, use, place, notebook } = facts;
  return { workshop_id: workshop, id, facts, ...columns, folded: searchText(columns), use, place, notebook };
}

/** The rows that a difference changes. @param seq the last number of the log that it holds. */
export function rowsOf(ctx: JudgeContext, diff: Diff, seq: number): Rows {
  const packs = [...diff.pack.values()].filter((f) => f !== null);
  const basis = basisOf(ctx.policy);
  const plain = (type: Exclude<StoredType, 'pack'>) =>
    [...diff[type].values()].flatMap((facts) => (facts ? [{ workshop_id: ctx.workshop, id: facts.id, facts }] : []));
  return {
    packs: packs.map((f) => packRow(ctx.workshop, f)),
    pack_daily: packs.map((f) => dailyRow(ctx, f, seq, basis)),
    notebooks: plain('notebook'),
    jobs: plain('job'),
    places: plain('place'),
    incidents: plain('incident'),
  };
}

/** Writes rows alone: for rebuilding. */
export async function writeRows(trx: Knex.Transaction, rows: Rows): Promise<void> {
  await query(trx, 'write-rows', `with ${UPSERTS} select 1`, upserted(rows));
}
