import type { Person } from '@gavrel/contract';
import {
  type Bodies,
  type Condition,
  condition,
  DEFAULT_POLICY,
  foldPack,
  isHazard,
  type Kind,
  type LoggedEntry,
  type Subject,
  taggedId,
  upcast,
  DAY_MS,
} from '@gavrel/core';
import { addPerson, connect, type DatabaseUrls, fillLog, inWorkshop, migrate, rebuild } from '@gavrel/server';
import { Writer } from '@gavrel/server/writer';
import type { Knex } from 'knex';
import { v4, v5 } from 'uuid';
import { atRate, BENCH_WORKSHOP as WORKSHOP, make, percentile, signedIn } from './bench-parts';
import { numberOption, seeded } from './common';
import { type Cluster, freePort, makeDatabase } from './postgres';
import { ServerProcess } from './server-process';

const PASS = 'only measured';
const YEARS = 3;
const PLACES = 40;
const ALL = ['shape', 'smell', 'heat', 'wet', 'mechanical', 'electrical'] as const;

const packOf = (n: number): Subject => `pack:${taggedId(WORKSHOP, 'pack', `L-${n}`)}`;
const placeOf = (n: number): Subject => `place:${taggedId(WORKSHOP, 'place', `Place ${n}`)}`;
const typeCode = (n: number) => `MG${14 + (n % 5)}-B${40 + (n % 61)}`;
const volt = (v: number) => ({ digits: v.toFixed(2), unit: 'V' as const });

/** The life of one pack: forty entries over some years, the last look some days ago; one in twelve was once swollen. */
function* lifeOf(n: number, random: () => number, now: number): Generator<[Kind, readonly Subject[], unknown, number]> {
  const s = [packOf(n)];
  const mAh = 3500 + Math.floor(random() * 3000);
  const begin = now - (0.2 + random() * YEARS) * 365 * DAY_MS;
  const end = now - random() * 45 * DAY_MS;
  const at = (k: number) => begin + ((end - begin) * k) / 40;
  yield ['pack-added', s, { tag: `L-${n}`, use: 'spare' }, at(0)];
  const label = {
    chemistry: 'li-ion',
    typeCode: typeCode(n),
    nominalVoltage: { digits: '11.4', unit: 'V' },
    ratedCapacity: { digits: String(mAh), unit: 'mAh' },
    ratedEnergy: { digits: ((11.4 * mAh) / 1000).toFixed(1), unit: 'Wh' },
    limitedChargeVoltage: { digits: '13.05', unit: 'V' },
    energyMarked: true,
    madeOn: '2021',
  };
  yield ['label-read', s, label, at(1)];
  yield ['evidence-stated', s, { typeTested: 'yes' }, at(2)];
  yield ['reading-taken', s, { quantity: 'mass', figure: { digits: '0.24', unit: 'kg' } }, at(3)];
  for (let k = 4; k < 40; k++) {
    switch (k % 6) {
      case 0:
        yield ['moved', [...s, placeOf(Math.floor(random() * PLACES))], {}, at(k)];
        break;
      case 1:
        yield ['looked', s, { groups: [...ALL] }, at(k)];
        break;
      case 2: {
        const cell = 3.6 + random() * 0.4;
        const cells = [0, 0.002, 0.004].map((d) => ({ digits: (cell + d).toFixed(3), unit: 'V' }));
        const capacity = (part: number) => ({ digits: String(Math.floor(mAh * part)), unit: 'mAh' });
        const gauge = {
          designCapacity: capacity(1),
          fullChargeCapacity: capacity(0.9),
          remainingCapacity: capacity(0.3),
          maxError: 2,
        };
        yield ['gauge-read', s, { ...gauge, cellVoltages: cells }, at(k)];
        break;
      }
      case 3:
        yield ['reading-taken', s, { quantity: 'pack-voltage', figure: volt(11 + random()), restMinutes: 200 }, at(k)];
        break;
      case 4: {
        const mm = { digits: (4.95 + random() * 0.1).toFixed(2), unit: 'mm' };
        yield ['reading-taken', s, { quantity: 'thickness', point: 'centre', figure: mm }, at(k)];
        break;
      }
      default:
        if (k === 29 && n % 12 === 0) yield ['finding-recorded', s, { code: 'swollen' }, at(k)];
        else yield ['reading-taken', s, { quantity: 'surface-temperature', figure: { digits: '21.0', unit: '°C' } }, at(k)];
    }
  }
}

/** A job of long ago on a machine of its own, done and closed. */
function* jobOf(n: number, random: () => number, now: number): Generator<[Kind, readonly Subject[], unknown, number]> {
  const job: Subject = `job:${v5(`J-${n}`, WORKSHOP)}`;
  const machine: Subject = `notebook:${taggedId(WORKSHOP, 'notebook', `N-${n}`)}`;
  const begin = now - (0.1 + random() * YEARS) * 365 * DAY_MS;
  yield ['notebook-identified', [machine], { tag: `N-${n}`, plate: 'read', model: typeCode(n) }, begin];
  yield ['job-opened', [job, machine], { complaint: 'lasts twenty minutes' }, begin + 1];
  yield ['intake-noted', [job, machine], { complaint: 'lasts twenty minutes' }, begin + 2];
  yield ['job-closed', [job], {}, begin + DAY_MS];
}

