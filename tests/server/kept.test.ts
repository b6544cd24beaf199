import { createHash, randomBytes } from 'node:crypto';
import { crc32, deflateSync, gunzipSync, gzipSync } from 'node:zlib';
import type { KeptResponse } from '@gavrel/contract';
import { inWorkshop, type Running, start } from '@gavrel/server';
import sharp from 'sharp';
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
const put = (c: Client, bytes: Buffer, type = 'image/jpeg', name = sha(bytes)) => c.raw('PUT', `/blobs/${name}`, bytes, type);
const get = async (bytes: Buffer) => Buffer.from(await (await viewer.request('GET', `/blobs/${sha(bytes)}`)).arrayBuffer());

/** A picture nobody sent before. */
const drawn = () => sharp(randomBytes(40 * 20 * 3), { raw: { width: 40, height: 20, channels: 3 } });
const jpeg = () => drawn().jpeg().toBuffer();
const segment = (marker: number, body: string) => {
  const length = body.length + 2;
  return Buffer.concat([Buffer.from([0xff, marker, length >> 8, length & 255]), Buffer.from(body, 'latin1')]);
};
/** Puts bytes behind the first marker of a JPEG. */
const after = async (...more: Buffer[]) => {
  const b = await jpeg();
  return Buffer.concat([b.subarray(0, 2), ...more, b.subarray(2)]);
};
const chunk = (name: string, body: Buffer) => {
  const named = Buffer.concat([Buffer.from(name, 'latin1'), body]);
  const [length, check] = [Buffer.alloc(4), Buffer.alloc(4)];
  length.writeUInt32BE(body.length);
  check.writeUInt32BE(crc32(named));
  return Buffer.concat([length, named, check]);
};

describe('logs', () => {
  const log = (text: string | Buffer) => gzipSync(text);
  const gzip = (b: Buffer, c = tech) => put(c, b, 'application/gzip');
  test('a packed log comes back as it was sent, and is erased like a picture', async () => {
    const b = log('time s,volts\n0,12.4\n10,12.3\n');
    expect([(await gzip(b)).status, (await gzip(b)).status]).toEqual([201, 201]);
    const r = await viewer.request('GET', `/blobs/${sha(b)}`);
    expect(r.headers.get('content-type')).toBe('application/gzip');
    expect(r.headers.get('x-content-type-options')).toBe('nosniff');
    expect(gunzipSync(Buffer.from(await r.arrayBuffer())).toString()).toContain('10,12.3');
    expect((await lead.request('DELETE', `/blobs/${sha(b)}`)).status).toBe(204);
    expect([(await viewer.request('GET', `/blobs/${sha(b)}`)).status, (await gzip(b)).status]).toEqual([410, 410]);
  });
  test.each<[string, () => Buffer, RegExp]>([
    ['what is not packed', () => Buffer.from('time,volts\n0,1\n'), /cannot be unpacked/],
    ['one that was cut', () => log('0,12.4\n'.repeat(2000)).subarray(0, 40), /cannot be unpacked/],
    ['a packed program', () => log(Buffer.from([0x7f, 0x45, 0x4c, 0x46, 0, 1, 2])), /not a text/],
    ['nothing', () => log(''), /empty/],
    ['what unpacks to more than anybody measured', () => log(Buffer.alloc(120_000_000, '1,2\n')), /more than 110 MB/],
  ])('%s is refused with what to do', async (_what, make, words) => {
    const r = await gzip(make());
    expect([r.status, await r.text()]).toEqual([422, expect.stringMatching(words)]);
  });
});

