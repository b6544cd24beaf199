import type { Invited, Person, PersonDetail, Practised, PractisedBy, Problem, TrailItem } from '@gavrel/contract';
import { taggedId, DAY_MS } from '@gavrel/core';
import { GRADES, WRITTEN } from '@gavrel/core/practice';
import { inWorkshop, type Running } from '@gavrel/server';
import { type Bench, Client, closeBench, makeBench, PASS, serveBench, WORKSHOP } from './harness';

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

const enter = (name: string, passphrase: string) =>
  fetch(`http://127.0.0.1:${server.port}/api/session`, {
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify({ name, passphrase, device: 'test' }),
  });
const invite = async (name: string, role = 'technician') =>
  (await (await lead.request('POST', '/people', { name, role })).json()) as Invited;
const OWN = 'nine slow barges';
/** Invited, in, and with a passphrase of their own. */
const signedIn = async (name: string, role: Person['role'] = 'technician', on?: Client) => {
  const { id, passphrase: given } = await invite(name, role);
  const c = await Client.signIn(server.port, { id, name, role, competent: false }, given, on);
  expect((await c.request('PUT', '/session/passphrase', { passphrase: given, fresh: OWN })).status).toBe(204);
  return { id, given, passphrase: OWN, c };
};

describe('who may do what', () => {
  const routes = [
    ['GET', '/people'],
    ['POST', '/people'],
    ['PATCH', `/people/${WORKSHOP}`],
    ['POST', `/people/${WORKSHOP}/reset`],
    ['PUT', `/people/${WORKSHOP}/trainings`],
    ['POST', '/calendar'],
    ['GET', '/practice'],
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
  const { id, given, passphrase, c } = await signedIn('Nia New');
  expect((await c.request('GET', '/session')).status).toBe(200);
  expect(JSON.stringify(await lead.get('/people'))).not.toContain(given);
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
  const fresh = 'four brass kettles';
  expect((await c.request('PUT', '/session/passphrase', { passphrase: 'wrong', fresh })).status).toBe(403);
  for (const weak of ['short', 'password1', 'rae reset 1', 'Test bench', passphrase])
    expect((await c.request('PUT', '/session/passphrase', { passphrase, fresh: weak })).status).toBe(422);
  expect((await c.request('PUT', '/session/passphrase', { passphrase, fresh })).status).toBe(204);
  expect((await c.request('GET', '/session')).status).toBe(200);
  expect((await other.request('GET', '/session')).status).toBe(401);
  const { passphrase: reset } = (await (await lead.request('POST', `/people/${id}/reset`)).json()) as Invited;
  expect((await c.request('GET', '/session')).status).toBe(401);
  expect((await enter('Rae Reset', fresh)).status).toBe(401);
  const [one, two] = [await Client.signIn(server.port, c.person, reset), await Client.signIn(server.port, c.person, reset)];
  // The passphrase a lead made is good for nothing but choosing another.
  expect((await one.request('GET', '/packs')).status).toBe(403);
  expect((await one.request('POST', '/entries', { deviceTime: new Date().toISOString(), entries: [] })).status).toBe(403);
  expect((await one.request('PUT', '/session/pin', { passphrase: reset, pin: '7302' })).status).toBe(403);
  expect(await one.get('/session')).toMatchObject({ mustChoose: true });
  expect((await one.request('PUT', '/session/passphrase', { passphrase: reset, fresh: OWN })).status).toBe(204);
  expect((await two.request('GET', '/session')).status).toBe(401);
  expect((await one.request('GET', '/packs')).status).toBe(200);
  const three = await Client.signIn(server.port, c.person, OWN);
  expect((await one.request('DELETE', '/sessions')).status).toBe(204);
  expect((await three.request('GET', '/session')).status).toBe(401);
});

test('whoever resets a passphrase cannot sign with it', async () => {
  const { id, c } = await signedIn('Sid Signer');
  const { passphrase: made } = (await (await lead.request('POST', `/people/${id}/reset`)).json()) as Invited;
  const pack = `pack:${taggedId(WORKSHOP, 'pack', 'SIGN')}` as const;
  const sign = (secret: string) =>
    lead.request('POST', '/entries/sign', {
      deviceTime: new Date().toISOString(),
      person: id,
      how: 'passphrase',
      secret,
      entries: [c.entry('confirmed', [pack], { confirms: id })],
    });
  expect((await sign(made)).status).toBe(403);
  const back = await Client.signIn(server.port, c.person, made);
  await back.request('PUT', '/session/passphrase', { passphrase: made, fresh: OWN });
  expect((await sign(OWN)).status).toBe(200);
});

describe('a PIN', () => {
  test('opens only the device where its person signed in, by the secret of that device', async () => {
    const a = await signedIn('Pim Pin');
    for (const pin of ['12', '1234', '0000', '1990', '2580'])
      expect((await a.c.request('PUT', '/session/pin', { passphrase: a.passphrase, pin })).status).toBe(422);
    expect((await a.c.request('PUT', '/session/pin', { passphrase: a.passphrase, pin: '4711' })).status).toBe(204);
    const b = await signedIn('Bea Bench', 'technician', a.c);
    expect((await b.c.get<Person[]>('/session/device')).map((p) => p.name)).toContain('Pim Pin');
    const take = (c: Client) => c.request('POST', '/session/switch', { person: a.id, pin: '4711' });
    // Whoever calls their own device by the same name is on another one, and so is whoever knows its number but not its secret.
    const elsewhere = await Client.signIn(server.port, b.c.person, b.passphrase);
    expect(await elsewhere.get('/session/device')).toEqual([]);
    expect((await take(elsewhere)).status).toBe(403);
    const [id] = b.c.cookies.get('gavrel-device')!.split('.');
    elsewhere.cookies.set('gavrel-device', `${id}.guessed`);
    expect((await take(elsewhere)).status).toBe(403);
    const r = await take(b.c);
    expect(await r.json()).toMatchObject({ person: { name: 'Pim Pin' } });
    expect(r.headers.getSetCookie().find((x) => x.startsWith('gavrel-device='))).toMatch(/HttpOnly.*SameSite=Strict/i);
  });
  test('changes the secret of the device, whose last one is good once more: an answer may be lost', async () => {
    const a = await signedIn('Ros Rotates');
    await a.c.request('PUT', '/session/pin', { passphrase: a.passphrase, pin: '4711' });
    const b = await signedIn('Ben Beside', 'technician', a.c);
    const [lost] = [b.c.cookie];
    const with_ = async (cookie: string) =>
      (
        await fetch(`${b.c.base}/session/switch`, {
          method: 'POST',
          headers: { cookie, 'content-type': 'application/json' },
          body: JSON.stringify({ person: a.id, pin: '4711' }),
        })
      ).status;
    expect([await with_(lost), await with_(lost)]).toEqual([200, 200]);
    await b.c.request('POST', '/session/switch', { person: a.id, pin: '4711' });
    await b.c.request('POST', '/session/switch', { person: a.id, pin: '4711' });
    expect(await with_(lost)).toBe(403);
  });
  test('opens nothing where its person signed out', async () => {
    const a = await signedIn('Oli Out');
    await a.c.request('PUT', '/session/pin', { passphrase: a.passphrase, pin: '4711' });
    const b = await signedIn('Ria Rest', 'technician', a.c);
    expect((await a.c.request('DELETE', '/session')).status).toBe(204);
    expect((await b.c.request('POST', '/session/switch', { person: a.id, pin: '4711' })).status).toBe(403);
  });
});

test('a name hides nothing, and is not taken for another', async () => {
  const refused = async (name: string) => (await lead.request('POST', '/people', { name, role: 'viewer' })).status;
  expect(await refused('Ann\u200ba Two')).toBe(422);
  expect(await refused('\u202eevil')).toBe(422);
  expect(await refused('Т\u0069m New')).toBe(422);
  // Cyrillic letters that look Latin; a one for an l; another way to write an accent.
  for (const name of ['Lеа Lеаd', 'Ѕаm Sесоnd', 'Tim  Tech']) expect([409, 422]).toContain(await refused(name));
  const accented = await invite('Zoë Accent');
  expect(await refused('Zoe\u0308 Accent')).toBe(409);
  expect((await enter('ZOE\u0308 ACCENT', accented.passphrase)).status).toBe(200);
});

test('who was let in, reset or changed is a trail for the leads, and nobody changes it', async () => {
  const { id, c } = await signedIn('Tia Trail');
  await lead.request('PATCH', `/people/${id}`, { role: 'shipper' });
  await lead.request('PUT', `/people/${id}/trainings`, { kind: 'assess', until: '2031-01-01' });
  await lead.request('POST', `/people/${id}/reset`);
  expect((await c.request('GET', '/trail')).status).toBe(401);
  expect((await tech.request('GET', '/trail')).status).toBe(403);
  const items = (await lead.get<TrailItem[]>('/trail?limit=200')).filter((t) => t.by === id || t.about === id);
  const trail = items.map((t) => t.what).reverse();
  expect(trail).toEqual(['invited', 'signed-in', 'passphrase-set', 'role-changed', 'training-set', 'reset']);
  expect(items.find((t) => t.what === 'role-changed')).toMatchObject({
    by: bench.people.lead.id,
    note: 'technician, now shipper',
  });
  const [oldest] = items.slice(-1);
  expect((await lead.get<TrailItem[]>(`/trail?before=${oldest!.id}`)).every((t) => t.id < oldest!.id)).toBe(true);
  for (const sql of ['delete from trail', "update trail set what = 'let-in'", 'truncate trail'])
    await expect(inWorkshop(bench.owner, WORKSHOP, (trx) => trx.raw(sql))).rejects.toThrow(/append-only/);
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
    // Once for the place it came from; of a name that is nobody's nothing is kept, it may be a passphrase in the wrong field.
    const told = (await lead.get<TrailItem[]>('/trail?limit=200')).filter((t) => t.what === 'wrong-tries');
    expect(told).toEqual([expect.objectContaining({ by: null, about: bench.people.second.id, note: 'passphrase' })]);
    expect(((await right.json()) as { detail: string }).detail).toMatch(/Wait \d+ seconds/);
    // The lead's reset ends the wait.
    const { passphrase } = (await (await lead.request('POST', `/people/${bench.people.second.id}/reset`)).json()) as Invited;
    expect((await enter('Sam Second', passphrase)).status).toBe(200);
  });
  test('each wait is twice the last, up to an hour', async () => {
    for (let i = 0; i < 5; i++) await enter('Somebody Else', 'wrong');
    const waits: number[] = [];
    for (let i = 0; i < 9; i++) {
      const said = ((await (await enter('Somebody Else', 'wrong')).json()) as { detail: string }).detail;
      waits.push(Number(/Wait (\d+) seconds/.exec(said)![1]));
      await inWorkshop(bench.owner, WORKSHOP, (trx) => trx('tries').update({ until: new Date() }));
      expect((await enter('Somebody Else', 'wrong')).status).toBe(401);
    }
    [30, 60, 120, 240, 480, 960, 1920, 3600, 3600].forEach((s, i) => expect(Math.abs(waits[i]! - s)).toBeLessThan(10));
  });
  test('of many guesses at the same moment only the free ones are looked at', async () => {
    const guesses = await Promise.all(Array.from({ length: 20 }, () => enter('Vic View', 'wrong')));
    expect(guesses.filter((r) => r.status === 401)).toHaveLength(5);
    expect((await enter('Vic View', PASS)).status).toBe(429);
  });
  test('a stranger’s guesses lock nobody out of the bench they work at; a clock that turned locks nobody out for days', async () => {
    const { c, passphrase } = await signedIn('Una Undisturbed');
    for (let i = 0; i < 6; i++) await enter('Una Undisturbed', 'wrong');
    expect((await enter('Una Undisturbed', passphrase)).status).toBe(429);
    const again = await Client.signIn(server.port, c.person, passphrase, c);
    expect((await again.request('GET', '/session')).status).toBe(200);
    // Set while the clock stood years ahead.
    await inWorkshop(bench.owner, WORKSHOP, (trx) => trx('tries').update({ until: new Date(Date.now() + 2 * 365 * DAY_MS) }));
    expect((await enter('Una Undisturbed', passphrase)).status).toBe(200);
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

describe('practice', () => {
  const session = (scenario: string, minutes: number, more: Partial<Practised> = {}): Practised => ({
    scenario,
    begun: new Date(Date.parse('2026-11-02T08:00:00.000Z') + minutes * 60_000).toISOString(),
    at: new Date(Date.parse('2026-11-02T08:02:00.000Z') + minutes * 60_000).toISOString(),
    ...{ full: true, harm: 0, found: true, bet: { sure: 0.9, right: true } },
    ...more,
  });
  const put = (c: Client, sessions: unknown) => c.request('PUT', '/session/practice', { person: c.person.id, sessions });
  const of = async (id: string) => (await lead.get<PractisedBy[]>('/practice')).filter((p) => p.person === id);
  test('is one’s own, counts once however often it is sent, and stays as it was first told', async () => {
    const { id, c } = await signedIn('Pru Practises', 'viewer');
    const first = session('x', 1, { harm: 2, bet: null });
    expect([(await put(c, [first])).status, (await put(c, [first, { ...first, harm: 0 }, session('y', 2)])).status]).toEqual([
      204, 204,
    ]);
    expect(await of(id)).toEqual([
      { person: id, ...session('y', 2) },
      { person: id, ...first },
    ]);
    for (const wrong of [
      [],
      [{ ...first, harm: -1 }],
      [{ ...first, begun: 'yesterday' }],
      [{ ...first, person: lead.person.id }],
    ])
      expect((await put(c, wrong)).status).toBe(422);
    // Signed in as somebody else in another tab: nobody is given what another one did.
    const others = await lead.request('PUT', '/session/practice', { person: id, sessions: [session('y', 5)] });
    expect(others.status).toBe(403);
    expect(await of(lead.person.id)).toEqual([]);
    const ahead = session('z', 3, { at: '2031-01-01T00:00:00.000Z' });
    expect((await put(c, [ahead])).status).toBe(204);
    expect(Date.parse((await of(id))[0]!.at)).toBeLessThanOrEqual(Date.now());
  });
  test('how a written scenario went last is shown however much came after it', async () => {
    const { id, c } = await signedIn('Ola Once');
    await put(c, [session(WRITTEN[0]!.id, 1)]);
    const { c: busy } = await signedIn('Bo Busy');
    for (let k = 0; k < 5; k++)
      await put(
        busy,
        Array.from({ length: 500 }, (_, i) => session(`endless-plain-${k * 500 + i}`, 100 + i)),
      );
    expect(await of(id)).toEqual([{ person: id, ...session(WRITTEN[0]!.id, 1) }]);
  });
  test('where the policy says so, nobody is trained to assess before every grade is passed; the switch back waits for a second lead', async () => {
    const { id, c } = await signedIn('Gus Grades');
    const policy = [`policy:${WORKSHOP}`] as const;
    const train = (kind: string) => lead.request('PUT', `/people/${id}/trainings`, { kind, until: '2031-01-01' });
    await lead.append([lead.entry('policy-set', policy, { assessAfterPractice: true })]);
    const refused = await train('assess');
    expect([refused.status, ((await refused.json()) as Problem).detail]).toEqual([
      422,
      expect.stringContaining(GRADES.join(', ')),
    ]);
    expect((await train('air')).status).toBe(204);
    const all = WRITTEN.map((s, i) => session(s.id, i));
    await put(c, all);
    // Forgotten since: the last time counts.
    await put(c, [session(WRITTEN[0]!.id, 9999, { harm: 1 })]);
    expect((await train('assess')).status).toBe(422);
    await put(c, [session(WRITTEN[0]!.id, 10_000)]);
    expect((await train('assess')).status).toBe(204);
    await lead.append([lead.entry('policy-set', policy, { assessAfterPractice: false })]);
    const { id: next } = await signedIn('Nel Next');
    expect((await lead.request('PUT', `/people/${next}/trainings`, { kind: 'assess', until: '2031-01-01' })).status).toBe(422);
    // Whoever lost it is not kept from losing it.
    expect((await lead.request('PUT', `/people/${next}/trainings`, { kind: 'assess', until: null })).status).toBe(204);
  });
});
