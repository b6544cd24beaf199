import type { Invited, Named, Practised, Role, Training } from '@gavrel/contract';
import {
  OUTSIDE_SCHEMA,
  PASSPHRASE_SCHEMA,
  PERSON_CHANGE_SCHEMA,
  PERSON_SCHEMA,
  PIN_SCHEMA,
  PRACTISED_SCHEMA,
  TRAIL_QUERY,
  TRAINING_SCHEMA,
} from '@gavrel/contract/schemas';
import { Hono, type MiddlewareHandler } from 'hono';
import type { Knex } from 'knex';
import { v4 } from 'uuid';
import {
  addPerson,
  changePerson,
  choosePassphrase,
  newPassphrase,
  peopleInDetail,
  setPassphrase,
  setPin,
  setTraining,
} from '../people/people';
import { keepPractised, passedPractice, practised } from '../people/practice';
import { byPassphrase, peopleOfDevice, signOutEverywhere, tokenHash } from '../people/sessions';
import { nameOutside } from '../people/sign';
import { note, trail } from '../people/trail';
import { newestCopy } from '../operate/copies';
import { answer, notFound, problem } from '../problem';
import { inWorkshop } from '../store/db';
import { askingOf, body, type Env, idOf, onlyLead, placeOf, query, type Services } from './env';

/** Who belongs to the workshop, what each may do, and one's own secrets. */
export function peopleRoutes(s: Services, guessing: MiddlewareHandler<Env>): Hono<Env> {
  const app = new Hono<Env>();
  const { db } = s;
  const workshop = s.workshop.id;

  app.get('/people', onlyLead, async (c) => c.json(await peopleInDetail(db, workshop, placeOf(s).today)));
  app.post('/people', onlyLead, async (c) => {
    const ask = await body<{ name: string; role: Role }>(c, PERSON_SCHEMA);
    const invited: Invited = { id: v4(), passphrase: newPassphrase() };
    await inWorkshop(db, workshop, async (trx) => {
      await addPerson(trx, workshop, { ...ask, ...invited, competent: false, given: true });
      await note(trx, workshop, { what: 'invited', by: c.get('person').id, about: invited.id, note: ask.role });
    });
    return c.json(invited, 201);
  });
  app.post('/people/outside', onlyLead, async (c) => {
    const ask = await body<{ name: string; until: string }>(c, OUTSIDE_SCHEMA);
    const id = v4();
    const uri = await nameOutside(placeOf(s), { ...ask, id }, c.get('person').id);
    return c.json({ id, uri } satisfies Named, 201);
  });
  app.patch('/people/:id', onlyLead, async (c) => {
    const id = idOf(c);
    const change = await body<{ role?: Role; disabled?: boolean }>(c, PERSON_CHANGE_SCHEMA);
    await changePerson(db, workshop, id, change, c.get('person').id);
    s.streams.check();
    return c.body(null, 204);
  });
  app.post('/people/:id/reset', onlyLead, async (c) => {
    const id = idOf(c);
    const passphrase = newPassphrase();
    if (!(await setPassphrase(db, workshop, id, passphrase, { by: c.get('person').id }))) throw notFound('person');
    s.streams.check();
    return c.json({ id, passphrase } satisfies Invited);
  });
  app.put('/people/:id/trainings', onlyLead, async (c) => {
    const id = idOf(c);
    const ask = await body<{ kind: Training['kind']; until: string | null }>(c, TRAINING_SCHEMA);
    // What a policy asks of who assesses is asked in the transaction that lets them.
    const mayBegin = async (trx: Knex.Transaction) => {
      if (ask.kind === 'assess' && (await s.writer.policy.of(trx)).assessAfterPractice) await passedPractice(trx, workshop, id);
    };
    if (!(await setTraining(db, workshop, id, ask, c.get('person').id, mayBegin))) throw notFound('person');
    return c.body(null, 204);
  });

  app.get('/backup', onlyLead, async (c) => c.json(await newestCopy(s.backups)));
  app.get('/trail', onlyLead, async (c) => {
    const { before, limit } = query<{ before: number | null; limit: number }>(c, TRAIL_QUERY);
    return c.json(await trail(db, workshop, before, limit));
  });
  const notTheirs = problem(403, 'person', 'These are somebody else’s', 'Sign in as who practised, and send them again.', [
    { field: 'person', detail: 'is not who is signed in' },
  ]);
  app.get('/practice', onlyLead, async (c) => c.json(await practised(db, workshop)));
  app.put('/session/practice', async (c) => {
    const { person, sessions } = await body<{ person: string; sessions: Practised[] }>(c, PRACTISED_SCHEMA);
    if (person !== c.get('person').id) return answer(c, notTheirs);
    await keepPractised(db, workshop, person, sessions);
    return c.body(null, 204);
  });
  app.get('/session/device', async (c) => c.json(await peopleOfDevice(askingOf(s, c), c.get('known').deviceId)));
  app.delete('/sessions', async (c) => {
    await signOutEverywhere(db, workshop, c.get('person').id);
    s.streams.check();
    return c.body(null, 204);
  });
  const wrong = problem(403, 'passphrase', 'The passphrase does not fit', 'Type the one you sign in with.');
  const same = problem(422, 'same', 'This is the passphrase you have', 'Choose another: whoever made this one knows it.', [
    { field: 'fresh', detail: 'is the present one' },
  ]);
  app.put('/session/passphrase', guessing, async (c) => {
    const ask = await body<{ passphrase: string; fresh: string }>(c, PASSPHRASE_SCHEMA);
    const person = c.get('person');
    if (!(await byPassphrase(askingOf(s, c), person, ask.passphrase))) return answer(c, wrong);
    if (ask.fresh === ask.passphrase) return answer(c, same);
    await choosePassphrase(db, s.workshop, person, ask.fresh, tokenHash(c.get('token')));
    s.streams.check();
    return c.body(null, 204);
  });
  app.put('/session/pin', guessing, async (c) => {
    const ask = await body<{ passphrase: string; pin: string }>(c, PIN_SCHEMA);
    const person = c.get('person');
    if (!(await byPassphrase(askingOf(s, c), person, ask.passphrase))) return answer(c, wrong);
    await setPin(db, workshop, person, ask.pin);
    return c.body(null, 204);
  });
  return app;
}