/** Places and packs with whole lives, stored as an import stores them; what follows from them is made by a rebuild. */
async function fill(owner: Knex, packs: number, by: string): Promise<number> {
  const random = seeded(29);
  const now = Date.now();
  let seq = 0;
  const entry = (kind: Kind, subjects: readonly Subject[], body: unknown, at: number): LoggedEntry => {
    const time = new Date(at).toISOString();
    const id = v5(String(++seq), WORKSHOP);
    const parts = { id, v: 1, workshop: WORKSHOP, subjects, kind, at: time, tz: 'UTC', by, device: 'bench' };
    return { ...parts, hazard: isHazard(kind), body, seq, recordedAt: time, effectiveAt: time } as unknown as LoggedEntry;
  };
  let portion: LoggedEntry[] = [];
  const store = async () => {
    await inWorkshop(owner, WORKSHOP, (trx) => fillLog(trx, WORKSHOP, portion, seq));
    portion = [];
  };
  const kinds = [
    ['shelf', ['sound', 'spent']],
    ['quarantine', ['damaged', 'unproven']],
    ['drum', ['spent']],
  ] as const;
  for (let p = 0; p < PLACES; p++) {
    const [kind, holds] = kinds[p % 3]!;
    portion.push(
      entry(
        'place-added',
        [placeOf(p)],
        { name: `Place ${p}`, kind, holds } as Bodies['place-added'],
        now - YEARS * 365 * DAY_MS,
      ),
    );
  }
  for (let n = 0; n < packs; n++) {
    for (const [kind, subjects, body, at] of lifeOf(n, random, now)) portion.push(entry(kind, subjects, body, at));
    if (n % 3 === 0)
      for (const [kind, subjects, body, at] of jobOf(n, random, now)) portion.push(entry(kind, subjects, body, at));
    if (portion.length >= 2000) await store();
  }
  await store();
  return seq;
}

const seconds = async (work: () => Promise<unknown>): Promise<number> => {
  const began = performance.now();
  await work();
  return (performance.now() - began) / 1000;
};

/** What folding and judging a pack from entries in memory costs, s; the reference of a rebuild and a refresh. */
async function inMemory(owner: Knex, some: number): Promise<{ fold: number; judge: number; bytes: number }> {
  const of = async (n: number): Promise<LoggedEntry[]> => {
    const found = (await inWorkshop(owner, WORKSHOP, (trx) =>
      trx('entry_subjects as s')
        .join('entries as e', (on) => on.on('e.workshop_id', 's.workshop_id').on('e.seq', 's.seq'))
        .where({ 's.workshop_id': WORKSHOP, 's.subject': packOf(n) })
        .orderBy('e.seq')
        .select('e.entry', 'e.seq', 'e.recorded_at'),
    )) as { entry: object; seq: string; recorded_at: Date }[];
    return found.map((r) => {
      const at = r.recorded_at.toISOString();
      return upcast({ ...r.entry, seq: Number(r.seq), recordedAt: at, effectiveAt: at } as LoggedEntry);
    });
  };
  const lists: LoggedEntry[][] = [];
  for (let n = 0; n < some; n++) lists.push(await of(n));
  const facts = lists.map((l, n) => foldPack(packOf(n).slice(5), l)!);
  const fold = await seconds(async () => lists.forEach((l, n) => foldPack(packOf(n).slice(5), l)));
  const now = new Date();
  const judge = await seconds(async () => facts.forEach((f): Condition => condition(f, DEFAULT_POLICY, now).condition));
  return { fold: fold / some, judge: judge / some, bytes: JSON.stringify(facts).length / some };
}

const p = (list: readonly number[], q: number) => percentile(list, q).toFixed(1);
const against = (a: readonly number[], b: readonly number[], q: number) =>
  `p${q * 100} ${p(a, q)} ms against ${p(b, q)}, ratio ${(percentile(a, q) / percentile(b, q)).toFixed(2)}`;

