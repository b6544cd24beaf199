import { createHash, randomBytes } from 'node:crypto';
import type { Person } from '@gavrel/contract';
import type { Knex } from 'knex';
import { inWorkshop, query } from '../store/db';
import { deviceOf, enterOn } from './devices';
import { nameOf } from './names';
import { NOBODY, peopleRows, type PersonRow, shown } from './people';
import { fits } from './secrets';
import { note } from './trail';
import { guarded, type SecretKind } from './tries';
import { DAY_MS } from '@gavrel/core';

const SESSION_DAYS = 14;
export const tokenHash = (token: string) => createHash('sha256').update(token).digest('hex');

export interface Place {
  readonly db: Knex;
  readonly workshop: string;
  /** Local day of now. */
  readonly today: string;
}
/** Somebody who asks to be let in, or signs. */
export interface Asking extends Place {
  /** Address they ask from. */
  readonly address: string;
  /** What the cookie of their device says. */
  readonly cookie: string | undefined;
}
export interface Entered {
  readonly person: Person;
  readonly token: string;
  /** What the cookie of the device says from now on. */
  readonly device: string;
  readonly given: boolean;
}

/** A session that ends later than this was opened by a clock that turned. */
const lastEnd = (): Date => new Date(Date.now() + (SESSION_DAYS + 1) * DAY_MS);

/** Sessions that are not over. */
const running = (q: Knex.QueryBuilder): Knex.QueryBuilder =>
  q.where('s.expires_at', '>', new Date()).where('s.expires_at', '<', lastEnd());

/** Was a person let in on a device, and is still? */
async function wasHere(trx: Knex.Transaction, device: string | null, person: string | undefined): Promise<boolean> {
  if (!device || !person) return false;
  const row = await trx('sessions as s')
    .where({ 's.device_id': device, 's.person_id': person })
    .modify(running)
    .first('s.person_id');
  return row !== undefined;
}

/** @param label how the device calls itself; @param how what the trail says. */
async function open(at: Asking, row: PersonRow, label: string, how: 'signed-in' | 'switched'): Promise<Entered> {
  const token = `${at.workshop}.${randomBytes(32).toString('base64url')}`;
  const device = await inWorkshop(at.db, at.workshop, async (trx) => {
    const entered = await enterOn(trx, at.workshop, at.cookie);
    await trx('sessions').where('expires_at', '<', new Date()).delete();
    // A person has one session on a device: its cookie is the newest.
    await trx('sessions').where({ workshop_id: at.workshop, person_id: row.id, device_id: entered.id }).delete();
    await trx('sessions').insert({
      workshop_id: at.workshop,
      token_hash: tokenHash(token),
      person_id: row.id,
      device: label,
      device_id: entered.id,
      expires_at: new Date(Date.now() + SESSION_DAYS * DAY_MS),
    });
    await note(trx, at.workshop, { what: how, by: row.id, device: label });
    return entered.cookie;
  });
  return { person: shown(row, at.today), token, device, given: row.given };
}

/** Looks at a secret of a person, if it may be tried now. @param whose as it is counted: a name, or an id. */
async function tried(
  at: Asking,
  what: SecretKind,
  whose: string,
  person: string | undefined,
  check: () => Promise<PersonRow | null>,
): Promise<PersonRow | null> {
  const device = await inWorkshop(at.db, at.workshop, async (trx) => {
    const shownBy = await deviceOf(trx, at.workshop, at.cookie);
    return (await wasHere(trx, shownBy, person)) ? shownBy : null;
  });
  return guarded({ ...at, what, whose, device, ...(person && { person }) }, check);
}

const rowOf = (at: Place, where: (q: Knex.QueryBuilder) => Knex.QueryBuilder): Promise<PersonRow | undefined> =>
  inWorkshop(at.db, at.workshop, (trx) => where(peopleRows(trx)).first<PersonRow | undefined>());

/** Checks name and passphrase and opens a session. @returns null when they do not fit. @throws ProblemError while one must wait. */
export async function signIn(at: Asking, typed: string, passphrase: string, label: string): Promise<Entered | null> {
  const name = nameOf(typed);
  const found = await rowOf(at, (q) => q.whereRaw('lower(p.name) = lower(?)', [name]));
  const row = await tried(at, 'passphrase', name, found?.id, async () => {
    const good = await fits(found?.passhash ?? (await NOBODY), passphrase);
    return found && good && found.disabled_at === null && found.role !== 'outside' ? found : null;
  });
  return row ? open(at, row, label, 'signed-in') : null;
}

/** Does the passphrase fit the person? @returns their row. @throws ProblemError while one must wait. */
export function byPassphrase(at: Asking, person: Pick<Person, 'id' | 'name'>, passphrase: string): Promise<PersonRow | null> {
  return tried(at, 'passphrase', person.name, person.id, async () => {
    const row = await rowOf(at, (q) => q.where('p.id', person.id));
    return row && (await fits(row.passhash, passphrase)) ? row : null;
  });
}

