import { createHash } from 'node:crypto';
import type { Knex } from 'knex';
import { problem, ProblemError } from '../problem';
import { inWorkshop } from '../store/db';
import { note } from './trail';

export type SecretKind = 'passphrase' | 'pin' | 'code';

/** Wrong tries that cost nothing: from one place, and from all places where a person never was. The longest wait, seconds. Our own figures. */
const FREE = 5;
const FREE_STRANGERS = 50;
const LONGEST = 3600;

/** Whose secret is tried, and from where. */
export interface Trying {
  readonly db: Knex;
  readonly workshop: string;
  readonly what: SecretKind;
  /** A name as typed, or the id of a person. */
  readonly whose: string;
  /** The device, where this person signed in on it before. */
  readonly device: string | null;
  /** Address of whoever asks. */
  readonly address: string;
  /** The person, where there is one of that name. */
  readonly person?: string;
}

const hashOf = (...parts: readonly string[]) => createHash('sha256').update(parts.join('\n')).digest('hex');
const whoseOf = (what: SecretKind, whose: string) => hashOf(what, whose.trim().toLowerCase());

/** The network an address belongs to: whoever has one address of the sixth version has 2^64 of them. */
export const networkOf = (address: string): string => {
  const plain = address.replace(/^::ffff:/, '');
  return plain.includes(':') ? plain.split(':').slice(0, 4).join(':') : plain;
};

/** Nobody waits for tries that somebody else made: a reset sets the counts back. */
export const forgive = (trx: Knex.Transaction, workshop: string, name: string, id: string): Promise<number> =>
  trx('tries')
    .where('workshop_id', workshop)
    .whereIn('whose', [whoseOf('passphrase', name), whoseOf('pin', id), whoseOf('code', id)])
    .delete();

/**
 * Counts one try in one statement, before the secret is looked at, so that guesses at the same moment all count. None below the free ones
 * waits; then it is half a minute, doubling up to an hour.
 * @returns seconds to wait, 0 when the try may go on, and whether it is the first after which one waits. A wait that lies further ahead than
 * any is made by a clock that turned: it is over.
 */
async function count(
  trx: Knex.Transaction,
  workshop: string,
  key: string,
  whose: string,
  free: number,
): Promise<{ readonly wait: number; readonly first: boolean }> {
  const { rows } = await trx.raw<{ rows: { failed: number }[] }>(
    `insert into tries as t (workshop_id, key, whose, failed, until) values (:workshop, :key, :whose, 1, now())
     on conflict (workshop_id, key) do update set failed = t.failed + 1,
       until = now() + make_interval(secs => case when t.failed + 1 < :free then 0
         else least(:longest, 30 * power(2, least(t.failed + 1 - :free, 7))) end)
       where t.until <= now() or t.until > now() + make_interval(secs => :longest + 60)
     returning failed`,
    { workshop, key, whose, free, longest: LONGEST },
  );
  if (rows.length > 0) return { wait: 0, first: rows[0]!.failed === free };
  const row = await trx('tries')
    .where({ workshop_id: workshop, key })
    .first<{ left: string } | undefined>(trx.raw('extract(epoch from until - now()) as left'));
  return { wait: Math.max(1, Math.ceil(Number(row?.left ?? 0))), first: false };
}

/**
 * Guards a secret against guessing, in the database, so that every server counts together. On a device where its person was before, only
 * what is tried on that device counts: no stranger locks anybody out of their own bench. Elsewhere each network counts, and all of them
 * together. An unknown name is counted like a known one: whether it exists cannot be told. A right answer sets the count back.
 * @throws ProblemError 429 while one must wait; the secret is not even looked at.
 */
export async function guarded<T>(t: Trying, check: () => Promise<T | null>): Promise<T | null> {
  const whose = whoseOf(t.what, t.whose);
  const keys: readonly (readonly [string, number])[] = t.device
    ? [[hashOf(whose, 'device', t.device), FREE]]
    : [
        [hashOf(whose, 'network', networkOf(t.address)), FREE],
        [hashOf(whose, 'strangers'), FREE_STRANGERS],
      ];
  const { left, first } = await inWorkshop(t.db, t.workshop, async (trx) => {
    let first = false;
    for (const [key, free] of keys) {
      const counted = await count(trx, t.workshop, key, whose, free);
      if (counted.wait > 0) return { left: counted.wait, first: false };
      first ||= counted.first;
    }
    return { left: 0, first };
  });
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
  await inWorkshop(t.db, t.workshop, async (trx) => {
    // Once for each place they come from. Of unknown names nothing is kept: what was typed as a name may be a passphrase.
    if (found === null && first && t.person !== undefined)
      await note(trx, t.workshop, { what: 'wrong-tries', about: t.person, note: t.what });
    if (found !== null)
      await trx('tries')
        .where('workshop_id', t.workshop)
        .whereIn(
          'key',
          keys.map(([key]) => key),
        )
        .delete();
    // By the clock that counts: the database's.
    await trx('tries').whereRaw("until < now() - interval '1 day'").delete();
  });
  return found;
}
