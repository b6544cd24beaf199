import type { PackPage, PackRow } from '@gavrel/contract';
import { type Condition, condition, findPack, foldedCode, type PackFacts } from '@gavrel/core';
import { basisOf, type DailyMarks, isStale } from '../projection/rows';
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

interface ListRow extends DailyMarks {
  readonly id: string;
  readonly tag: string;
  readonly code: string;
  readonly keys: readonly string[];
  readonly use: PackFacts['use'];
  readonly place: string | null;
  /** Null where nobody judged it yet. */
  readonly condition: Condition | null;
}

/** A text that may hold anything, as a pattern that finds it anywhere. */
export const LIKE = (s: string) => `%${s.replace(/[\\%_]/g, (c) => `\\${c}`)}%`;
/** The ids of everything here. */
export const UUID = /^[0-9a-f]{8}(-[0-9a-f]{4}){3}-[0-9a-f]{12}$/;

/** One page of the packs that fit, by tag. What is stale on it is judged now: a page never waits for the rest of the stock. */
export async function packPage(s: Services, q: ListQuery): Promise<PackPage> {
  const { id: workshop } = s.workshop;
  const now = new Date();
  const { rows, stale, policy, facts } = await inWorkshop(s.db, workshop, async (trx) => {
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
    const rows: ListRow[] = await joined()
      .where(of)
      .whereIn('p.id', page)
      .orderBy(order)
      .select('p.id', 'p.tag', 'p.code', 'p.keys', 'p.use', 'p.place', 'd.condition', 'd.basis', 'd.judged_at', 'd.good_until');
    const basis = basisOf(policy);
    const old = rows.filter((r) => isStale(r, basis, now)).map((r) => r.id);
    const facts: { facts: PackFacts }[] =
      old.length > 0 ? await trx('packs').where('workshop_id', workshop).whereIn('id', old).select('facts') : [];
    return { rows, stale, policy, facts };
  });
  const judged = new Map<string, Condition>();
  for (const r of facts) {
    judged.set(r.facts.id, condition(r.facts, policy, now).condition);
    // One after another: what somebody reports goes in between.
    await new Promise((next) => setImmediate(next));
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