describe('pictures', () => {
  test('stored once under the hash of what was sent, given back as a picture of the same size', async () => {
    const p = await jpeg();
    expect([(await put(tech, p)).status, (await put(tech, p)).status]).toEqual([201, 201]);
    const r = await viewer.request('GET', `/blobs/${sha(p)}`);
    expect(r.headers.get('content-type')).toBe('image/jpeg');
    expect(await sharp(Buffer.from(await r.arrayBuffer())).metadata()).toMatchObject({ width: 40, height: 20 });
  });
  const SECRET = 'N 38.7 W 9.1';
  test.each<[string, string, () => Promise<Buffer>]>([
    [
      'Exif',
      'image/jpeg',
      () =>
        drawn()
          .withExif({ IFD0: { Copyright: SECRET } })
          .jpeg()
          .toBuffer(),
    ],
    ['Exif behind fill bytes', 'image/jpeg', () => after(Buffer.from([0xff, 0xff, 0xff]), segment(0xe1, `Exif\0\0${SECRET}`))],
    ['IPTC', 'image/jpeg', () => after(segment(0xed, `Photoshop 3.0\0${SECRET}`))],
    ['a comment', 'image/jpeg', () => after(segment(0xfe, SECRET))],
    ['what hangs on behind', 'image/jpeg', async () => Buffer.concat([await jpeg(), Buffer.from(SECRET)])],
    [
      'text in a PNG',
      'image/png',
      async () => {
        const b = await drawn().png().toBuffer();
        // Behind the header, which is 33 bytes long.
        return Buffer.concat([b.subarray(0, 33), chunk('tEXt', Buffer.from(`Comment\0${SECRET}`)), b.subarray(33)]);
      },
    ],
  ])('%s goes', async (_what, type, make) => {
    const p = await make();
    expect(p.includes(SECRET)).toBe(true);
    expect((await put(tech, p, type)).status).toBe(201);
    expect((await get(p)).includes(SECRET)).toBe(false);
  });
  /** The head of a PNG that claims any size. */
  const claims = (width: number, height: number) => {
    const head = Buffer.alloc(13);
    head.writeUInt32BE(width, 0);
    head.writeUInt32BE(height, 4);
    head.set([8, 2, 0, 0, 0], 8);
    const [data, end] = [chunk('IDAT', deflateSync(Buffer.alloc(1000))), chunk('IEND', Buffer.alloc(0))];
    return Buffer.concat([Buffer.from('89504e470d0a1a0a', 'hex'), chunk('IHDR', head), data, end]);
  };
  test.each<[string, () => Promise<Buffer> | Buffer, string, RegExp]>([
    ['a text', () => Buffer.from('hello'), 'text/plain', /Only JPEG and PNG/],
    ['a page that calls itself a picture', () => Buffer.from('<html>'), 'image/png', /cannot be read/],
    [
      'a drawing that may run programs',
      () => Buffer.from('<svg xmlns="http://www.w3.org/2000/svg" width="9" height="9"/>'),
      'image/png',
      /not what its type says/,
    ],
    ['another type than it says', jpeg, 'image/png', /not what its type says/],
    ['half a picture', async () => (await jpeg()).subarray(0, 900), 'image/jpeg', /cannot be read/],
    ['one that unpacks to ten gigabytes', () => claims(50_000, 50_000), 'image/png', /50 million pixels/],
  ])('refused: %s', async (_what, make, type, message) => {
    const r = await put(tech, await make(), type);
    expect(r.status).toBe(422);
    expect(((await r.json()) as { detail: string }).detail).toMatch(message);
  });
  test('refused: over 5 MB, another hash, a viewer', async () => {
    expect((await put(tech, randomBytes(5 * 1024 * 1024 + 1))).status).toBe(413);
    expect((await put(tech, await jpeg(), 'image/jpeg', '0'.repeat(64))).status).toBe(422);
    expect((await put(viewer, await jpeg())).status).toBe(403);
  });
  test('no more than the workshop has room for; the lead sees how much', async () => {
    const small = await start({ urls: bench.urls, port: 0, dist: null, logLevel: 'silent', pictureQuota: 10 });
    const c = await Client.signIn(small.port, bench.people.lead);
    const r = await put(c, await jpeg());
    expect([r.status, ((await r.json()) as { title: string }).title]).toEqual([409, expect.stringContaining('no more room')]);
    const { bytes, most } = await c.get<KeptResponse>('/kept');
    expect([bytes > 10, most]).toEqual([true, 10]);
    await small.stop();
    expect((await tech.request('GET', '/kept')).status).toBe(403);
  });
  test('erased by a lead for good: the bytes go, the hash stays, it does not come back', async () => {
    const p = await jpeg();
    await put(tech, p);
    expect((await tech.request('DELETE', `/blobs/${sha(p)}`)).status).toBe(403);
    expect((await lead.request('DELETE', `/blobs/${sha(p)}`)).status).toBe(204);
    expect([(await tech.request('GET', `/blobs/${sha(p)}`)).status, (await put(tech, p)).status]).toEqual([410, 410]);
  });
  test('nobody changes one: the table only lets its bytes be taken away', async () => {
    const p = await jpeg();
    await put(tech, p);
    const change = inWorkshop(bench.owner, WORKSHOP, (trx) =>
      trx('blobs')
        .where('sha256', sha(p))
        .update({ bytes: Buffer.from('other') }),
    );
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
