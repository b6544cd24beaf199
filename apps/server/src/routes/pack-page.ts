import type { PackPage, PackRow } from '@gavrel/contract';
import { type Condition, conditionThen, findPack, foldedCode, type PackFacts } from '@gavrel/core';
import { basisOf, inputsBy, STALE, staleBy, storedInputs, type StoredInputs, USABLE } from '../projection/rows';
import { inWorkshop } from '../store/db';
import type { Services } from './env';

/** What a list may be asked for. */
export interface ListQuery {
  readonly search: string;
  readonly condition?: Condition;
  readonly place?: string;
  readonly cursor?: string;
  readonly limit: number;
}

interface ListRow {
  readonly id: string;
  readonly tag: string;
  readonly code: string;
  readonly keys: readonly string[];
  readonly use: PackFacts['use'];
  readonly place: string | null;
  /** Null where nobody judged it yet. */
  readonly condition: Condition | null;
  /** Where it is stale: what its condition follows from, or, where that cannot be used, its facts. */
  readonly inputs: StoredInputs | null;
  readonly facts: PackFacts | null;
}

/** A text that may hold anything, as a pattern that finds it anywhere. */
export const LIKE = (s: string) => `%${s.replace(/[\\%_]/g, (c) => `\\${c}`)}%`;
/** The ids of everything here. */
export const UUID = /^[0-9a-f]{8}(-[0-9a-f]{4}){3}-[0-9a-f]{12}$/;

/** One page of the packs that fit, by tag. What is stale on it is judged now: a page never waits for the rest of the stock. */
export async function packPage(s: Services, q: ListQuery): Promise<PackPage> {
  const { id: workshop } = s.workshop;
  const now = new Date();
  const { rows, stale, policy, by } = await inWorkshop(s.db, workshop, async (trx) => {
    const policy = await s.writer.policy.of(trx);
    const stale = await s.refresher.left(trx);
    const of = { 'p.workshop_id': workshop };
    const joined = () =>
      trx('packs as p').leftJoin('pack_daily as d', (on) => on.on('d.workshop_id', 'p.workshop_id').on('d.id', 'p.id'));
    const order = [{ column: 'p.tag' }, { column: 'p.id' }];
    const page = (q.condition ? joined().where('d.condition', q.condition) : trx('packs as p'))
      .where(of)
      .orderBy(order)
      .limit(q.limit + 1)
      .select('p.id');
    if (q.place) void page.where('p.place', q.place);
    if (q.search.trim() !== '') void page.where('p.folded', 'like', LIKE(foldedCode(q.search)));
    if (q.cursor) void page.whereRaw('(p.tag, p.id) > (?, ?::uuid)', cursorOf(q.cursor));
    const by = inputsBy(policy);
    const rows: ListRow[] = await joined()
      .joinRaw(`cross join lateral (select coalesce(${STALE}, true) as stale, ${USABLE} as usable) m`, [
        ...staleBy(basisOf(policy), now),
        by,
      ])
      .where(of)
      .whereIn('p.id', page)
      .orderBy(order)
      .select('p.id', 'p.tag', 'p.code', 'p.keys', 'p.use', 'p.place', 'd.condition')
      .select(trx.raw('case when m.stale and m.usable then p.inputs end as inputs'))
      .select(trx.raw('case when m.stale and not m.usable then p.facts end as facts'));
    return { rows, stale, policy, by };
  });
  const judged = new Map<string, Condition>();
  for (const r of rows) {
    const inputs = r.inputs ?? (r.facts && storedInputs(r.facts, policy, 0, by));
    if (inputs) judged.set(r.id, conditionThen(inputs.assessed, policy, now).condition);
    // One after another: what somebody reports goes in between.
    if (r.facts) await new Promise((next) => setImmediate(next));
  }
  const more = rows.length > q.limit;
  const items = rows.slice(0, q.limit).map(({ id, tag, code, keys, use, place, ...r }): PackRow => ({
    id,
    tag,
    use,
    typeCode: code,
    condition: judged.get(id) ?? r.condition!,
    place,
    forgave: findPack({ tag, code, keys }, q.search) ?? [],
  }));
  const last = items[items.length - 1];
  const next = more && last ? Buffer.from(`${last.tag}\n${last.id}`).toString('base64url') : null;
  return { items, next, stale };
}

function cursorOf(cursor: string): [string, string] {
  const [tag = '', id = ''] = Buffer.from(cursor, 'base64url').toString().replaceAll('\0', '').split('\n');
  // A cursor nobody gave out begins at the beginning of its tag.
  return [tag, UUID.test(id) ? id : '00000000-0000-0000-0000-000000000000'];
}
