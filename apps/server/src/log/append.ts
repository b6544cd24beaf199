import type { EntryResult, Person, Problem } from '@gavrel/contract';
import { checkEntry } from '@gavrel/contract/schemas';
import { VIEWERS, whyNot } from '@gavrel/contract';
import { canonical, type Entry, fold, foldPolicy, gather, type LoggedEntry, type Subject, touchedBy } from '@gavrel/core';
import { mayWait } from '@gavrel/core/confirm';
import type { Knex } from 'knex';
import { problem } from '../problem';
import { rowsOf, STORED_TYPES } from '../projection/rows';
import { sqlPort } from '../projection/sql-port';
import { query, inWorkshopPlanned } from '../store/db';
import { type PolicyLog, policySubject } from './policy';
import { COLUMNS, type EntryRow, FOLDED, logged, stored } from './read';
import { bad, fits, type Known, kindOf, needsTrained } from './fits';
import { markWaits } from './waits';
import { writeEntries } from './write';

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
  if (person.role === 'viewer' && !VIEWERS.includes(entry.kind)) return wrong('by', whyNot(entry.kind, person)!);
  return { entry };
}

/** May this person write it, as what it rests on? */
function allowed(entry: Entry, person: Person, known: Known): Problem | null {
  const why = whyNot(kindOf(entry, known), person);
  if (why !== null) return bad('by', why);
  if (entry.kind !== 'confirmed') return null;
  const target = known.get(entry.body.confirms)!;
  if (needsTrained(target, known) && !person.competent)
    return bad('by', 'a finding, a breach or a sign would go: only a person trained to assess may confirm that');
  if (target.kind === 'policy-set' && person.role !== 'lead') return bad('by', 'a milder policy is confirmed by a lead');
  return null;
}

const namedIn = (e: Entry): string[] => [
  e.id,
  ...(e.replaces ? [e.replaces] : []),
  ...(e.kind === 'confirmed' ? [e.body.confirms] : []),
  ...(e.kind === 'declined' ? [e.body.declines] : []),
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
  await keep(trx, workshop, rows, into);
}

async function keep(
  trx: Knex.Transaction,
  workshop: string,
  rows: readonly EntryRow[],
  into: Map<string, LoggedEntry>,
): Promise<void> {
  for (const row of rows) into.set(row.entry.id, stored(row));
  await load(
    trx,
    workshop,
    rows.flatMap((r) => r.entry.replaces ?? []),
    into,
  );
}

interface Before {
  readonly last: number;
  /** Entries that the new ones name, by id, with what those rest on. */
  readonly known: Map<string, LoggedEntry>;
  /** What the touched subjects hold already. */
  readonly bySubject: Map<Subject, LoggedEntry[]>;
}

/** Locks the workshop's number and reads everything the new entries stand on, in one question. */
async function lock(trx: Knex.Transaction, workshop: string, fresh: readonly Entry[]): Promise<Before> {
  const ids = [...new Set(fresh.flatMap(namedIn))];
  const subjects = [...new Set<Subject>(fresh.flatMap((e) => e.subjects))];
  const rows = await query<EntryRow & { last_seq: string; seq: string | null; subject: Subject | null }>(
    trx,
    'lock-workshop',
    `with locked as (select last_seq from workshops where id = ?::uuid for update),
     named as (select null::text as subject, seq, recorded_at, effective_at, waits, entry from entries
               where workshop_id = ?::uuid and id = any(?::uuid[])),
     touched as (select s.subject, e.seq, e.recorded_at, e.effective_at, e.waits, e.entry
                 from entry_subjects s join entries e on e.workshop_id = s.workshop_id and e.seq = s.seq
                 where s.workshop_id = ?::uuid and s.subject = any(?::text[]) and ${FOLDED})
     select locked.last_seq, found.* from locked
     left join (select * from named union all select * from touched) found on true order by found.seq`,
    [workshop, workshop, ids, workshop, subjects],
  );
  const found = rows.filter((r) => r.seq !== null);
  const known = new Map<string, LoggedEntry>();
  await keep(
    trx,
    workshop,
    found.filter((r) => r.subject === null),
    known,
  );
  const bySubject = new Map<Subject, LoggedEntry[]>(subjects.map((s) => [s, []]));
  for (const r of found) if (r.subject !== null) bySubject.get(r.subject)!.push(logged(r));
  return { last: Number(rows[0]!.last_seq), known, bySubject };
}