/**
 * People with a PIN who signed in on this device with their passphrase, and whose session there has not run out.
 * @param session the device the session was opened on: the cookie of another device is good for nothing.
 */
export async function peopleOfDevice(at: Asking, session: string | null): Promise<Person[]> {
  return inWorkshop(at.db, at.workshop, async (trx) => {
    const device = await deviceOf(trx, at.workshop, at.cookie);
    if (!device || device !== session) return [];
    const rows = await peopleRows(trx)
      .whereNotNull('p.pinhash')
      .whereNull('p.disabled_at')
      .whereExists((q) =>
        q
          .from('sessions as s')
          .whereRaw('s.workshop_id = p.workshop_id and s.person_id = p.id')
          .where('s.device_id', device)
          .modify(running),
      )
      .orderBy('p.name');
    return rows.map((r) => shown(r, at.today));
  });
}

/**
 * Whose PIN it is. Only on a device where they signed in with their passphrase before; a PIN alone is good for nothing elsewhere.
 * @returns null when it does not fit. @throws ProblemError while one must wait.
 */
export async function byPin(at: Asking, id: string, pin: string, session: string | null): Promise<PersonRow | null> {
  const here = (await peopleOfDevice(at, session)).some((p) => p.id === id);
  return tried(at, 'pin', id, id, async () => {
    const found = await rowOf(at, (q) => q.where('p.id', id));
    const good = await fits(found?.pinhash ?? (await NOBODY), pin);
    return here && found && good ? found : null;
  });
}

/** Hands a shared bench to another person by their PIN, or back to the one who locked it. @returns null when it does not fit. */
export async function switchTo(at: Asking, id: string, pin: string, from: Known): Promise<Entered | null> {
  const row = await byPin(at, id, pin, from.deviceId);
  return row ? open(at, row, from.device, 'switched') : null;
}

export interface Known {
  readonly person: Person;
  readonly workshop: string;
  /** How the device calls itself. */
  readonly device: string;
  readonly deviceId: string | null;
  /** Their passphrase was made by somebody else: they choose their own before anything else. */
  readonly given: boolean;
}

type SessionRow = Pick<PersonRow, 'id' | 'name' | 'role' | 'given' | 'trainings'> & {
  readonly device: string;
  readonly device_id: string | null;
};

/** The person behind a session token; null when it is unknown, over, or its person may not sign in any more. */
export async function whoIs(db: Knex, token: string, today: string): Promise<Known | null> {
  const workshop = token.slice(0, token.indexOf('.'));
  if (!/^[0-9a-f]{8}(-[0-9a-f]{4}){3}-[0-9a-f]{12}$/.test(workshop)) return null;
  const [row] = await query<SessionRow>(
    db,
    'session-of',
    'select * from session_of(?::uuid, ?, ?::timestamptz, ?::timestamptz)',
    [workshop, tokenHash(token), new Date().toISOString(), lastEnd().toISOString()],
  );
  return row ? { person: shown(row, today), workshop, device: row.device, deviceId: row.device_id, given: row.given } : null;
}

/** Which of these sessions are not over? @param hashes of their tokens. */
export async function runningOf(db: Knex, workshop: string, hashes: readonly string[]): Promise<ReadonlySet<string>> {
  return inWorkshop(db, workshop, async (trx) => {
    const rows = await trx('sessions as s')
      .join('people as p', (j) => j.on('p.workshop_id', 's.workshop_id').andOn('p.id', 's.person_id'))
      .whereIn('s.token_hash', hashes)
      .whereNull('p.disabled_at')
      .modify(running)
      .select<{ token_hash: string }[]>('s.token_hash');
    return new Set(rows.map((r) => r.token_hash));
  });
}

/** Ends a session, and with it what its person's PIN opens on that device. */
export async function signOut(db: Knex, workshop: string, token: string): Promise<void> {
  await inWorkshop(db, workshop, async (trx) => {
    const key = { workshop_id: workshop, token_hash: tokenHash(token) };
    const row = await trx('sessions')
      .where(key)
      .first<{ person_id: string; device: string; device_id: string | null } | undefined>('person_id', 'device', 'device_id');
    if (!row) return;
    await trx('sessions').where(key).delete();
    if (row.device_id)
      await trx('sessions').where({ workshop_id: workshop, person_id: row.person_id, device_id: row.device_id }).delete();
    await note(trx, workshop, { what: 'signed-out', by: row.person_id, device: row.device });
  });
}

/** Ends every session of a person, on every device. */
export async function signOutEverywhere(db: Knex, workshop: string, person: string): Promise<void> {
  await inWorkshop(db, workshop, async (trx) => {
    await trx('sessions').where({ workshop_id: workshop, person_id: person }).delete();
    await note(trx, workshop, { what: 'signed-out', by: person, note: 'everywhere' });
  });
}