/** One size of workshop: lists, search, a midnight and a change of policy, and danger reported meanwhile. */
async function lives(urls: DatabaseUrls, packs: number, say: (line: string) => void): Promise<void> {
  const person: Person = { id: v4(), name: 'Bench', role: 'lead', competent: true };
  const owner = connect(urls.owner, 4);
  await migrate(owner);
  await owner('workshops').insert({ id: WORKSHOP, name: 'Bench', zone: 'UTC' });
  await inWorkshop(owner, WORKSHOP, (trx) => addPerson(trx, WORKSHOP, { ...person, passphrase: PASS }));
  const entries = await fill(owner, packs, person.id);
  await owner.raw('vacuum analyze');
  const before = process.memoryUsage().rss;
  let most = before;
  const watch = setInterval(() => (most = Math.max(most, process.memoryUsage().rss)), 50);
  const rebuilt = await seconds(() => rebuild(owner, { workshop: WORKSHOP, zone: 'UTC', now: new Date() }));
  const memory = await inMemory(owner, 500);
  say(
    `lives:   ${packs} packs, ${entries} entries, ${(memory.bytes / 1000).toFixed(1)} kB of facts a pack: rebuilt in ${rebuilt.toFixed(1)} s, ratio to folding and judging them in memory ${(rebuilt / (packs * (memory.fold + memory.judge))).toFixed(2)}; ${Math.round((most - before) / 1e6)} MB more resident`,
  );
  clearInterval(watch);
  await owner.raw('vacuum analyze');

  // A process of its own, so that what it takes is its own.
  const server = new ServerProcess(urls, await freePort(), null);
  let ask: Awaited<ReturnType<typeof signedIn>>;
  const serve = async () => {
    server.kill();
    await server.start();
    ask = await signedIn(server.port, person.name, PASS);
  };
  const get = async (path: string) => JSON.parse(await ask(path)) as unknown;
  const random = seeded(7);
  const asked = async (times: number, work: () => Promise<unknown>): Promise<number[]> => {
    const out: number[] = [];
    for (let i = 0; i < times; i++) out.push(1000 * (await seconds(work)));
    return out.sort((a, b) => a - b);
  };
  // Danger comes by another server of the workshop: this process.
  const db = connect(urls.app, 4);
  const writer = new Writer(db, { workshop: WORKSHOP, zone: 'UTC' });
  const danger = (rate: number) =>
    atRate(rate, () => {
      const found = make('finding-recorded', [packOf(Math.floor(random() * packs))], { code: 'smoke' }, person.id);
      return writer.append({ person, clockOffset: 0, entries: [found] });
    });
  const page = () => get(`/packs?limit=50&cursor=${Buffer.from(`L-${Math.floor(random() * packs)}\n`).toString('base64url')}`);
  const search = () => get(`/packs?limit=50&search=${typeCode(Math.floor(random() * packs))}`);
  try {
    await serve();
    await asked(50, page);
    const list = await asked(200, page);
    const found = await asked(100, search);
    const due = await asked(20, () => get('/due'));
    say(
      `         an ordinary page of the list: p95 ${p(list, 0.95)} ms; search: p95 ${p(found, 0.95)} ms; all that is due: p95 ${p(due, 0.95)} ms`,
    );
    // Pages are read and danger is reported at the same time, with nothing to judge anew and with it.
    const both = async () => {
      const during = danger(3);
      const lists = await asked(40, page);
      return { lists, late: await during };
    };
    await danger(1);
    const alone = await danger(3);
    const calm = await both();
    say(
      `         danger reported 100 times a second: p99 ${p(alone, 0.99)} ms; with pages read meanwhile: p99 ${p(calm.late, 0.99)} ms, a page p95 ${p(calm.lists, 0.95)} ms`,
    );

    const untilFresh = async () => {
      for (;;) {
        const { stale } = (await get('/packs?limit=1')) as { stale: number };
        if (stale === 0) return;
        await new Promise((r) => setTimeout(r, 200));
      }
    };
    const measured = async (what: string, first: () => Promise<unknown>) => {
      const began = performance.now();
      const once = 1000 * (await seconds(first));
      const { lists, late } = await both();
      await untilFresh();
      const took = (performance.now() - began) / 1000;
      say(
        `         ${what}: the first answer after ${once.toFixed(0)} ms, a page ${against(lists, calm.lists, 0.95)}; danger reported meanwhile ${against(late, calm.late, 0.99)}; all judged anew in ${took.toFixed(1)} s, ratio to judging them in memory ${(took / (packs * memory.judge)).toFixed(2)}`,
      );
    };
    most = server.residentAtMost();
    await inWorkshop(owner, WORKSHOP, (trx) => trx.raw("update pack_daily set good_until = good_until - interval '1 day'"));
    await serve();
    await measured('a new day', page);
    await measured('another policy', () => {
      const set = make('policy-set', [`policy:${WORKSHOP}`], { lookDays: 20 }, person.id);
      return writer.append({ person, clockOffset: 0, entries: [set] });
    });
    most = Math.max(most, server.residentAtMost());
    say(`         the server: ${Math.round(most / 1e6)} MB resident at most`);
  } finally {
    server.kill();
    await db.destroy();
    await owner.destroy();
  }
}

/** Workshops with whole lives, over a midnight and a change of policy. */
export async function livedIn(cluster: Cluster, args: readonly string[], say: (line: string) => void): Promise<void> {
  const most = numberOption(args, 'packs', 10_000);
  for (const packs of [1_000, 10_000, 100_000].filter((n) => n <= Math.max(1_000, most)))
    await lives(makeDatabase(cluster, `gavrel_lives_${packs}`), packs, say);
}