/**
 * When an entry happened by the server's clock. A request may be long on its way, and then all in it seems later than it was: what one device
 * wrote after another stays after it, or a box closed last would be opened by what was packed before.
 * @param clockOffset ms to add to the device's clock. @param before entries of each thing it is about.
 */
function effectiveAt(entry: Entry, clockOffset: number, recordedAt: string, before: readonly (readonly LoggedEntry[])[]): string {
  let at = new Date(Date.parse(entry.at) + clockOffset).toISOString();
  for (const log of before)
    for (const e of log) if (e.device === entry.device && e.at <= entry.at && e.effectiveAt! > at) at = e.effectiveAt!;
  return at < recordedAt ? at : recordedAt;
}

/**
 * Appends several batches in one transaction: locks the workshop's number, leaves out what is known, numbers the rest,
 * stores it and projects it. What is reported as accepted is stored, all of it or nothing.
 * @returns the results of each batch, in its order.
 */
export async function append(
  db: Knex,
  ctx: { readonly workshop: string; readonly zone: string; readonly policy: PolicyLog },
  batches: readonly Batch[],
): Promise<EntryResult[][]> {
  const checked = batches.map((b) => b.entries.map((raw) => check(raw, b.person, ctx.workshop)));
  const good = checked.flat().flatMap((c) => ('entry' in c ? [c.entry] : []));
  if (good.length === 0) return checked.map((list) => list.map((c) => (c as { refused: EntryResult }).refused));

  return inWorkshopPlanned(db, ctx.workshop, async (trx) => {
    const { last, known, bySubject } = await lock(trx, ctx.workshop, good);
    let seq = last;
    const now = new Date();
    const fresh: LoggedEntry[] = [];
    const one = (c: Checked, batch: Batch): EntryResult => {
      if ('refused' in c) return c.refused;
      const { entry } = c;
      const before = known.get(entry.id);
      if (before) {
        const { seq: s, recordedAt, effectiveAt, waits, ...plain } = before;
        if (canonical(plain) === canonical(entry)) {
          return {
            id: entry.id,
            status: 'known',
            seq: s!,
            recordedAt: recordedAt!,
            effectiveAt: effectiveAt!,
            ...(waits && { waits }),
          };
        }
        return {
          id: entry.id,
          status: 'refused',
          problem: problem(409, 'same-id', 'Another entry has this id', 'Give the new entry an id of its own.', [
            { field: 'id', detail: 'already used with another content' },
          ]),
        };
      }
      const against = fits(entry, known) ?? allowed(entry, batch.person, known);
      if (against) return { id: entry.id, status: 'refused', problem: against };
      seq += 1;
      const recordedAt = now.toISOString();
      const about = entry.subjects.map((s) => bySubject.get(s)!);
      const done = {
        ...entry,
        seq,
        recordedAt,
        effectiveAt: effectiveAt(entry, batch.clockOffset, recordedAt, about),
      } as LoggedEntry;
      known.set(entry.id, done);
      fresh.push(done);
      for (const subject of entry.subjects) bySubject.get(subject)!.push(done);
      return { id: entry.id, status: 'accepted', seq, recordedAt, effectiveAt: done.effectiveAt! };
    };
    const results = checked.map((list, i) => list.map((c) => one(c, batches[i]!)));
    if (fresh.length > 0) {
      const log = sqlPort(trx, ctx.workshop);
      const gathered = await gather(log, await touchedBy(log, fresh), bySubject);
      const policyId = policySubject(ctx.workshop);
      const changed = fresh.some((e) => e.subjects.includes(policyId));
      const policy = changed ? foldPolicy(bySubject.get(policyId)!) : await ctx.policy.of(trx);
      const judge = { ...ctx, now, policy };
      if (fresh.some(mayWait)) markWaits(judge, gathered, [...known.values()], fresh);
      // Of another policy every other pack is stale: it is judged anew in the background, and by whoever asks for it before.
      await writeEntries(trx, ctx.workshop, fresh, seq, rowsOf(judge, fold(gathered, STORED_TYPES), seq));
    }
    const waits = new Map(fresh.flatMap((e) => (e.waits ? [[e.id, e.waits] as const] : [])));
    return results.map((list) =>
      list.map((r) => (r.status === 'accepted' && waits.has(r.id) ? { ...r, waits: waits.get(r.id)! } : r)),
    );
  });
}
