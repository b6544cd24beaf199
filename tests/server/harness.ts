import { mkdtempSync, rmSync } from 'node:fs';
import { chmodSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { AppendResponse, Person } from '@gavrel/contract';
import { type Bodies, type Entry, isHazard, type Kind, type Subject, taggedId } from '@gavrel/core';
import { addPerson, connect, inWorkshop, migrate, type Running, start } from '@gavrel/server';
import type { Knex } from 'knex';
import { v4, v7 } from 'uuid';
import { type Cluster, makeDatabase, startCluster, stopCluster } from '../../tools/postgres';
import { pair } from './pair';

export const WORKSHOP = '22222222-2222-4222-8222-222222222222';
export const PASS = 'seven quiet herons';

export interface Bench {
  readonly cluster: Cluster;
  readonly urls: { readonly app: string; readonly owner: string };
  readonly owner: Knex;
  readonly people: Record<'lead' | 'tech' | 'second' | 'viewer', Person>;
  readonly folder: string;
}

/** A throwaway cluster with one workshop and four people. */
export async function makeBench(name: string): Promise<Bench> {
  const folder = mkdtempSync(join(tmpdir(), `gavrel-${name}-`));
  chmodSync(folder, 0o755);
  const cluster = await startCluster(join(folder, 'postgres'), { fsync: false });
  const urls = makeDatabase(cluster, 'gavrel_test');
  const owner = connect(urls.owner, 2);
  await migrate(owner);
  await owner('workshops').insert({ id: WORKSHOP, name: 'Test bench', zone: 'Europe/Lisbon' });
  const person = (n: string, role: Person['role'], competent: boolean): Person => ({ id: v4(), name: n, role, competent });
  const people = {
    lead: person('Lea Lead', 'lead', true),
    tech: person('Tim Tech', 'technician', false),
    second: person('Sam Second', 'technician', true),
    viewer: person('Vic View', 'viewer', false),
  };
  await inWorkshop(owner, WORKSHOP, async (trx) => {
    for (const p of Object.values(people)) await addPerson(trx, WORKSHOP, { ...p, passphrase: PASS });
  });
  return { cluster, urls, owner, people, folder };
}

export async function closeBench(b: Bench): Promise<void> {
  await b.owner.destroy();
  stopCluster(b.cluster, 'immediate');
  rmSync(b.folder, { recursive: true, force: true });
}

const serveOne = (b: Bench): Promise<Running> => start({ urls: b.urls, port: 0, dist: null, logLevel: 'silent' });

/** The server; in the project `pair` two of them behind a proxy that alternates between them. */
export const serveBench = async (b: Bench): Promise<Running> =>
  process.env.GAVREL_PAIR ? pair([await serveOne(b), await serveOne(b)]) : serveOne(b);

/** A signed-in client of one server, with the cookies of its device. */
export class Client {
  readonly cookies = new Map<string, string>();
  constructor(
    readonly base: string,
    readonly person: Person,
  ) {}

  /** @param on somebody who signed in on the same device before. */
  static async signIn(port: number, person: Person, passphrase = PASS, on?: Client): Promise<Client> {
    const c = new Client(`http://127.0.0.1:${port}/api`, person);
    const device = on?.cookies.get('gavrel-device');
    if (device) c.cookies.set('gavrel-device', device);
    const r = await c.request('POST', '/session', { name: person.name, passphrase, device: 'test' });
    if (r.status !== 200) throw new Error(`${r.status} ${await r.text()}`);
    return c;
  }

  get cookie(): string {
    return [...this.cookies].map(([k, v]) => `${k}=${v}`).join('; ');
  }

  async request(method: string, path: string, body?: unknown): Promise<Response> {
    const r = await fetch(this.base + path, {
      method,
      headers: { cookie: this.cookie, 'content-type': 'application/json' },
      ...(body !== undefined && { body: typeof body === 'string' ? body : JSON.stringify(body) }),
    });
    for (const set of r.headers.getSetCookie()) {
      const [, name, value] = /^([^=]+)=([^;]*)/.exec(set)!;
      if (value === '') this.cookies.delete(name!);
      else this.cookies.set(name!, value!);
    }
    return r;
  }

  /** Bytes as they are. */
  raw(method: string, path: string, bytes: Buffer, type: string): Promise<Response> {
    return fetch(this.base + path, {
      method,
      headers: { cookie: this.cookie, 'content-type': type },
      body: new Uint8Array(bytes),
    });
  }

  async get<T>(path: string): Promise<T> {
    return (await this.request('GET', path)).json() as Promise<T>;
  }

  async append(entries: readonly unknown[], deviceTime = new Date().toISOString()): Promise<AppendResponse['results']> {
    const r = await this.request('POST', '/entries', { deviceTime, entries });
    if (r.status !== 200) throw new Error(`${r.status} ${await r.text()}`);
    return ((await r.json()) as AppendResponse).results;
  }

  /** An entry of this person, now. */
  entry<K extends Kind>(kind: K, subjects: readonly Subject[], body: Bodies[K], more: Partial<Entry> = {}): Entry {
    return {
      id: v7(),
      v: 1,
      workshop: WORKSHOP,
      subjects,
      kind,
      at: new Date().toISOString(),
      tz: 'Europe/Lisbon',
      by: this.person.id,
      device: 'test',
      hazard: isHazard(kind),
      body,
      ...more,
    } as unknown as Entry;
  }
}

/** A second workshop in the same database: every word in it is the mark, and its pack has the id of ours. */
export async function markedWorkshop(owner: Knex, workshop: string, mark: string): Promise<void> {
  await owner('workshops').insert({ id: workshop, name: mark, zone: 'UTC' });
  await inWorkshop(owner, workshop, async (trx) => {
    await addPerson(trx, workshop, { id: v4(), name: `${mark} Lou`, role: 'lead', competent: true, passphrase: PASS });
    const id = taggedId(WORKSHOP, 'pack', 'HERE');
    const here = { workshop_id: workshop, id };
    await trx('packs').insert({ ...here, facts: { id, tag: mark }, tag: mark, code: mark, folded: mark });
    await trx('pack_daily').insert({
      ...here,
      seq: 0,
      condition: 'sound',
      basis: mark,
      owed: { tag: mark },
    });
    await trx('places').insert({ ...here, facts: { id, name: mark } });
    await trx('jobs').insert({ ...here, facts: { id, complaint: mark } });
    await trx('owners').insert({ ...here, name: mark, contact: mark, by_person: id });
  });
}
