import { randomBytes, randomInt } from 'node:crypto';
import type { Person, PersonDetail, Role, Training } from '@gavrel/contract';
import type { Knex } from 'knex';
import { ProblemError, problem } from '../problem';
import { inWorkshop } from '../store/db';
import { checkName, looksLike } from './names';
import { refuseWeak, secretHash } from './secrets';
import { note } from './trail';
import { forgive } from './tries';
import { DAY_MS } from '@gavrel/core';

export interface PersonRow {
  readonly id: string;
  readonly name: string;
  readonly role: Role;
  readonly passhash: string;
  readonly pinhash: string | null;
  /** The passphrase was made by somebody else. */
  readonly given: boolean;
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
export const shown = (
  { id, name, role, trainings }: Pick<PersonRow, 'id' | 'name' | 'role' | 'trainings'>,
  today: string,
): Person => ({
  id,
  name,
  role,
  competent: trainings.some((t) => t.kind === 'assess' && t.until >= today),
  trainings,
});

/** A passphrase nobody has to think up, said once: four groups of four letters that are not mistaken for each other. */
export function newPassphrase(): string {
  const letters = 'abcdefghkmnprstuvwxyz';
  const group = () => Array.from({ length: 4 }, () => letters[randomInt(letters.length)]).join('');
  return Array.from({ length: 4 }, group).join(' ');
}

/** A hash that no secret matches, so that an unknown name costs as much time as a wrong passphrase. */
export const NOBODY = secretHash(randomBytes(16).toString('hex'));

/** Last day of a training that is given with the person: the lead sets the real one. */
const A_YEAR = () => new Date(Date.now() + 365 * DAY_MS).toISOString().slice(0, 10);

const TAKEN = (name: string) =>
  new ProblemError(
    problem(409, 'name', `There is somebody of that name: ${name}`, 'Add something that tells them apart.', [
      { field: 'name', detail: 'is taken, or looks like one that is' },
    ]),
  );

type NewPerson = Pick<Person, 'id' | 'name' | 'role' | 'competent'> & {
  readonly passphrase: string;
  /** Somebody else made the passphrase: its person chooses their own first. */
  readonly given?: boolean;
};

/**
 * Adds a person; one who is competent gets a training to assess for a year.
 * @throws ProblemError when the name is taken, looks like one that is, or hides something.
 */
export async function addPerson(trx: Knex.Transaction, workshop: string, p: NewPerson): Promise<void> {
  const name = checkName(p.name);
  const all = await trx('people').where('workshop_id', workshop).select<{ name: string }[]>('name');
  const taken = all.find((o) => looksLike(o.name) === looksLike(name));
  if (taken) throw TAKEN(taken.name);
  const passhash = await secretHash(p.passphrase);
  await trx('people').insert({ workshop_id: workshop, id: p.id, name, role: p.role, passhash, given: p.given ?? false });
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

/** Changes a person's role, or lets them in no longer. @param by who changes it. @throws ProblemError for nobody, and for the last lead. */
export async function changePerson(
  db: Knex,
  workshop: string,
  id: string,
  change: { readonly role?: Role; readonly disabled?: boolean },
  by: string,
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
    if (change.role && change.role !== row.role)
      await note(trx, workshop, { what: 'role-changed', by, about: id, note: `${row.role}, now ${change.role}` });
    if (change.disabled !== undefined && change.disabled !== (row.disabled_at !== null))
      await note(trx, workshop, { what: change.disabled ? 'shut-out' : 'let-in', by, about: id });
  });
}

/** Who sets a passphrase, and which of the person's sessions goes on. */
interface Setting {
  readonly by: string;
  /** Hash of the token of the session that stays. */
  readonly keep?: string;
}

/** A new secret; every session of the person ends but one that is named. One that somebody else made is good only for choosing one's own. */
export async function setPassphrase(
  db: Knex,
  workshop: string,
  id: string,
  passphrase: string,
  { by, keep }: Setting,
): Promise<boolean> {
  const own = by === id;
  const passhash = await secretHash(passphrase);
  return inWorkshop(db, workshop, async (trx) => {
    const [changed] = await trx('people')
      .where({ workshop_id: workshop, id })
      .whereNot('role', 'outside')
      .update({ passhash, given: !own, pinhash: null })
      .returning<{ name: string }[]>('name');
    if (!changed) return false;
    await forgive(trx, workshop, changed.name, id);
    await trx('sessions')
      .where({ workshop_id: workshop, person_id: id })
      .whereNot('token_hash', keep ?? '')
      .delete();
    await note(trx, workshop, { what: own ? 'passphrase-set' : 'reset', by, ...(own ? {} : { about: id }) });
    return true;
  });
}

/** One’s own passphrase, chosen; every other session of the person ends. @throws ProblemError for one that is guessed quickly. */
export async function choosePassphrase(
  db: Knex,
  workshop: { readonly id: string; readonly name: string },
  person: Pick<Person, 'id' | 'name'>,
  fresh: string,
  keep: string,
): Promise<void> {
  refuseWeak('passphrase', fresh, [person.name, workshop.name]);
  await setPassphrase(db, workshop.id, person.id, fresh, { by: person.id, keep });
}

/** @throws ProblemError for a PIN that is guessed quickly. */
export async function setPin(db: Knex, workshop: string, person: Pick<Person, 'id' | 'name'>, pin: string): Promise<void> {
  refuseWeak('pin', pin, [person.name]);
  const pinhash = await secretHash(pin);
  await inWorkshop(db, workshop, async (trx) => {
    await trx('people').where({ workshop_id: workshop, id: person.id }).update({ pinhash });
    await note(trx, workshop, { what: 'pin-set', by: person.id });
  });
}

/** Says until when a person is trained for something; null ends it. @returns false when there is no such person. */
export async function setTraining(
  db: Knex,
  workshop: string,
  id: string,
  { kind, until }: { readonly kind: Training['kind']; readonly until: string | null },
  by: string,
  mayBegin: (trx: Knex.Transaction) => Promise<void> = () => Promise.resolve(),
): Promise<boolean> {
  return inWorkshop(db, workshop, async (trx) => {
    if (!(await trx('people').where({ workshop_id: workshop, id }).first())) return false;
    if (until !== null) await mayBegin(trx);
    const key = { workshop_id: workshop, person_id: id, kind };
    if (until === null) await trx('trainings').where(key).delete();
    else
      await trx('trainings')
        .insert({ ...key, until })
        .onConflict(['workshop_id', 'person_id', 'kind'])
        .merge();
    await note(trx, workshop, {
      what: 'training-set',
      by,
      about: id,
      note: until === null ? `${kind} ended` : `${kind} until ${until}`,
    });
    return true;
  });
}
