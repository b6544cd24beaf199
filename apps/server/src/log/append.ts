import type { EntryResult, Person, Problem } from '@gavrel/contract';
import { bodySchema, checkEntry, explain } from '@gavrel/contract/schemas';
import { canonical, type Entry, type Kind, type LoggedEntry, NEEDS_SECOND } from '@gavrel/core';
import type { Knex } from 'knex';
import { problem } from '../problem';
import { inWorkshop } from '../store/db';
import { type Context, project } from './project';
import { COLUMNS, type EntryRow, stored } from './read';

/** One request to append, from one person's session. */
export interface Batch {
  readonly person: Person;
  /** Milliseconds to add to the device's clock to get the server's. */
  readonly clockOffset: number;
  readonly entries: readonly unknown[];
}

type Checked = { readonly entry: Entry } | { readonly refused: EntryResult };

const refuse = (id: string, p: Problem): { refused: EntryResult } => ({ refused: { id, status: 'refused', problem: p } });

const idOf = (entry: unknown): string => {
  const id = (entry as { id?: unknown } | null)?.id;
  return typeof id === 'string' ? id : '';
};

/** Shape and signature: what can be said of an entry without looking at others. */
function check(raw: unknown, person: Person, workshop: string): Checked {
  const checked = checkEntry(raw);
  if (!checked.ok) {
    return refuse(
      idOf(raw),
      problem(422, 'entry', 'The entry is not right', 'Correct the fields named and send it again.', checked.errors),
    );
  }
  const { entry } = checked;
  const wrong = (field: string, detail: string) =>
    refuse(entry.id, problem(403, 'signature', 'The entry is not yours to send', detail, [{ field, detail }]));
  if (entry.workshop !== workshop) return wrong('workshop', 'send entries to their own workshop');
  if (entry.by !== person.id) return wrong('by', 'entries go out under their author’s session: sign in as that person');
  if (person.role === 'viewer') return wrong('by', 'a viewer reads only: ask the lead for a technician’s role');
  return { entry };
}

/** What depends on other entries: corrections, clearings, second signatures. Hazards always pass. */
function checkAgainst(entry: Entry, person: Person, known: ReadonlyMap<string, LoggedEntry>): Problem | null {
  const bad = (field: string, detail: string) =>
    problem(422, 'entry', 'The entry does not fit the log', 'Nothing was stored of it.', [{ field, detail }]);
  if (entry.kind === 'corrected' || entry.kind === 'retracted') {
    const target = known.get(entry.replaces ?? '');
    if (!target) return bad('replaces', 'names no entry here: send the entry it mends first');
    if (target.kind === 'confirmed' || target.kind === 'retracted')
      return bad('replaces', 'a signature or retraction is not mended; write a new entry');
    if (!target.subjects.every((s) => entry.subjects.includes(s)))
      return bad('subjects', 'must name everything the mended entry is about');
    if (entry.kind === 'corrected') {
      const { error } = bodySchema(rootKind(target, known)).validate(entry.body.body, { abortEarly: false, convert: false });
      if (error) {
        const errors = explain(error).map((e) => ({ ...e, field: `body.body.${e.field}` }));
        return problem(422, 'entry', 'The corrected values are not right', 'Correct the fields named and send it again.', errors);
      }
    }
  }
  if (entry.kind === 'confirmed') {
    const target = known.get(entry.body.confirms);
    if (!target) return bad('body.confirms', 'names no entry here');
    if (!NEEDS_SECOND.includes(target.kind) && target.kind !== 'policy-set')
      return bad('body.confirms', 'this entry needs no second person');
    if (target.by === person.id) return bad('body.confirms', 'a second person must confirm, not the author');
    if (!target.subjects.every((s) => entry.subjects.includes(s)))
      return bad('subjects', 'must name everything the confirmed entry is about');
    if (target.kind === 'finding-cleared' && !person.competent)
      return bad('by', 'only a competent person (trained to assess) may confirm a clearing');
    if (target.kind === 'policy-set' && person.role !== 'lead') return bad('by', 'a milder policy is confirmed by a lead');
  }
  if (
    (entry.kind === 'quiet-declared' || entry.kind === 'policy-set' || entry.kind === 'site-card-set') &&
    person.role !== 'lead'
  ) {
    return bad('by', 'only a lead may do this');
  }
  return null;
}

function rootKind(e: LoggedEntry, known: ReadonlyMap<string, LoggedEntry>): Kind {
  const target = e.kind === 'corrected' ? known.get(e.replaces ?? '') : undefined;
  return target ? rootKind(target, known) : e.kind;
}

