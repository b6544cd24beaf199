import { createHash, randomBytes } from 'node:crypto';
import type { Person } from '@gavrel/contract';
import { verify } from '@node-rs/argon2';
import type { Knex } from 'knex';
import { inWorkshop } from '../store/db';
import { NOBODY, peopleRows, type PersonRow, shown } from './people';
import { guarded } from './tries';

const SESSION_DAYS = 14;
export const tokenHash = (token: string) => createHash('sha256').update(token).digest('hex');

export interface Place {
  readonly db: Knex;
  readonly workshop: string;
  /** Local day of now. */
  readonly today: string;
}
export interface Entered {
  readonly person: Person;
  readonly token: string;
}

async function open({ db, workshop, today }: Place, row: PersonRow, device: string): Promise<Entered> {
  const token = `${workshop}.${randomBytes(32).toString('base64url')}`;
  await inWorkshop(db, workshop, async (trx) => {
    await trx('sessions').where('expires_at', '<', new Date()).delete();
    await trx('sessions').insert({
      workshop_id: workshop,
      token_hash: tokenHash(token),
      person_id: row.id,
      device,
      expires_at: new Date(Date.now() + SESSION_DAYS * 86_400_000),
    });
  });
  return { person: shown(row, today), token };
}

/** Checks name and passphrase and opens a session. @returns null when they do not fit. @throws ProblemError while one must wait. */
export async function signIn(at: Place, name: string, passphrase: string, device: string): Promise<Entered | null> {
  const row = await guarded(at.db, at.workshop, 'passphrase', name, async () => {
    const found = await inWorkshop(at.db, at.workshop, (trx) =>
      peopleRows(trx).whereRaw('lower(p.name) = lower(?)', [name.trim()]).first<PersonRow | undefined>(),
    );
    const fits = await verify(found?.passhash ?? (await NOBODY), passphrase);
    return found && fits && found.disabled_at === null && found.role !== 'outside' ? found : null;
  });
  return row ? open(at, row, device) : null;
}

/** Does the passphrase fit the person? For changing a secret. */
export async function knowsPassphrase(at: Place, person: Person, passphrase: string): Promise<boolean> {
  const known = await guarded(at.db, at.workshop, 'passphrase', person.name, async () => {
    const row = await inWorkshop(at.db, at.workshop, (trx) =>
      peopleRows(trx).where('p.id', person.id).first<PersonRow | undefined>(),
    );
    return row && (await verify(row.passhash, passphrase)) ? row : null;
  });
  return known !== null;
}

/** People with a PIN who signed in on this device with their passphrase, and whose session there has not run out. */
export async function peopleOfDevice({ db, workshop, today }: Place, device: string): Promise<Person[]> {
  return inWorkshop(db, workshop, async (trx) => {
    const rows = await peopleRows(trx)
      .whereNotNull('p.pinhash')
      .whereNull('p.disabled_at')
      .whereExists((q) =>
        q
          .from('sessions as s')
          .whereRaw('s.workshop_id = p.workshop_id and s.person_id = p.id')
          .where('s.device', device)
          .where('s.expires_at', '>', new Date()),
      )
      .orderBy('p.name');
    return rows.map((r) => shown(r, today));
  });
}

/**
 * Whose PIN it is. Only on a device where they signed in with their passphrase before; a PIN alone is good for nothing elsewhere.
 * @returns null when it does not fit. @throws ProblemError while one must wait.
 */
export async function byPin(at: Place, id: string, pin: string, device: string): Promise<PersonRow | null> {
  const here = (await peopleOfDevice(at, device)).some((p) => p.id === id);
  return guarded(at.db, at.workshop, 'pin', id, async () => {
    const found = await inWorkshop(at.db, at.workshop, (trx) => peopleRows(trx).where('p.id', id).first<PersonRow | undefined>());
    const fits = await verify(found?.pinhash ?? (await NOBODY), pin);
    return here && found && fits ? found : null;
  });
}

/** Hands a shared bench to another person by their PIN, or back to the one who locked it. @returns null when it does not fit. */
export async function switchTo(at: Place, id: string, pin: string, device: string): Promise<Entered | null> {
  const row = await byPin(at, id, pin, device);
  return row ? open(at, row, device) : null;
}

export interface Known {
  readonly person: Person;
  readonly workshop: string;
  readonly device: string;
}

/** The person behind a session token; null when it is unknown, over, or its person may not sign in any more. */
export async function whoIs(db: Knex, token: string, today: string): Promise<Known | null> {
  const workshop = token.slice(0, token.indexOf('.'));
  if (!/^[0-9a-f-]{36}$/.test(workshop)) return null;
  return inWorkshop(db, workshop, async (trx) => {
    const row = await peopleRows(trx)
      .select<PersonRow & { device: string }>('s.device')
      .join('sessions as s', (j) => j.on('p.workshop_id', 's.workshop_id').andOn('p.id', 's.person_id'))
      .where('s.token_hash', tokenHash(token))
      .where('s.expires_at', '>', new Date())
      .whereNull('p.disabled_at')
      .first<(PersonRow & { device: string }) | undefined>();
    return row ? { person: shown(row, today), workshop, device: row.device } : null;
  });
}

export async function signOut(db: Knex, workshop: string, token: string): Promise<void> {
  await inWorkshop(db, workshop, (trx) => trx('sessions').where('token_hash', tokenHash(token)).delete());
}

/** Ends every session of a person, on every device. */
export async function signOutEverywhere(db: Knex, workshop: string, person: string): Promise<void> {
  await inWorkshop(db, workshop, (trx) => trx('sessions').where({ workshop_id: workshop, person_id: person }).delete());
}
