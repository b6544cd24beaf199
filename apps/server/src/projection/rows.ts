import { createHash } from 'node:crypto';
import {
  conditionThen,
  type DailyInputs,
  dailyInputs,
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
import { PROGRAM } from './program';

type Row = Readonly<Record<string, unknown>> & { readonly id: string };

/** Rows of the tables that are looked things up in. */
export interface Rows {
  readonly packs: readonly Row[];
  readonly pack_daily: readonly Row[];
  readonly notebooks: readonly Row[];
  readonly jobs: readonly Row[];
  readonly places: readonly Row[];
  readonly incidents: readonly Row[];
  readonly consignments: readonly Row[];
}

export const NO_ROWS: Rows = {
  packs: [],
  pack_daily: [],
  notebooks: [],
  jobs: [],
  places: [],
  incidents: [],
  consignments: [],
};

/** Which table holds what a type of subject folds to. What is not here is read from the log by whoever needs it. */
export const TABLE_OF = {
  pack: 'packs',
  notebook: 'notebooks',
  job: 'jobs',
  place: 'places',
  incident: 'incidents',
  consignment: 'consignments',
} as const satisfies Partial<Record<SubjectType, keyof Rows>>;
export type StoredType = keyof typeof TABLE_OF;
export const STORED_TYPES = Object.keys(TABLE_OF) as StoredType[];

const COLUMNS: Record<keyof Rows, readonly string[]> = {
  packs: ['facts', 'tag', 'code', 'keys', 'folded', 'use', 'place', 'notebook', 'inputs'],
  pack_daily: ['seq', 'condition', 'judged_at', 'good_until', 'basis', 'owed'],
  notebooks: ['facts'],
  jobs: ['facts'],
  places: ['facts'],
  incidents: ['facts'],
  consignments: ['facts'],
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

/** What a row was judged by: the policy, and the program itself. A row with another one is stale. */
export const basisOf = (policy: PolicyFacts): string =>
  createHash('sha256').update(PROGRAM).update(judgedBy(policy)).digest('base64url').slice(0, 22);

/**
 * Was `pack_daily d` judged by something else, did a look grow too old since, or was the clock ahead when it was judged? For the parameters of
 * `staleBy`; null where nobody judged it yet.
 */
export const STALE = '(d.basis <> ? or d.good_until < ?::timestamptz or d.judged_at > ?::timestamptz)';
export const staleBy = (basis: string, now: Date): readonly string[] => [basis, now.toISOString(), now.toISOString()];

/** What the condition and the dues of any day follow from, as it is stored: with what it was made by, and of which facts. */
export interface StoredInputs extends DailyInputs {
  /** The program, and what facts are assessed by. */
  readonly by: string;
  /** The last number of the log that the facts held. */
  readonly seq: number;
}

/** What inputs are made by. Those of another program or of other facts are never used: a server of an older version writes none. */
export const inputsBy = (policy: PolicyFacts): string =>
  createHash('sha256').update(PROGRAM).update(policy.swelling).digest('base64url').slice(0, 22);

/** Whether the inputs of `packs p` may be used, beside its `pack_daily d`, for the parameter `inputsBy(policy)`. */
export const USABLE = "coalesce(p.inputs->>'by' = ? and (p.inputs->>'seq')::bigint = d.seq, false)";

/** @param seq the last number of the log that the facts hold. */
export const storedInputs = (facts: PackFacts, policy: PolicyFacts, seq: number, by = inputsBy(policy)): StoredInputs => ({
  by,
  seq,
  ...dailyInputs(facts, policy),
});

/** What the day and the policy make of a pack. */
export function dailyRow({ workshop, zone, now, policy }: JudgeContext, inputs: StoredInputs, basis = basisOf(policy)) {
  const then = conditionThen(inputs.assessed, policy, now);
  const owed = packOwed(inputs, then, policy, (iso) => localDay(zone, new Date(iso)));
  return {
    workshop_id: workshop,
    id: inputs.owing.id,
    seq: inputs.seq,
    condition: then.condition,
    judged_at: now.toISOString(),
    good_until: then.until,
    basis,
    owed: owesNothing(owed) ? null : owed,
  };
}

/** The row of a pack: what follows from the log alone. */
function packRow(workshop: string, facts: PackFacts, inputs: StoredInputs): Row {
  const columns = packColumns(facts);
  const { id, use, place, notebook } = facts;
  return { workshop_id: workshop, id, facts, ...columns, folded: searchText(columns), use, place, notebook, inputs };
}

/** The rows that a difference changes. @param seq the last number of the log that it holds. */
export function rowsOf(ctx: JudgeContext, diff: Diff, seq: number): Rows {
  const packs = [...diff.pack.values()].filter((f) => f !== null);
  const [basis, by] = [basisOf(ctx.policy), inputsBy(ctx.policy)];
  const inputs = new Map(packs.map((f) => [f, storedInputs(f, ctx.policy, seq, by)]));
  const plain = (type: Exclude<StoredType, 'pack'>) =>
    [...diff[type].values()].flatMap((facts) => (facts ? [{ workshop_id: ctx.workshop, id: facts.id, facts }] : []));
  return {
    packs: [...inputs].map(([f, i]) => packRow(ctx.workshop, f, i)),
    pack_daily: [...inputs.values()].map((i) => dailyRow(ctx, i, basis)),
    notebooks: plain('notebook'),
    jobs: plain('job'),
    places: plain('place'),
    incidents: plain('incident'),
    consignments: plain('consignment'),
  };
}

/** Writes rows alone: for rebuilding. */
export async function writeRows(trx: Knex.Transaction, rows: Rows): Promise<void> {
  await query(trx, 'write-rows', `with ${UPSERTS} select 1`, upserted(rows));
}
