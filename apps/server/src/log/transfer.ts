import { createInterface } from 'node:readline';
import type { Readable, Writable } from 'node:stream';
import { once } from 'node:events';
import { checkEntry } from '@gavrel/contract/schemas';
import { canonical, type LoggedEntry } from '@gavrel/core';
import type { Knex } from 'knex';
import { fits } from './fits';
import { entriesAfter, stored } from './read';
import { rebuildIn } from '../projection/rebuild';
import { NO_ROWS } from '../projection/rows';
import { writeEntries } from './write';

interface Head {
  readonly gavrel: 'log';
  readonly version: 1;
  readonly workshop: { readonly id: string; readonly name: string; readonly zone: string };
}

/** Writes the log as JSON Lines in canonical form (RFC 8785), seq and recordedAt kept: a head line, then one line an entry. */
export async function exportLog(db: Knex, workshop: Head['workshop'], out: Writable): Promise<number> {
  const head: Head = { gavrel: 'log', version: 1, workshop };
  out.write(canonical(head) + '\n');
  let count = 0;
  // One snapshot for all portions.
  await db.transaction(
    async (trx) => {
      await trx.raw('select set_config(?, ?, true)', ['gavrel.workshop', workshop.id]);
      for (let after = 0; ;) {
        const rows = await entriesAfter(trx, workshop.id, after, 2000);
        if (out.errored) throw out.errored;
        if (rows.length === 0) return;
        after = Number(rows[rows.length - 1]!.seq);
        count += rows.length;
        if (!out.write(rows.map((r) => canonical(stored(r)) + '\n').join(''))) await once(out, 'drain');
      }
    },
    { isolationLevel: 'repeatable read' },
  );
  return count;
}

/** Stores numbered entries as they are, without what follows from them: a rebuild makes that. @param last the highest number among them. */
export const fillLog = (trx: Knex.Transaction, workshop: string, entries: readonly LoggedEntry[], last: number): Promise<void> =>
  writeEntries(trx, workshop, entries, last, NO_ROWS);

/**
 * Reads an exported log into an empty installation, keeping every number; each entry is checked as if it were sent, and everything is
 * folded before anything is kept.
 * @throws Error naming the line that is wrong, or when the log already holds entries; then nothing is stored.
 */
export async function importLog(owner: Knex, input: Readable, now: Date): Promise<number> {
  let head: Head | null = null;
  let line = 0;
  let count = 0;
  const known = new Map<string, LoggedEntry>();
  await owner.transaction(async (trx) => {
    let portion: LoggedEntry[] = [];
    const flush = async () => {
      if (portion.length > 0) await fillLog(trx, head!.workshop.id, portion, count + portion.length);
      count += portion.length;
      portion = [];
    };
    for await (const text of createInterface({ input, crlfDelay: Infinity })) {
      line += 1;
      if (text === '') continue;
      let parsed: unknown;
      try {
        parsed = JSON.parse(text);
      } catch {
        throw new Error(`line ${line} is not JSON: export the log again`);
      }
      if (head === null) {
        head = parsed as Head;
        if (head.gavrel !== 'log' || head.version !== 1)
          throw new Error('this is not an exported log: the first line must say so');
        await begin(trx, head);
        continue;
      }
      const e = parsed as LoggedEntry;
      const wrong = whatIsWrong(e, head.workshop.id, count + portion.length + 1, known, now);
      if (wrong !== null) throw new Error(`line ${line}: ${wrong}; nothing was changed`);
      known.set(e.id, e);
      portion.push(e);
      if (portion.length >= 500) await flush();
    }
    if (head === null) throw new Error('the file is empty');
    await flush();
    // What cannot be folded is not kept either.
    await rebuildIn(trx, { workshop: head.workshop.id, zone: head.workshop.zone, now });
  });
  return count;
}

const WAITS: readonly unknown[] = [undefined, 'nobody', 'second', 'trained'];
const isTime = (t: unknown): t is string =>
  typeof t === 'string' && !Number.isNaN(Date.parse(t)) && t === new Date(t).toISOString();

/** Why an entry of a file does not belong into a log; null when it does. It is checked as one that is sent, but for whose session it came in. */
function whatIsWrong(e: LoggedEntry, workshop: string, seq: number, known: Map<string, LoggedEntry>, now: Date): string | null {
  if (typeof e !== 'object' || e === null) return 'no entry';
  const { seq: number, recordedAt, effectiveAt, waits, ...plain } = e;
  if (plain.workshop !== workshop) return 'an entry of another workshop';
  if (number !== seq) return `entry out of order, number ${seq} is expected`;
  if (known.has(e.id)) return `the id ${e.id} stands in the file before`;
  if (!isTime(recordedAt) || !isTime(effectiveAt) || effectiveAt > recordedAt)
    return 'the times at which it was recorded are not right';
  if (Date.parse(recordedAt) > now.getTime()) return `recorded on ${recordedAt}, which is after now`;
  if (!WAITS.includes(waits)) return 'whom it waits for is not right';
  const checked = checkEntry(plain);
  if (!checked.ok) return checked.errors.map((x) => `${x.field}: ${x.detail}`).join('; ');
  const misfit = fits(checked.entry, known);
  return misfit && (misfit.errors ?? []).map((x) => `${x.field}: ${x.detail}`).join('; ');
}

/** Makes the workshop, or takes the empty one that is there. */
async function begin(trx: Knex.Transaction, head: Head): Promise<void> {
  const { id, name, zone } = head.workshop;
  await trx.raw('select set_config(?, ?, true)', ['gavrel.workshop', id]);
  const there = await trx('workshops').first<{ id: string; last_seq: string } | undefined>();
  if (there && (there.id !== id || Number(there.last_seq) > 0))
    throw new Error('this installation already holds a log: import into an empty one');
  if (!there) await trx('workshops').insert({ id, name, zone });
}
