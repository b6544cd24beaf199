import type { Person, SignRequest } from '@gavrel/contract';
import { Secret, TOTP } from 'otpauth';
import { problem, ProblemError } from '../problem';
import { inWorkshop } from '../store/db';
import { addPerson, newPassphrase, peopleRows, type PersonRow, setTraining, shown } from './people';
import { type Asking, byPassphrase, byPin, type Place } from './sessions';
import { note } from './trail';
import { guarded } from './tries';

const ISSUER = 'Gavrel';
/** Seconds a code is shown; one step before and after is taken too, for a clock that is a little off (RFC 6238, 5.2). */
const STEP = 30;
const SLACK = 1;

const generator = (label: string, key: string) =>
  new TOTP({ issuer: ISSUER, label, secret: Secret.fromBase32(key), algorithm: 'SHA1', digits: 6, period: STEP });

interface Outsider {
  readonly id: string;
  readonly name: string;
  readonly until: string;
}

/**
 * Names a competent person outside the workshop. They never sign in: they read a one-time code (RFC 6238) off a generator of their own.
 * Their training to assess is good until a last day, YYYY-MM-DD. @returns the key URI, said once: whoever has it can sign.
 * @throws ProblemError when the name is taken.
 */
export async function nameOutside(at: Place, { id, name, until }: Outsider, by: string): Promise<string> {
  const key = new Secret({ size: 20 }).base32;
  await inWorkshop(at.db, at.workshop, async (trx) => {
    await addPerson(trx, at.workshop, { id, name, role: 'outside', competent: false, passphrase: newPassphrase() });
    await trx('people').where({ workshop_id: at.workshop, id }).update({ code_key: key });
    await note(trx, at.workshop, { what: 'outside-named', by, about: id });
  });
  await setTraining(at.db, at.workshop, id, { kind: 'assess', until }, by);
  return generator(name, key).toString();
}

/** Uses up the step of time a code belongs to, in one statement: the same code never signs twice, whichever servers are asked. */
async function useStep({ db, workshop }: Place, id: string, step: number): Promise<boolean> {
  return inWorkshop(db, workshop, async (trx) => {
    const used = await trx('people')
      .where({ workshop_id: workshop, id })
      .where('code_step', '<', step)
      .update({ code_step: step });
    return used === 1;
  });
}

async function byCode(at: Asking, row: PersonRow | undefined, id: string, code: string): Promise<PersonRow | null> {
  return guarded({ ...at, what: 'code', whose: id, device: null, ...(row && { person: row.id }) }, async () => {
    if (!row?.code_key) return null;
    const delta = generator(row.name, row.code_key).validate({ token: code, window: SLACK });
    if (delta === null) return null;
    return (await useStep(at, id, Math.floor(Date.now() / 1000 / STEP) + delta)) ? row : null;
  });
}

/**
 * The second person who signs on another's device. @param session device where they sign: a PIN is good only where its person signed in
 * before. @returns null when the secret does not fit. @throws ProblemError while one must wait, for somebody outside whose training ran
 * out, and for a passphrase that somebody else made: whoever made it would sign as them.
 */
export async function signer(at: Asking, ask: SignRequest, session: string | null): Promise<Person | null> {
  const row = await inWorkshop(at.db, at.workshop, (trx) =>
    peopleRows(trx).where('p.id', ask.person).whereNull('p.disabled_at').first<PersonRow | undefined>(),
  );
  const person = row && shown(row, at.today);
  if (ask.how === 'pin') return (await byPin(at, ask.person, ask.secret, session)) && person ? person : null;
  if (ask.how === 'passphrase') {
    if (!person || person.role === 'outside' || !(await byPassphrase(at, person, ask.secret))) return null;
    if (row.given)
      throw new ProblemError(
        problem(
          403,
          'given',
          'Their passphrase was made by somebody else',
          'They sign in once and choose their own, then they sign.',
        ),
      );
    return person;
  }
  if (!(await byCode(at, row, ask.person, ask.secret))) return null;
  if (!person!.competent)
    throw new ProblemError(
      problem(403, 'training', 'Their training to assess has run out', 'A lead says until when it is good, under People.'),
    );
  return person!;
}