const namedIn = (e: Entry): string[] => [
  e.id,
  ...(e.replaces ? [e.replaces] : []),
  ...(e.kind === 'confirmed' ? [e.body.confirms] : []),
];

/** Follows corrections of corrections to the entries they rest on. */
async function load(
  trx: Knex.Transaction,
  workshop: string,
  ids: readonly string[],
  into: Map<string, LoggedEntry>,
): Promise<void> {
  const wanted = ids.filter((id) => !into.has(id));
  if (wanted.length === 0) return;
  const rows: EntryRow[] = await trx('entries')
    .where('workshop_id', workshop)
    .whereIn('id', wanted)
    .select(...COLUMNS);
  for (const row of rows) into.set(row.entry.id, stored(row));
  await load(
    trx,
    workshop,
    rows.flatMap((r) => r.entry.replaces ?? []),
    into,
  );
}

/**
 * Appends several batches in one transaction: locks the workshop's number, leaves out what is known, numbers the rest,
 * stores it and projects it. What is reported as accepted is stored, all of it or nothing.
 * @returns the results of each batch, in its order.
 */
export async function append(db: Knex, ctx: Omit<Context, 'now'>, batches: readonly Batch[]): Promise<EntryResult[][]> {
  const checked = batches.map((b) => b.entries.map((raw) => check(raw, b.person, ctx.workshop)));
  const good = checked.flat().flatMap((c) => ('entry' in c ? [c.entry] : []));
  if (good.length === 0) return checked.map((list) => list.map((c) => (c as { refused: EntryResult }).refused));

  return inWorkshop(db, ctx.workshop, async (trx) => {
    const locked = await trx('workshops').where('id', ctx.workshop).select('last_seq').forUpdate().first<{ last_seq: string }>();
    const known = new Map<string, LoggedEntry>();
    await load(trx, ctx.workshop, [...new Set(good.flatMap(namedIn))], known);
    const now = new Date();
    let seq = Number(locked.last_seq);
    const fresh: LoggedEntry[] = [];
    const one = (c: Checked, batch: Batch): EntryResult => {
      if ('refused' in c) return c.refused;
      const { entry } = c;
      const before = known.get(entry.id);
      if (before) {
        const { seq: s, recordedAt, effectiveAt, ...plain } = before;
        if (canonical(plain) === canonical(entry)) {
          return { id: entry.id, status: 'known', seq: s!, recordedAt: recordedAt!, effectiveAt: effectiveAt! };
        }
        return {
          id: entry.id,
          status: 'refused',
          problem: problem(409, 'same-id', 'Another entry has this id', 'Give the new entry an id of its own.', [
            { field: 'id', detail: 'already used with another content' },
          ]),
        };
      }
      const against = checkAgainst(entry, batch.person, known);
      if (against) return { id: entry.id, status: 'refused', problem: against };
      seq += 1;
      const recordedAt = now.toISOString();
      const adjusted = new Date(Date.parse(entry.at) + batch.clockOffset).toISOString();
      const done = { ...entry, seq, recordedAt, effectiveAt: adjusted < recordedAt ? adjusted : recordedAt } as LoggedEntry;
      known.set(entry.id, done);
      fresh.push(done);
      return { id: entry.id, status: 'accepted', seq, recordedAt, effectiveAt: done.effectiveAt! };
    };
    const results = checked.map((list, i) => list.map((c) => one(c, batches[i]!)));
    if (fresh.length > 0) {
      await store(trx, ctx.workshop, fresh);
      await trx('workshops').where('id', ctx.workshop).update({ last_seq: seq });
      await project(trx, { ...ctx, now }, fresh);
      await trx.raw('select pg_notify(?, ?)', ['gavrel_news', `${ctx.workshop}:${seq}`]);
    }
    return results;
  });
}

/** Writes numbered entries and the subjects they are found by. */
export async function store(trx: Knex.Transaction, workshop: string, fresh: readonly LoggedEntry[]): Promise<void> {
  const rows = fresh.map(({ seq, recordedAt, effectiveAt, ...entry }) => ({
    workshop_id: workshop,
    seq,
    id: entry.id,
    kind: entry.kind,
    by_person: entry.by,
    recorded_at: recordedAt,
    effective_at: effectiveAt,
    entry: JSON.stringify(entry),
  }));
  await trx('entries').insert(rows);
  await trx('entry_subjects').insert(
    fresh.flatMap((e) => e.subjects.map((subject) => ({ workshop_id: workshop, subject, seq: e.seq }))),
  );
}
