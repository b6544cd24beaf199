import type { Invited, Person, PersonDetail } from '@gavrel/contract';
import { taggedId } from '@gavrel/core';
import type { Running } from '@gavrel/server';
import { waitAfter } from '../../apps/server/src/people/tries';
import { type Bench, Client, closeBench, makeBench, PASS, serveBench, WORKSHOP } from './harness';

jest.setTimeout(60_000);
let bench: Bench;
let server: Running;
let lead: Client;
let tech: Client;

// A server of its own for each: an address may sign in thirty times a minute.
beforeEach(async () => {
  server = await serveBench(bench);
  lead = await Client.signIn(server.port, bench.people.lead);
  tech = await Client.signIn(server.port, bench.people.tech);
});
afterEach(() => server.stop());
beforeAll(async () => {
  bench = await makeBench('people');
});
afterAll(() => closeBench(bench));

const enter = (name: string, passphrase: string, device = 'test') =>
  fetch(`http://127.0.0.1:${server.port}/api/session`, {
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify({ name, passphrase, device }),
  });
const invite = async (name: string, role = 'technician') =>
  (await (await lead.request('POST', '/people', { name, role })).json()) as Invited;
const signedIn = async (name: string, role: Person['role'] = 'technician') => {
  const i = await invite(name, role);
  const c = await Client.signIn(server.port, { id: i.id, name, role, competent: false }, i.passphrase);
  return { ...i, c };
};

describe('who may do what', () => {
  const routes = [
    ['GET', '/people'],
    ['POST', '/people'],
    ['PATCH', `/people/${WORKSHOP}`],
    ['POST', `/people/${WORKSHOP}/reset`],
    ['PUT', `/people/${WORKSHOP}/trainings`],
    ['POST', '/calendar'],
  ] as const;
  test.each(routes)('%s %s is the lead’s alone', async (method, path) => {
    for (const who of ['tech', 'viewer'] as const) {
      const c = await Client.signIn(server.port, bench.people[who]);
      expect((await c.request(method, path, method === 'GET' ? undefined : {})).status).toBe(403);
    }
    const nobody = new Client(`http://127.0.0.1:${server.port}/api`, bench.people.lead);
    expect((await nobody.request(method, path, method === 'GET' ? undefined : {})).status).toBe(401);
  });
});

test('invited, in, disabled, out; the passphrase is said once and stored nowhere', async () => {
  const { id, passphrase, c } = await signedIn('Nia New');
  expect((await c.request('GET', '/session')).status).toBe(200);
  expect(JSON.stringify(await lead.get('/people'))).not.toContain(passphrase);
  expect((await lead.request('POST', '/people', { name: 'nia new', role: 'viewer' })).status).toBe(409);
  expect((await lead.request('PATCH', `/people/${id}`, { disabled: true })).status).toBe(204);
  expect((await c.request('GET', '/session')).status).toBe(401);
  expect((await enter('Nia New', passphrase)).status).toBe(401);
  // Their entries keep their name.
  expect((await lead.get<PersonDetail[]>('/people')).find((p) => p.id === id)).toMatchObject({ name: 'Nia New', disabled: true });
});

test('the last lead stays, also when two are taken away at once', async () => {
  const second = await signedIn('Lou Second', 'lead');
  const change = (id: string, body: object) => lead.request('PATCH', `/people/${id}`, body).then((r) => r.status);
  const both = await Promise.all([
    second.c.request('PATCH', `/people/${bench.people.lead.id}`, { role: 'technician' }).then((r) => r.status),
    change(second.id, { role: 'technician' }),
  ]);
  expect(both.sort()).toEqual([204, expect.any(Number)]);
  expect(both.filter((x) => x === 204)).toHaveLength(1);
  await bench.owner.transaction(async (trx) => {
    await trx.raw("select set_config('gavrel.workshop', ?, true)", [WORKSHOP]);
    await trx('people').where('id', bench.people.lead.id).update({ role: 'lead' });
    await trx('people').where('id', second.id).update({ role: 'technician' });
  });
  expect(await change(bench.people.lead.id, { disabled: true })).toBe(409);
});

