import { createHash, randomBytes } from 'node:crypto';
import type { Running } from '@gavrel/server';
import { v4 } from 'uuid';
import { type Bench, Client, closeBench, makeBench, serveBench, WORKSHOP } from './harness';

let bench: Bench;
let server: Running;
let tech: Client;
let lead: Client;
let viewer: Client;

beforeAll(async () => {
  bench = await makeBench('kept');
  server = await serveBench(bench);
  [tech, lead, viewer] = (await Promise.all(
    (['tech', 'lead', 'viewer'] as const).map((p) => Client.signIn(server.port, bench.people[p])),
  )) as [Client, Client, Client];
}, 60_000);
afterAll(async () => {
  await server.stop();
  await closeBench(bench);
});

const sha = (b: Buffer) => createHash('sha256').update(b).digest('hex');
const segment = (marker: number, body: Buffer) =>
  Buffer.concat([Buffer.from([0xff, marker, (body.length + 2) >> 8, (body.length + 2) & 255]), body]);
const START = Buffer.from([0xff, 0xd8]);
const scan = (bytes: number) => Buffer.concat([segment(0xda, Buffer.alloc(10)), randomBytes(bytes), Buffer.from([0xff, 0xd9])]);
const jpeg = (...segments: Buffer[]) => Buffer.concat([START, ...segments, scan(200)]);
const put = (c: Client, bytes: Buffer, type = 'image/jpeg', name = sha(bytes)) => c.raw('PUT', `/blobs/${name}`, bytes, type);

describe('pictures', () => {
  test('stored once under their hash, given back byte for byte', async () => {
    const p = jpeg(segment(0xe0, Buffer.from('JFIF\0')));
    expect([(await put(tech, p)).status, (await put(tech, p)).status]).toEqual([201, 201]);
    const r = await viewer.request('GET', `/blobs/${sha(p)}`);
    expect(r.headers.get('content-type')).toBe('image/jpeg');
    expect(Buffer.from(await r.arrayBuffer()).equals(p)).toBe(true);
  });
  test.each<[string, () => Buffer, string, RegExp]>([
    ['a text', () => Buffer.from('hello'), 'text/plain', /Only JPEG and PNG/],
    ['a page that calls itself a picture', () => Buffer.from('<html>'), 'image/png', /not what its type says/],
    ['a picture with the place it was taken', () => jpeg(segment(0xe1, Buffer.from('Exif\0\0GPS'))), 'image/jpeg', /camera data/],
  ])('refused: %s', async (_what, make, type, message) => {
    const r = await put(tech, make(), type);
    expect(r.status).toBe(422);
    expect(((await r.json()) as { detail: string }).detail).toMatch(message);
  });
  test('refused: over 5 MB, another hash, a viewer', async () => {
    expect((await put(tech, Buffer.concat([START, randomBytes(5 * 1024 * 1024)]))).status).toBe(413);
    expect((await put(tech, jpeg(), 'image/jpeg', '0'.repeat(64))).status).toBe(422);
    expect((await put(viewer, jpeg())).status).toBe(403);
  });
  test('erased by a lead for good: the bytes go, the hash stays, it does not come back', async () => {
    const p = jpeg();
    await put(tech, p);
    expect((await tech.request('DELETE', `/blobs/${sha(p)}`)).status).toBe(403);
    expect((await lead.request('DELETE', `/blobs/${sha(p)}`)).status).toBe(204);
    expect([(await tech.request('GET', `/blobs/${sha(p)}`)).status, (await put(tech, p)).status]).toEqual([410, 410]);
  });
  test('nobody changes one: the table only lets its bytes be taken away', async () => {
    const p = jpeg();
    await put(tech, p);
    const change = bench.owner.transaction(async (trx) => {
      await trx.raw('select set_config(?, ?, true)', ['gavrel.workshop', WORKSHOP]);
      return trx('blobs')
        .where('sha256', sha(p))
        .update({ bytes: Buffer.from('other') });
    });
    await expect(change).rejects.toThrow(/only ever erased/);
    expect((await tech.request('GET', `/blobs/${sha(p)}`)).status).toBe(200);
  });
});

test('an owner is written, mended and erased, and never part of the log', async () => {
  const id = v4();
  const write = (name: string) => tech.request('PUT', `/owners/${id}`, { name, contact: 'by the red crane' });
  await write('Bo Lindqvar');
  await write('Bo Lindqvarre');
  expect(await tech.get(`/owners/${id}`)).toEqual({ id, name: 'Bo Lindqvarre', contact: 'by the red crane' });
  const job = v4();
  const [linked] = await tech.append([tech.entry('owner-linked', [`job:${job}`], { owner: id, of: 'both' })]);
  expect(linked!.status).toBe('accepted');
  expect(JSON.stringify(await tech.get('/entries?after=0'))).not.toContain('Lindqvar');
  expect((await tech.request('DELETE', `/owners/${id}`)).status).toBe(403);
  expect((await lead.request('DELETE', `/owners/${id}`)).status).toBe(204);
  expect((await tech.request('GET', `/owners/${id}`)).status).toBe(404);
  expect((await tech.request('PUT', `/owners/${id}`, { name: '', contact: '' })).status).toBe(422);
});
