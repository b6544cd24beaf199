import { createHash } from 'node:crypto';
import type { Knex } from 'knex';
import { problem, ProblemError } from '../problem';
import { inWorkshop } from '../store/db';

/** Wrong tries that cost nothing, and the longest wait, seconds. Our own figures. */
const FREE = 5;
const LONGEST = 3600;

const keyOf = (what: string, name: string) => createHash('sha256').update(`${what} ${name.trim().toLowerCase()}`).digest('hex');

/** Seconds to wait after so many wrong tries in a row: none for the first five, then half a minute, doubling up to an hour. */
export const waitAfter = (failed: number): number => (failed < FREE ? 0 : Math.min(LONGEST, 30 * 2 ** (failed - FREE)));

/** Nobody waits for tries that somebody else made: the lead's reset sets the counts back. */
export const forgive = (trx: Knex.Transaction, workshop: string, name: string, id: string): Promise<number> =>
  trx('tries')
    .where('workshop_id', workshop)
    .whereIn('key', [keyOf('passphrase', name), keyOf('pin', id), keyOf('code', id)])
    .delete();

/**
 * Guards a secret against guessing, in the database, so that every server counts together. An unknown name is counted like a known
 * one: whether it exists cannot be told. A right answer sets the count back.
 * @throws ProblemError 429 while one must wait; the secret is not even looked at.
 */
export async function guarded<T>(
  db: Knex,
  workshop: string,
  what: 'passphrase' | 'pin' | 'code',
  name: string,
  check: () => Promise<T | null>,
): Promise<T | null> {
  const key = keyOf(what, name);
  const before = await inWorkshop(db, workshop, (trx) =>
    trx('tries').where({ workshop_id: workshop, key }).first<{ until: Date } | undefined>('until'),
  );
  const left = before ? Math.ceil((before.until.getTime() - Date.now()) / 1000) : 0;
  if (left > 0)
    throw new ProblemError(
      problem(
        429,
        'wait',
        'Too many wrong tries',
        `Wait ${left} seconds, or ask the lead to reset it. Unsent work stays on the device.`,
      ),
    );
  const found = await check();
  await inWorkshop(db, workshop, async (trx) => {
    if (found !== null) return trx('tries').where({ workshop_id: workshop, key }).delete();
    // Counted in one statement: guesses at the same moment all count.
    const [row] = await trx('tries')
      .insert({ workshop_id: workshop, key, failed: 1, until: new Date() })
      .onConflict(['workshop_id', 'key'])
      .merge({ failed: trx.raw('tries.failed + 1') })
      .returning<{ failed: number }[]>('failed');
    const until = new Date(Date.now() + waitAfter(row!.failed) * 1000);
    await trx('tries').where({ workshop_id: workshop, key }).update({ until });
    return trx('tries')
      .where('until', '<', new Date(Date.now() - 86_400_000))
      .delete();
  });
  return found;
}
