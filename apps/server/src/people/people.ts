import { randomBytes, randomInt } from 'node:crypto';
import type { Person, PersonDetail, Role, Training } from '@gavrel/contract';
import { hash } from '@node-rs/argon2';
import type { Knex } from 'knex';
import { ProblemError, problem } from '../problem';
import { inWorkshop } from '../store/db';
import { forgive } from './tries';

export interface PersonRow {
  readonly id: string;
  readonly name: string;
  readonly role: Role;
  readonly passhash: string;
  readonly pinhash: string | null;
  /** Key of a one-time code generator, base32; people outside only. */
  readonly code_key: string | null;
  readonly disabled_at: Date | null;
  readonly trainings: readonly Training[];
}

/** Each person with what they were trained for and until when, as days. */
const WITH_TRAININGS = `p.*, coalesce((select jsonb_agg(jsonb_build_object('kind', t.kind, 'until', to_char(t.until, 'YYYY-MM-DD')) order by t.kind)
  from trainings t where t.workshop_id = p.workshop_id and t.person_id = p.id), '[]'::jsonb) as trainings`;

/** People with their trainings; narrowed by whoever asks. */
export const peopleRows = (trx: Knex.Transaction) => trx('people as p').select<PersonRow[]>(trx.raw(WITH_TRAININGS));

/** Competent is who has a training to assess that has not run out. @param today local day, YYYY-MM-DD. */
export const shown = ({ id, name, role, trainings }: PersonRow, today: string): Person => ({
  id,
  name,
  role,
  competent: trainings.some((t) => t.kind === 'assess' && t.until >= today),
  trainings,
});

/** Argon2id with the library's defaults (memory-hard, salted). */
export const secretHash = (secret: string): Promise<string> => hash(secret);

/** A passphrase nobody has to think up, said once: four groups of four letters that are not mistaken for each other. */
export function newPassphrase(): string {
  const letters = 'abcdefghkmnprstuvwxyz';
  const group = () => Array.from({ length: 4 }, () => letters[randomInt(letters.length)]).join('');
  return Array.from({ length: 4 }, group).join(' ');
}

/** A hash that no secret matches, so that an unknown name costs as much time as a wrong passphrase. */
export const NOBODY = secretHash(randomBytes(16).toString('hex'));

/** Last day of a training that is given with the person: the lead sets the real one. */
const A_YEAR = () => new Date(Date.now() + 365 * 86_400_000).toISOString().slice(0, 10);

/** Adds a person; one who is competent gets a training to assess for a year. @throws ProblemError when the name is taken. */
export async function addPerson(
  trx: Knex.Transaction,
  workshop: string,
  p: Pick<Person, 'id' | 'name' | 'role' | 'competent'> & { readonly passphrase: string },
): Promise<void> {
  const taken = await trx('people').whereRaw('lower(name) = lower(?)', [p.name]).first();
  if (taken)
    throw new ProblemError(
      problem(409, 'name', 'There is somebody of that name', 'Add something that tells them apart.', [
        { field: 'name', detail: 'is taken' },
      ]),
    );
  const passhash = await secretHash(p.passphrase);
  await trx('people').insert({ workshop_id: workshop, id: p.id, name: p.name, role: p.role, passhash });
  if (p.competent) await trx('trainings').insert({ workshop_id: workshop, person_id: p.id, kind: 'assess', until: A_YEAR() });
}

/** Everybody of the workshop, also who may not sign in any more: their entries keep their name. */
export function people(db: Knex, workshop: string, today: string): Promise<Person[]> {
  return inWorkshop(db, workshop, async (trx) => (await peopleRows(trx).orderBy('name')).map((r) => shown(r, today)));
}

/** The same with what only the lead sees. */
export function peopleInDetail(db: Knex, workshop: string, today: string): Promise<PersonDetail[]> {
  return inWorkshop(db, workshop, async (trx) =>
    (await peopleRows(trx).orderBy('name')).map((r) => ({
      ...shown(r, today),
      disabled: r.disabled_at !== null,
      pin: r.pinhash !== null,
    })),
  );
}

const LAST_LEAD = new ProblemError(
  problem(409, 'last-lead', 'This is the last lead', 'Make another person lead first: somebody must be able to let people in.'),
);

const OUTSIDE = new ProblemError(
  problem(409, 'outside', 'They are from outside and sign by code only', 'Invite them under a name of their own to let them in.'),
);

/** Changes a person's role, or lets them in no longer. @throws ProblemError for nobody, and for the last lead. */
export async function changePerson(
  db: Knex,
  workshop: string,
  id: string,
  change: { readonly role?: Role; readonly disabled?: boolean },
): Promise<void> {
  await inWorkshop(db, workshop, async (trx) => {
    // One change at a time: two leads must not disable each other at once.
    const rows: PersonRow[] = await trx('people').where('workshop_id', workshop).orderBy('id').forUpdate();
    const row = rows.find((r) => r.id === id);
    if (!row) throw new ProblemError(problem(404, 'not-found', 'No such person', 'Read the list again.'));
    const leads = rows.filter((r) => r.role === 'lead' && r.disabled_at === null && r.id !== id);
    const stays = (change.role ?? row.role) === 'lead' && !(change.disabled ?? row.disabled_at !== null);
    if (leads.length === 0 && !stays) throw LAST_LEAD;
    if (row.role === 'outside' && change.role) throw OUTSIDE;
    await trx('people')
      .where({ workshop_id: workshop, id })
      .update({
        ...(change.role && { role: change.role }),
        ...(change.disabled !== undefined && { disabled_at: change.disabled ? new Date() : null }),
      });
    if (change.disabled) await trx('sessions').where({ workshop_id: workshop, person_id: id }).delete();
  });
}

/** A new secret; every session of the person ends but one that is named. */
export async function setPassphrase(db: Knex, workshop: string, id: string, passphrase: string, keep?: string): Promise<boolean> {
  const passhash = await secretHash(passphrase);
  return inWorkshop(db, workshop, async (trx) => {
    const [changed] = await trx('people')
      .where({ workshop_id: workshop, id })
      .whereNot('role', 'outside')
      .update({ passhash, pinhash: null })
      .returning<{ name: string }[]>('name');
    if (changed) await forgive(trx, workshop, changed.name, id);
    await trx('sessions')
      .where({ workshop_id: workshop, person_id: id })
      .whereNot('token_hash', keep ?? '')
      .delete();
    return changed !== undefined;
  });
}

export async function setPin(db: Knex, workshop: string, id: string, pin: string): Promise<void> {
  const pinhash = await secretHash(pin);
  await inWorkshop(db, workshop, (trx) => trx('people').where({ workshop_id: workshop, id }).update({ pinhash }));
}

/** Says until when a person is trained for something; null ends it. @returns false when there is no such person. */
export async function setTraining(
  db: Knex,
  workshop: string,
  id: string,
  kind: Training['kind'],
  until: string | null,
): Promise<boolean> {
  return inWorkshop(db, workshop, async (trx) => {
    if (!(await trx('people').where({ workshop_id: workshop, id }).first())) return false;
    const key = { workshop_id: workshop, person_id: id, kind };
    if (until === null) await trx('trainings').where(key).delete();
    else
      await trx('trainings')
        .insert({ ...key, until })
        .onConflict(['workshop_id', 'person_id', 'kind'])
        .merge();
    return true;
  });
}
