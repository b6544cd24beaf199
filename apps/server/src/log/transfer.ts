import { createInterface } from 'node:readline';
import type { Readable, Writable } from 'node:stream';
import { once } from 'node:events';
import { canonical, type LoggedEntry } from '@gavrel/core';
import type { Knex } from 'knex';
import type { Context } from './project';
import { entriesAfter, stored } from './read';
import { rebuild } from './rebuild';
import { NO_ROWS, writeEntries } from './write';

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

/**
 * Reads an exported log into an empty installation, keeping every number.
 * @throws Error naming the line that is wrong, or when the log already holds entries; then nothing is stored.
 */
export async function importLog(owner: Knex, input: Readable, now: Date): Promise<number> {
  let head: Head | null = null;
  let line = 0;
  let count = 0;
  await owner.transaction(async (trx) => {
    let portion: LoggedEntry[] = [];
    const flush = async () => {
      if (portion.length > 0) await writeEntries(trx, head!.workshop.id, portion, count + portion.length, NO_ROWS);
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
      if (e.workshop !== head.workshop.id || e.seq !== count + portion.length + 1)
        throw new Error(`line ${line}: entry out of order or of another workshop`);
      portion.push(e);
      if (portion.length >= 500) await flush();
    }
    if (head === null) throw new Error('the file is empty');
    await flush();
  });
  const { workshop } = head as unknown as Head;
  const ctx: Context = { workshop: workshop.id, zone: workshop.zone, now };
  await rebuild(owner, ctx);
  return count;
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
