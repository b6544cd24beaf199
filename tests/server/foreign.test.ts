import { spawnSync } from 'node:child_process';
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { type Subject, taggedId } from '@gavrel/core';
import { addPerson, connect, type DatabaseUrls, inWorkshop, migrate, rebuild, start } from '@gavrel/server';
import { v4 } from 'uuid';
import { ROOT } from '../../tools/common';
import { makeDatabase, sql } from '../../tools/postgres';
import { readState } from '../../tools/state';
import { type Bench, Client, closeBench, makeBench, PASS, WORKSHOP } from './harness';

let bench: Bench;
beforeAll(async () => {
  bench = await makeBench('foreign');
});
afterAll(() => closeBench(bench));

/** What the command line says, working on a database of one's own choice. */
function gavrel(urls: DatabaseUrls, ...args: readonly string[]): string {
  const env = { ...process.env, DATABASE_URL: urls.owner, DATABASE_APP_URL: urls.app };
  const r = spawnSync(process.execPath, ['--import', 'tsx', 'tools/cli.ts', ...args], { cwd: ROOT, encoding: 'utf8', env });
  return r.stdout + r.stderr;
}

test('a database somebody else runs is enough: an owner without special rights, the role that serves, nothing else', async () => {
  // As docs/operating.md says; the owner has a name of its own and may neither make roles nor read past row security.
  makeDatabase(bench.cluster, 'unused');
  sql(bench.cluster, 'postgres', `create role boss login nosuperuser nocreaterole nobypassrls password 'b0ss'`);
  sql(bench.cluster, 'postgres', 'create database shop owner boss');
  const at = `127.0.0.1:${bench.cluster.port}/shop`;
  const urls = { owner: `postgres://boss:b0ss@${at}`, app: `postgres://gavrel_app:${bench.cluster.passwords.app}@${at}` };
  const [first, again] = [join(bench.folder, 'first.jsonl'), join(bench.folder, 'again.jsonl')] as const;
  const owner = connect(urls.owner, 2);
  await migrate(owner);
  const lead = { id: v4(), name: 'Fay Far', role: 'lead' as const, competent: true };
  await owner('workshops').insert({ id: WORKSHOP, name: 'Far bench', zone: 'UTC' });
  await inWorkshop(owner, WORKSHOP, (trx) => addPerson(trx, WORKSHOP, { ...lead, passphrase: PASS }));

  const servers = [0, 1].map(() => start({ urls, port: 0, dist: null, logLevel: 'silent' }));
  const [one, two] = await Promise.all(servers);
  const here = await Client.signIn(one!.port, lead);
  const there = new Client(`http://127.0.0.1:${two!.port}/api`, lead);
  for (const [k, v] of here.cookies) there.cookies.set(k, v);
  const pack: Subject = `pack:${taggedId(WORKSHOP, 'pack', 'FAR-1')}`;
  const heard = (await there.request('GET', '/news')).body!.getReader();
  await heard.read();
  const entries = [
    here.entry('pack-added', [pack], { tag: 'FAR-1', use: 'removed' }),
    here.entry('finding-recorded', [pack], { code: 'dropped' }),
  ];
  expect((await here.append(entries)).map((r) => r.status)).toEqual(['accepted', 'accepted']);
  expect(new TextDecoder().decode((await heard.read()).value)).toMatch(/"seq":2/);
  expect(await there.get(`/packs/${pack.slice(5)}`)).toMatchObject({ ruling: { judgement: { condition: 'damaged' } } });
  await heard.cancel();
  // What the command line does, it does there too, and nowhere else.
  expect(gavrel(urls, 'export', first)).toMatch(/2 entries written/);
  expect(gavrel(urls, 'export', join(bench.folder, 'none', 'log.jsonl'))).toMatch(/^gavrel: there is no folder .*none: make it/);
  expect(gavrel(urls, 'export', join(first, 'log.jsonl'))).toMatch(/^gavrel: there is no folder .*first\.jsonl: make it/);
  expect(gavrel(urls, 'import', bench.folder)).toMatch(/^gavrel: what was named is a folder/);
  sql(bench.cluster, 'postgres', 'create database second owner boss');
  const second = { owner: urls.owner.replace('/shop', '/second'), app: urls.app.replace('/shop', '/second') };
  const before = readState();
  expect(gavrel(second, 'import', first)).toMatch(/2 entries read/);
  expect(readState()).toEqual(before);
  expect(gavrel(second, 'export', again)).toMatch(/2 entries written/);
  expect(readFileSync(again, 'utf8')).toBe(readFileSync(first, 'utf8'));
  for (const c of [['reset-demo'], ['restore', first]]) expect(gavrel(urls, ...c)).toMatch(/not ours to copy or replace/);
  expect((await rebuild(owner, { workshop: WORKSHOP, zone: 'UTC', now: new Date() })).drift).toEqual([]);
  await Promise.all([one!.stop(), two!.stop()]);
  await owner.destroy();
});
