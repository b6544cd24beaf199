import type { CalendarResponse } from '@gavrel/contract';
import type { Bodies, Kind, PlaceFacts, Subject } from '@gavrel/core';
import type { Running } from '@gavrel/server';
import { v7 } from 'uuid';
import { type Bench, Client, closeBench, makeBench, serveBench } from './harness';

let bench: Bench;
let server: Running;
let lead: Client;
let tech: Client;
beforeAll(async () => {
  bench = await makeBench('calendar');
  server = await serveBench(bench);
  lead = await Client.signIn(server.port, bench.people.lead);
  tech = await Client.signIn(server.port, bench.people.tech);
}, 60_000);
afterAll(async () => {
  await server.stop();
  await closeBench(bench);
});

const feed = (path: string) => fetch(`http://127.0.0.1:${server.port}${path}`);

test('the lead makes a secret address, whoever has it may read, and a new one or a revocation ends it', async () => {
  expect((await tech.request('POST', '/calendar')).status).toBe(403);
  const make = async () => (await (await lead.request('POST', '/calendar')).json()) as Required<CalendarResponse>;
  const first = await make();
  const read = await feed(first.path);
  expect([read.status, read.headers.get('content-type')]).toEqual([200, 'text/calendar; charset=utf-8']);
  expect(await read.text()).toMatch(/^BEGIN:VCALENDAR\r\n/);
  const second = await make();
  expect((await feed(first.path)).status).toBe(404);
  expect((await feed(second.path)).status).toBe(200);
  expect(await lead.get<CalendarResponse>('/calendar')).toEqual({ madeAt: second.madeAt });
  expect((await lead.request('DELETE', '/calendar')).status).toBe(204);
  expect((await feed(second.path)).status).toBe(404);
  for (const guess of ['x.ics', `${'a'.repeat(43)}.ics`, '..%2Fentries', 'a'.repeat(43)])
    expect((await feed(`/api/calendar/${guess}`)).status).toBe(404);
});

describe('places', () => {
  const id = v7();
  const said = async <K extends Kind>(c: Client, kind: K, body: Bodies[K], subjects: readonly Subject[] = [`place:${id}`]) =>
    (await c.append([c.entry(kind, subjects, body)]))[0]!.status;
  test('only a lead says what one may hold, and closes it', async () => {
    const box = { name: 'Box', kind: 'quarantine', holds: ['damaged'] } as const;
    expect(await said(tech, 'place-added', box)).toBe('refused');
    expect(await said(lead, 'place-added', box)).toBe('accepted');
    expect(await said(tech, 'place-described', { holds: ['damaged', 'sound'], limits: { packs: 900 } })).toBe('refused');
    expect(await said(tech, 'place-closed', { reason: 'full' })).toBe('refused');
    expect(await said(lead, 'place-described', { limits: { packs: 12 } })).toBe('accepted');
    const places = await lead.get<PlaceFacts[]>('/places');
    expect(places.find((p) => p.id === id)).toMatchObject({ holds: ['damaged'], limits: { packs: 12 }, closed: null });
  });
  test('a look at it reaches the tables of its packs, and what it alarms heads the list of what is due', async () => {
    const pack = v7();
    const both: Subject[] = [`place:${id}`, `pack:${pack}`];
    await said(tech, 'pack-added', { tag: 'C-1', use: 'removed' }, [`pack:${pack}`]);
    await said(tech, 'moved', {}, [`pack:${pack}`, `place:${id}`]);
    expect(await said(tech, 'container-looked', { smell: 'none', seen: 'growing' }, both)).toBe('accepted');
    const { items } = await tech.get<{ items: { id: string; condition: string }[] }>('/packs?search=C-1');
    expect(items[0]).toMatchObject({ id: pack, condition: 'damaged' });
    const [first] = await tech.get<{ id: string; at?: string }[]>('/due');
    expect(first).toMatchObject({ id: `watch:${id}`, at: expect.stringMatching(/Z$/) });
  });
});
