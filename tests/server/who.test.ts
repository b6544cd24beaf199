import { WHO } from '@gavrel/contract';
import type { Bodies, Entry, Kind, Subject } from '@gavrel/core';
import type { Running } from '@gavrel/server';
import { v7 } from 'uuid';
import { type Bench, Client, closeBench, makeBench, serveBench, WORKSHOP } from './harness';

let bench: Bench;
let server: Running;
let lead: Client;
let tech: Client;
let second: Client;
let viewer: Client;
beforeAll(async () => {
  bench = await makeBench('who');
  server = await serveBench(bench);
  [lead, tech, second, viewer] = (await Promise.all(
    (['lead', 'tech', 'second', 'viewer'] as const).map((p) => Client.signIn(server.port, bench.people[p])),
  )) as [Client, Client, Client, Client];
}, 60_000);
afterAll(async () => {
  await server.stop();
  await closeBench(bench);
});

const send = async (c: Client, e: Entry) => (await c.append([e]))[0]!;
const why = (r: Awaited<ReturnType<typeof send>>) =>
  r.status === 'refused' ? (r.problem.errors ?? []).map((x) => x.field).join(', ') : r.status;

const PLACE: Subject = `place:${v7()}`;
const PACK: Subject = `pack:${v7()}`;
const INCIDENT: Subject = `incident:${v7()}`;
const POLICY: Subject = `policy:${WORKSHOP}`;
const CONSIGNMENT: Subject = `consignment:${v7()}`;
const LOOK = v7();
const BOX: Bodies['box-described'] = {
  name: 'F40',
  inner: { length: 400, width: 300, height: 200 },
  tareKg: 0.4,
  maxGrossKg: 20,
  kind: 'fibreboard',
  un: false,
  stock: 25,
  price: 1.1,
};
const CARRIER: Bodies['carrier-described'] = {
  name: 'Marram Freight',
  modes: ['road'],
  takes: { loose: true, withEquipment: true, inEquipment: true, damaged: false, recycling: true, class9: true },
  price: { perPackage: 9.5, perKg: 0.8 },
};

/** One entry of each kind that not everybody may write. */
const KINDS: { readonly [K in keyof typeof WHO]: readonly [readonly Subject[], Bodies[K & Kind]] } = {
  'quiet-declared': [[PACK], { ends: [v7()], reason: 'quiet for a day' }],
  'policy-set': [[POLICY], { wasteCode: '16 06 07*' }],
  'rule-checked': [[POLICY], { rule: 'road.188', edition: 'ADR 2025', on: '2026-11-01' }],
  'place-added': [[PLACE], { name: 'Box', kind: 'quarantine', holds: ['damaged'] }],
  'place-described': [[PLACE], { limits: { packs: 3 } }],
  'place-closed': [[PLACE], { reason: 'rusted through' }],
  'incident-closed': [[INCIDENT, PACK], { reason: 'cold for three days' }],
  'site-card-set': [[POLICY], { emergencyNumber: '112', assemblyPoint: 'gate', callFirst: 'the lead' }],
  'drum-collected': [[PLACE], { collection: v7(), to: 'Skerry Metals' } as Bodies['drum-collected']],
  'drum-answered': [[PLACE], { collection: v7(), certificate: 'S-1' } as Bodies['drum-answered']],
  'consignment-described': [[CONSIGNMENT], { name: 'Recycling' }],
  'plan-kept': [[CONSIGNMENT], { packages: [{ id: v7(), box: v7(), packs: [v7()] }] }],
  'consignment-handed-over': [
    [CONSIGNMENT, PACK],
    { to: 'Marram Freight', on: '2026-11-01', mode: 'road', region: 'eu', packages: [] } as Bodies['consignment-handed-over'],
  ],
  'consignment-arrived': [[CONSIGNMENT], { packs: 1 }],
  'consignment-ended': [[CONSIGNMENT, PACK], { how: 'refused', reason: 'no mark on it' }],
  'box-described': [[`box:${v7()}`], BOX],
  'carrier-described': [[`carrier:${v7()}`], CARRIER],
  'notice-filed': [[`notice:${v7()}`], { title: 'Fire risk', says: 'stop', on: '2026-11-02', ranges: [{ typeCode: 'A-1' }] }],
  'instrument-connected': [[`instrument:${v7()}`], { address: { host: '127.0.0.1', port: 5025, speaks: 'scpi' } }],
  'alarm-answered': [[PLACE], { answers: [LOOK], found: 'cold again' }],
};

test('every kind that not everybody may write is walked here', () =>
  expect(Object.keys(KINDS).sort()).toEqual(Object.keys(WHO).sort()));

test.each(Object.keys(WHO) as (keyof typeof KINDS)[])(
  '%s: nobody comes to it by a correction, a retraction or a subject more',
  async (kind) => {
    const [subjects, body] = KINDS[kind]! as unknown as readonly [readonly Subject[], never];
    const outsiders = WHO[kind] === 'competent' ? [tech] : [tech, second];
    const own = await send(lead, lead.entry(kind, subjects, body));
    expect(why(own)).toBe('accepted');
    const mended = lead.entry('corrected', subjects, { body, reason: 'again' }, { replaces: own.id });
    expect(why(await send(lead, mended))).toBe('accepted');
    for (const c of outsiders) {
      expect(why(await send(c, c.entry(kind, subjects, body)))).toBe('by');
      for (const target of [own.id, mended.id]) {
        expect(why(await send(c, c.entry('corrected', subjects, { body, reason: 'mine' }, { replaces: target })))).toBe('by');
        expect(why(await send(c, c.entry('retracted', subjects, { reason: 'mine' }, { replaces: target })))).toBe('by');
      }
    }
    expect(why(await send(viewer, viewer.entry(kind, subjects, body)))).toBe('by');
    // Who may write it adds nothing that it was not about.
    const other: Subject = `${subjects[0]!.split(':')[0]! as 'pack'}:${v7()}`;
    const more = lead.entry('corrected', [...subjects, other], { body, reason: 'again' }, { replaces: own.id });
    expect(why(await send(lead, more))).toBe('subjects');
  },
);

test('anybody’s statement is not stretched to something else, nor is a signature', async () => {
  const found = tech.entry('finding-recorded', [PACK], { code: 'swollen' });
  await send(tech, found);
  const other: Subject = `pack:${v7()}`;
  const back = tech.entry('retracted', [PACK, other], { reason: 'wrong' }, { replaces: found.id });
  expect(why(await send(tech, back))).toBe('subjects');
  const right = tech.entry('retracted', [PACK], { reason: 'wrong' }, { replaces: found.id });
  expect(why(await send(tech, right))).toBe('accepted');
  expect(why(await send(second, second.entry('confirmed', [PACK, other], { confirms: right.id })))).toBe('subjects');
  expect(why(await send(second, second.entry('confirmed', [PACK], { confirms: right.id })))).toBe('accepted');
});

test('only a lead adds a place, and opens one anew that was closed', async () => {
  const place: Subject = `place:${v7()}`;
  const add = (c: Client) => c.entry('place-added', [place], { name: 'Box', kind: 'quarantine', holds: ['damaged'] });
  expect(why(await send(tech, add(tech)))).toBe('by');
  expect(why(await send(lead, add(lead)))).toBe('accepted');
  expect(why(await send(lead, lead.entry('place-closed', [place], { reason: 'rusted' })))).toBe('accepted');
  expect(why(await send(tech, add(tech)))).toBe('by');
  expect(why(await send(lead, add(lead)))).toBe('accepted');
});
