import type { Invited, Named, Role, Training } from '@gavrel/contract';
import {
  OUTSIDE_SCHEMA,
  PASSPHRASE_SCHEMA,
  PERSON_CHANGE_SCHEMA,
  PERSON_SCHEMA,
  PIN_SCHEMA,
  TRAINING_SCHEMA,
} from '@gavrel/contract/schemas';
import { Hono } from 'hono';
import { v4 } from 'uuid';
import { addPerson, changePerson, newPassphrase, peopleInDetail, setPassphrase, setPin, setTraining } from '../people/people';
import { knowsPassphrase, peopleOfDevice, signOutEverywhere, tokenHash } from '../people/sessions';
import { nameOutside } from '../people/sign';
import { newestCopy } from '../operate/copies';
import { answer, notFound, problem } from '../problem';
import { inWorkshop } from '../store/db';
import { body, type Env, idOf, onlyLead, placeOf, type Services } from './env';

/** Who belongs to the workshop, what each may do, and one's own secrets. */
export function peopleRoutes(s: Services): Hono<Env> {
  const app = new Hono<Env>();
  const { db } = s;
  const workshop = s.workshop.id;

  app.get('/people', onlyLead, async (c) => c.json(await peopleInDetail(db, workshop, placeOf(s).today)));
  app.post('/people', onlyLead, async (c) => {
    const ask = await body<{ name: string; role: Role }>(c, PERSON_SCHEMA);
    const invited: Invited = { id: v4(), passphrase: newPassphrase() };
    await inWorkshop(db, workshop, (trx) =>
      addPerson(trx, workshop, { ...ask, ...invited, name: ask.name.trim(), competent: false }),
    );
    return c.json(invited, 201);
  });
  app.post('/people/outside', onlyLead, async (c) => {
    const ask = await body<{ name: string; until: string }>(c, OUTSIDE_SCHEMA);
    const id = v4();
    const uri = await nameOutside(placeOf(s), id, ask.name.trim(), ask.until);
    return c.json({ id, uri } satisfies Named, 201);
  });
  app.patch('/people/:id', onlyLead, async (c) => {
    await changePerson(db, workshop, idOf(c), await body(c, PERSON_CHANGE_SCHEMA));
    return c.body(null, 204);
  });
  app.post('/people/:id/reset', onlyLead, async (c) => {
    const id = idOf(c);
    const passphrase = newPassphrase();
    if (!(await setPassphrase(db, workshop, id, passphrase))) throw notFound('person');
    return c.json({ id, passphrase } satisfies Invited);
  });
  app.put('/people/:id/trainings', onlyLead, async (c) => {
    const { kind, until } = await body<{ kind: Training['kind']; until: string | null }>(c, TRAINING_SCHEMA);
    if (!(await setTraining(db, workshop, idOf(c), kind, until))) throw notFound('person');
    return c.body(null, 204);
  });

  app.get('/backup', onlyLead, async (c) => c.json(await newestCopy(s.backups)));
  app.get('/session/device', async (c) => c.json(await peopleOfDevice(placeOf(s), c.get('device'))));
  app.delete('/sessions', async (c) => {
    await signOutEverywhere(db, workshop, c.get('person').id);
    return c.body(null, 204);
  });
  const wrong = problem(403, 'passphrase', 'The passphrase does not fit', 'Type the one you sign in with.');
  app.put('/session/passphrase', async (c) => {
    const ask = await body<{ passphrase: string; fresh: string }>(c, PASSPHRASE_SCHEMA);
    const person = c.get('person');
    if (!(await knowsPassphrase(placeOf(s), person, ask.passphrase))) return answer(c, wrong);
    await setPassphrase(db, workshop, person.id, ask.fresh, tokenHash(c.get('token')));
    return c.body(null, 204);
  });
  app.put('/session/pin', async (c) => {
    const ask = await body<{ passphrase: string; pin: string }>(c, PIN_SCHEMA);
    const person = c.get('person');
    if (!(await knowsPassphrase(placeOf(s), person, ask.passphrase))) return answer(c, wrong);
    await setPin(db, workshop, person.id, ask.pin);
    return c.body(null, 204);
  });
  return app;
}
