import { createHmac } from 'node:crypto';
import type { AppendResponse, Named, Person } from '@gavrel/contract';
import { foldPack, type LoggedEntry, type Subject, taggedId } from '@gavrel/core';
import type { Running } from '@gavrel/server';
import { type Bench, Client, closeBench, makeBench, PASS, serveBench, WORKSHOP } from './harness';

let bench: Bench;
let server: Running;
let lead: Client;
let tech: Client;

beforeEach(async () => {
  server = await serveBench(bench);
  lead = await Client.signIn(server.port, bench.people.lead);
  tech = await Client.signIn(server.port, bench.people.tech);
});
afterEach(() => server.stop());
beforeAll(async () => {
  bench = await makeBench('sign');
});
afterAll(() => closeBench(bench));

const BASE32 = 'ABCDEFGHIJKLMNOPQRSTUVWXYZ234567';
const fromBase32 = (text: string): Buffer => {
  const bits = [...text].map((c) => BASE32.indexOf(c).toString(2).padStart(5, '0')).join('');
  return Buffer.from((bits.match(/.{8}/g) ?? []).map((b) => parseInt(b, 2)));
};
/** RFC 4226, 5.3 and 5.4: HMAC-SHA-1 over the counter, dynamic truncation, six digits. */
function hotp(key: Buffer, counter: number): string {
  const moving = Buffer.alloc(8);
  moving.writeBigUInt64BE(BigInt(counter));
  const mac = createHmac('sha1', key).update(moving).digest();
  const at = mac[19]! & 15;
  return String((mac.readUInt32BE(at) & 0x7fffffff) % 1_000_000).padStart(6, '0');
}
const step = () => Math.floor(Date.now() / 30_000);
const keyOf = (uri: string) => fromBase32(new URL(uri).searchParams.get('secret')!);

let tag = 0;
/** A finding that its author took back by a clearing: it waits for a second, competent person. */
async function waiting(author: Client) {
  const pack: Subject = `pack:${taggedId(WORKSHOP, 'pack', `S-${++tag}`)}`;
  const found = author.entry('finding-recorded', [pack], { code: 'wet' });
  const cleared = author.entry('finding-cleared', [pack], { clears: [found.id], reason: 'rinsed rain water, dried, measured' });
  await author.append([author.entry('pack-added', [pack], { tag: `S-${tag}`, use: 'removed' }), found, cleared]);
  return { pack, cleared };
}
const sign = async (
  from: Client,
  to: { pack: Subject; cleared: { id: string } },
  who: Person | { id: string },
  how: string,
  secret: string,
  kind: 'confirmed' | 'intended' = 'confirmed',
) => {
  const as = new Client(from.base, who as Person);
  const entry =
    kind === 'confirmed'
      ? as.entry('confirmed', [to.pack], { confirms: to.cleared.id })
      : as.entry('intended', [to.pack], { purpose: 'use' });
  return from.request('POST', '/entries/sign', {
    deviceTime: new Date().toISOString(),
    person: who.id,
    how,
    secret,
    entries: [entry],
  });
};
const inForce = async (pack: Subject): Promise<boolean> => {
  const { history } = await lead.get<{ history: LoggedEntry[] }>(`/packs/${pack.slice(5)}`);
  return foldPack(pack.slice(5), history)!.clearings.length > 0;
};
const accepted = async (r: Response) => ((await r.json()) as AppendResponse).results.map((x) => x.status);

test('our reading of a one-time code gives the values of RFC 4226, appendix D', () => {
  const key = Buffer.from('12345678901234567890');
  expect([0, 1, 2, 9].map((c) => hotp(key, c))).toEqual(['755224', '287082', '359152', '520489']);
});

test('a second person signs on another’s device with their own PIN or passphrase, and nobody else’s', async () => {
  const second = bench.people.second;
  const mine = await Client.signIn(server.port, second, PASS, lead);
  expect((await mine.request('PUT', '/session/pin', { passphrase: PASS, pin: '7302' })).status).toBe(204);
  const a = await waiting(lead);
  expect((await sign(lead, a, second, 'pin', '1357')).status).toBe(403);
  expect(await inForce(a.pack)).toBe(false);
  expect(await accepted(await sign(lead, a, second, 'pin', '7302'))).toEqual(['accepted']);
  expect(await inForce(a.pack)).toBe(true);
  // Whoever had the device still has it.
  expect((await lead.get<{ person: Person }>('/session')).person.id).toBe(bench.people.lead.id);

  const elsewhere = await Client.signIn(server.port, bench.people.tech);
  const b = await waiting(tech);
  expect((await sign(elsewhere, b, second, 'pin', '7302')).status).toBe(403);
  expect(await accepted(await sign(elsewhere, b, second, 'passphrase', PASS))).toEqual(['accepted']);
});

test('a signature is a signature: one’s own work, an untrained person and any other entry are refused', async () => {
  const a = await waiting(lead);
  expect(await accepted(await sign(tech, a, bench.people.lead, 'passphrase', PASS))).toEqual(['refused']);
  expect(await accepted(await sign(lead, a, bench.people.tech, 'passphrase', PASS))).toEqual(['refused']);
  expect((await sign(lead, a, bench.people.second, 'passphrase', PASS, 'intended')).status).toBe(422);
  // The secret shows one person, the entry names another.
  const stolen = new Client(lead.base, bench.people.second).entry('confirmed', [a.pack], { confirms: a.cleared.id });
  const r = await lead.request('POST', '/entries/sign', {
    deviceTime: new Date().toISOString(),
    person: bench.people.tech.id,
    how: 'passphrase',
    secret: PASS,
    entries: [stolen],
  });
  expect(await accepted(r)).toEqual(['refused']);
  expect(await inForce(a.pack)).toBe(false);
});

test('somebody outside signs by a one-time code, once for each code, while their training holds; they never sign in', async () => {
  const named = await lead.request('POST', '/people/outside', { name: 'Orla Outside', until: '2999-12-31' });
  const { id, uri } = (await named.json()) as Named;
  expect(new URL(uri).protocol).toBe('otpauth:');
  const key = keyOf(uri);
  const a = await waiting(lead);
  const b = await waiting(lead);
  const code = hotp(key, step());
  expect((await sign(lead, a, { id }, 'code', code === '000000' ? '000001' : '000000')).status).toBe(403);
  expect((await sign(lead, a, { id }, 'code', hotp(key, step() - 5))).status).toBe(403);
  expect(await accepted(await sign(lead, a, { id }, 'code', code))).toEqual(['accepted']);
  expect(await inForce(a.pack)).toBe(true);
  expect((await sign(lead, b, { id }, 'code', code)).status).toBe(403);
  expect(await inForce(b.pack)).toBe(false);

  for (const secret of [code, PASS]) expect((await sign(lead, b, { id }, 'passphrase', secret)).status).toBe(403);
  expect((await lead.request('POST', `/people/${id}/reset`)).status).toBe(404);
  expect((await lead.request('PATCH', `/people/${id}`, { role: 'lead' })).status).toBe(409);

  await lead.request('PUT', `/people/${id}/trainings`, { kind: 'assess', until: '2020-01-01' });
  const late = await sign(lead, b, { id }, 'code', hotp(key, step() + 1));
  expect([late.status, ((await late.json()) as { title: string }).title]).toEqual([403, 'Their training to assess has run out']);
  await lead.request('PUT', `/people/${id}/trainings`, { kind: 'assess', until: '2999-12-31' });
  await lead.request('PATCH', `/people/${id}`, { disabled: true });
  expect((await sign(lead, b, { id }, 'code', hotp(key, step() + 1))).status).toBe(403);
});
