import { createServer } from 'node:net';
import type { Subject } from '@gavrel/core';
import { randomOf, simulate } from '@gavrel/core/practice';
import type { Running } from '@gavrel/server';
import { v4 } from 'uuid';
import { type StandIn, STAND_INS, standIn, type StandInFault } from '../../tools/instruments';
import { type Bench, Client, closeBench, makeBench, serveBench } from './harness';

let bench: Bench;
let server: Running;
let lead: Client;
let tech: Client;
const pack = simulate(randomOf(4));
const standIns = new Map<string, StandIn>();
beforeAll(async () => {
  bench = await makeBench('instruments');
  server = await serveBench(bench);
  lead = await Client.signIn(server.port, bench.people.lead);
  tech = await Client.signIn(server.port, bench.people.tech);
  for (const kind of STAND_INS) standIns.set(kind.name, await standIn(kind, pack, 0));
});
afterAll(async () => {
  for (const s of standIns.values()) await s.close();
  await server.stop();
  await closeBench(bench);
});

const MEASURES = { meter: 'volts', thermometer: 'temperature', calliper: 'thickness', scale: 'mass', load: 'discharge' } as const;

/** An instrument on record, connected where that is asked. */
async function instrument(name: keyof typeof MEASURES | 'load', port: number | null): Promise<string> {
  const id = v4();
  const about: Subject[] = [`instrument:${id}`];
  const speaks = STAND_INS.find((k) => k.name === name)!.speaks;
  const accuracy = { percent: 0.5, digits: 2 };
  const results = await lead.append([
    lead.entry('instrument-added', about, { name, measures: MEASURES[name], accuracy }),
    ...(port === null ? [] : [lead.entry('instrument-connected', about, { address: { host: '127.0.0.1', port, speaks } })]),
  ]);
  expect(results.filter((r) => r.status === 'refused')).toEqual([]);
  return id;
}
const read = async (id: string, who = tech) => {
  const r = await who.request('POST', `/instruments/${id}/reading`, {});
  return { status: r.status, said: (await r.json()) as { digits?: string; unit?: string; detail?: string } };
};

test('each kind of instrument is read until it stands still, and says what the simulated pack has', async () => {
  const truth = { meter: pack.cells.reduce((a, b) => a + b, 0), thermometer: pack.surfaceC, scale: pack.grams };
  const unit = { meter: 'V', thermometer: '°C', calliper: 'mm', scale: 'g' };
  for (const name of ['meter', 'thermometer', 'calliper', 'scale'] as const) {
    const { status, said } = await read(await instrument(name, standIns.get(name)!.port));
    expect([name, status, said.unit]).toEqual([name, 200, unit[name]]);
    const true_ = name === 'calliper' ? pack.newMm * (1 + pack.growth / 100) : truth[name];
    expect(Math.abs(Number(said.digits) - true_)).toBeLessThan(0.5);
  }
});

test('every fault ends in words that say what to do, and the next reading is right again', async () => {
  const id = await instrument('meter', standIns.get('meter')!.port);
  const meter = standIns.get('meter')!;
  const words: readonly (readonly [StandInFault, RegExp])[] = [
    ['leads off', /leads/],
    ['overload', /overload/],
    ['silence', /does not answer/],
    ['garbage', /no reading/],
    ['creeping', /stand still/],
    ['wrong unit', /in ft, not in V/],
  ];
  for (const [fault, said] of words) {
    meter.set(fault);
    const r = await read(id);
    expect([fault, r.status]).toEqual([fault, 409]);
    expect(r.said.detail).toMatch(said);
  }
  meter.set('none');
  expect((await read(id)).status).toBe(200);
});

test('a scale that still moves is waited for, and a load at work is not even called', async () => {
  let calls = 0;
  const lines = [
    'US,GS,+00271.9 g',
    'US,GS,+00271.9 g',
    'US,GS,+00271.9 g',
    ...Array.from({ length: 9 }, () => 'ST,GS,+00270.3 g'),
  ];
  const there = createServer((s) => {
    calls += 1;
    s.on('error', () => undefined);
    s.write(lines.map((l) => `${l}\r\n`).join(''));
  });
  await new Promise<void>((done) => there.listen(0, '127.0.0.1', done));
  const { port } = there.address() as { port: number };
  const r = await read(await instrument('scale', port));
  expect(r).toMatchObject({ status: 200, said: { digits: '270.3', unit: 'g' } });
  expect(calls).toBe(1);
  const load = await read(await instrument('load', port));
  expect(load).toMatchObject({ status: 409, said: { detail: expect.stringMatching(/a load gives no reading/) } });
  expect(calls).toBe(1);
  await new Promise((done) => there.close(done));
});

test('nothing is asked that the lead did not connect: no address, nobody there, a stranger’s network, a technician’s word', async () => {
  expect(await read(await instrument('meter', null))).toMatchObject({
    status: 409,
    said: { detail: expect.stringMatching(/not connected/) },
  });
  expect((await read(v4())).status).toBe(404);
  const gone = createServer();
  await new Promise<void>((done) => gone.listen(0, '127.0.0.1', done));
  const { port } = gone.address() as { port: number };
  await new Promise((done) => gone.close(done));
  expect((await read(await instrument('meter', port))).said.detail).toMatch(/does not answer/);
  const about: Subject[] = [`instrument:${await instrument('scale', null)}`];
  const address = { host: '127.0.0.1', port: standIns.get('scale')!.port, speaks: 'lines' as const };
  const [byTech] = await tech.append([tech.entry('instrument-connected', about, { address })]);
  expect(byTech).toMatchObject({ status: 'refused' });
  for (const host of ['93.184.216.34', 'localhost', '::ffff:93.184.216.34']) {
    const [r] = await lead.append([lead.entry('instrument-connected', about, { address: { ...address, host } })]);
    expect([host, r!.status]).toEqual([host, 'refused']);
  }
  // Taken back, it is asked no more.
  await lead.append([lead.entry('instrument-connected', about, { address })]);
  expect((await read(about[0]!.slice('instrument:'.length))).status).toBe(200);
  await lead.append([lead.entry('instrument-connected', about, { address: null })]);
  expect((await read(about[0]!.slice('instrument:'.length))).status).toBe(409);
});

test('two who ask at once do not read half of each other’s lines; a flood of bytes is no reading', async () => {
  const id = await instrument('meter', standIns.get('meter')!.port);
  const both = await Promise.all([read(id), read(id, lead)]);
  expect(both.map((r) => r.status).sort()).toEqual([200, 409]);
  // The same thing under another name, by way of another server.
  const other = await serveBench(bench);
  const there = await Client.signIn(other.port, bench.people.tech);
  const twin = await instrument('meter', standIns.get('meter')!.port);
  const twice = await Promise.all([read(id), read(twin, there)]);
  expect(twice.map((r) => [r.status, r.said.detail ?? '']).sort()).toEqual([
    [200, ''],
    [409, expect.stringMatching(/Somebody is reading it/)],
  ]);
  await other.stop();
  const flood = createServer((s) => {
    s.on('error', () => undefined);
    s.write('9'.repeat(500_000));
  });
  await new Promise<void>((done) => flood.listen(0, '127.0.0.1', done));
  const r = await read(await instrument('meter', (flood.address() as { port: number }).port));
  expect(r.status).toBe(409);
  await new Promise((done) => flood.close(done));
});
