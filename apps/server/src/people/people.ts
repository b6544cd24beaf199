import { createHash, randomBytes } from 'node:crypto';
import type { Person, Role } from '@gavrel/contract';
import { hash, verify } from '@node-rs/argon2';
import type { Knex } from 'knex';
import { inWorkshop } from '../store/db';

interface PersonRow {
  readonly id: string;
  readonly name: string;
  readonly role: Role;
  readonly competent: boolean;
  readonly passhash: string;
}

const SESSION_DAYS = 14;
const sha = (token: string) => createHash('sha256').update(token).digest('hex');
const strip = ({ id, name, role, competent }: PersonRow): Person => ({ id, name, role, competent });

/** Argon2id with the library's defaults (memory-hard, salted). */
export const passhash = (passphrase: string): Promise<string> => hash(passphrase);

/** A hash that no passphrase matches, so that an unknown name costs as much time as a wrong passphrase. */
const NOBODY = passhash(randomBytes(16).toString('hex'));

export async function addPerson(
  trx: Knex.Transaction,
  workshop: string,
  p: Person & { readonly passphrase: string },
): Promise<void> {
  await trx('people').insert({
    workshop_id: workshop,
    id: p.id,
    name: p.name,
    role: p.role,
    competent: p.competent,
    passhash: await passhash(p.passphrase),
  });
}

export function people(db: Knex, workshop: string): Promise<Person[]> {
  return inWorkshop(db, workshop, async (trx) => ((await trx('people').orderBy('name')) as PersonRow[]).map(strip));
}

/** Checks name and passphrase and opens a session. @returns null when they do not fit. */
export async function signIn(
  db: Knex,
  workshop: string,
  name: string,
  passphrase: string,
  device: string,
): Promise<{ person: Person; token: string } | null> {
  const row = await inWorkshop(db, workshop, (trx) =>
    trx('people').whereRaw('lower(name) = lower(?)', [name.trim()]).first<PersonRow | undefined>(),
  );
  const fits = await verify(row?.passhash ?? (await NOBODY), passphrase);
  if (!row || !fits) return null;
  const token = `${workshop}.${randomBytes(32).toString('base64url')}`;
  await inWorkshop(db, workshop, async (trx) => {
    await trx('sessions').where('expires_at', '<', new Date()).delete();
    await trx('sessions').insert({
      workshop_id: workshop,
      token_hash: sha(token),
      person_id: row.id,
      device,
      expires_at: new Date(Date.now() + SESSION_DAYS * 86_400_000),
    });
  });
  return { person: strip(row), token };
}

/** The person behind a session token; null when it is unknown or over. */
export async function whoIs(db: Knex, token: string): Promise<{ person: Person; workshop: string } | null> {
  const workshop = token.slice(0, token.indexOf('.'));
  if (!/^[0-9a-f-]{36}$/.test(workshop)) return null;
  return inWorkshop(db, workshop, async (trx) => {
    const row = await trx('sessions as s')
      .join('people as p', (j) => j.on('p.workshop_id', 's.workshop_id').andOn('p.id', 's.person_id'))
      .where('s.token_hash', sha(token))
      .where('s.expires_at', '>', new Date())
      .first<PersonRow | undefined>('p.*');
    return row ? { person: strip(row), workshop } : null;
  });
}

export async function signOut(db: Knex, workshop: string, token: string): Promise<void> {
  await inWorkshop(db, workshop, (trx) => trx('sessions').where('token_hash', sha(token)).delete());
}