test('a reset ends every session; one’s own change keeps this one; signing out everywhere ends all', async () => {
  const { id, passphrase, c } = await signedIn('Rae Reset');
  const other = await Client.signIn(server.port, c.person, passphrase);
  const fresh = 'nine slow barges';
  expect((await c.request('PUT', '/session/passphrase', { passphrase: 'wrong', fresh })).status).toBe(403);
  expect((await c.request('PUT', '/session/passphrase', { passphrase, fresh: 'short' })).status).toBe(422);
  expect((await c.request('PUT', '/session/passphrase', { passphrase, fresh })).status).toBe(204);
  expect((await c.request('GET', '/session')).status).toBe(200);
  expect((await other.request('GET', '/session')).status).toBe(401);
  const { passphrase: reset } = (await (await lead.request('POST', `/people/${id}/reset`)).json()) as Invited;
  expect((await c.request('GET', '/session')).status).toBe(401);
  expect((await enter('Rae Reset', fresh)).status).toBe(401);
  const [one, two] = [await Client.signIn(server.port, c.person, reset), await Client.signIn(server.port, c.person, reset)];
  expect((await one.request('DELETE', '/sessions')).status).toBe(204);
  expect((await two.request('GET', '/session')).status).toBe(401);
});

test('a PIN opens only the device where its person signed in', async () => {
  const a = await signedIn('Pim Pin');
  const b = await signedIn('Bea Bench');
  expect((await a.c.request('PUT', '/session/pin', { passphrase: a.passphrase, pin: '12' })).status).toBe(422);
  expect((await a.c.request('PUT', '/session/pin', { passphrase: a.passphrase, pin: '4711' })).status).toBe(204);
  expect((await b.c.get<Person[]>('/session/device')).map((p) => p.name)).toContain('Pim Pin');
  const elsewhere = await Client.signIn(server.port, b.c.person, b.passphrase, 'another phone');
  expect(await elsewhere.get('/session/device')).toEqual([]);
  expect((await elsewhere.request('POST', '/session/switch', { person: a.id, pin: '4711' })).status).toBe(403);
  const r = await b.c.request('POST', '/session/switch', { person: a.id, pin: '4711' });
  expect(await r.json()).toMatchObject({ person: { name: 'Pim Pin' } });
});

describe('guessing', () => {
  test('slows down, the same for a name that is nobody’s', async () => {
    for (const name of ['Sam Second', 'Nobody At All']) {
      const codes = [];
      for (let i = 0; i < 7; i++) codes.push((await enter(name, 'wrong')).status);
      expect(codes).toEqual([401, 401, 401, 401, 401, 429, 429]);
    }
    const right = await enter('Sam Second', PASS);
    expect(right.status).toBe(429);
    expect(((await right.json()) as { detail: string }).detail).toMatch(/Wait \d+ seconds/);
    // The lead's reset ends the wait.
    const { passphrase } = (await (await lead.request('POST', `/people/${bench.people.second.id}/reset`)).json()) as Invited;
    expect((await enter('Sam Second', passphrase)).status).toBe(200);
    expect([0, 4, 5, 6, 12, 40].map(waitAfter)).toEqual([0, 0, 30, 60, 3600, 3600]);
  });
  test('guesses at the same moment all count', async () => {
    await Promise.all(Array.from({ length: 6 }, () => enter('Vic View', 'wrong')));
    expect((await enter('Vic View', PASS)).status).toBe(429);
  });
});

test('whoever is trained to assess may confirm a clearing, until the day it runs out', async () => {
  const { id, c } = await signedIn('Tess Trained');
  const competent = async () => (await c.get<{ person: Person }>('/session')).person.competent;
  const train = (until: string | null) => lead.request('PUT', `/people/${id}/trainings`, { kind: 'assess', until });
  expect(await competent()).toBe(false);
  expect((await train('2026-13-01')).status).toBe(422);
  expect((await train('2031-01-01')).status).toBe(204);
  expect(await competent()).toBe(true);
  const pack = `pack:${taggedId(WORKSHOP, 'pack', 'CLEAR')}` as const;
  const found = tech.entry('finding-recorded', [pack], { code: 'dropped' });
  const clear = tech.entry('finding-cleared', [pack], { clears: [found.id], reason: 'looked at' });
  await tech.append([tech.entry('pack-added', [pack], { tag: 'CLEAR', use: 'removed' }), found, clear]);
  await train('2020-01-01');
  const sign = () => c.append([c.entry('confirmed', [pack], { confirms: clear.id })]);
  expect((await sign())[0]).toMatchObject({ status: 'refused' });
  await train('2031-01-01');
  expect((await sign())[0]).toMatchObject({ status: 'accepted' });
  await train(null);
  expect(await competent()).toBe(false);
});
