import { chmodSync, mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import {
  ALL_ROUTES,
  type Bodies,
  condition,
  contradictionsOf,
  DAY_MS,
  DEFAULT_POLICY,
  foldPack,
  type LoggedEntry,
  matrix,
  MODES,
  type PackFacts,
  PLACEMENTS,
  rule,
  statedOf,
  type Subject,
  taggedId,
} from '@gavrel/core';
import { mappingOf, readRows, readTable, ruleRow, writeTable } from '@gavrel/core/batch';
import { HyperFormula } from 'hyperformula';
import { v4, v5 } from 'uuid';
import { growth } from './bench-growth';
import { BENCH_WORKSHOP as WORKSHOP, make } from './bench-parts';
import { livedIn } from './bench-lives';
import { replicas } from './bench-replica';
import { firstLoad, opening, practising, screens } from './bench-screen';
import { scrolling } from './bench-scroll';
import { spread } from './bench-spread';
import { plans } from './bench-plan';
import { places } from './bench-yard';
import { seeded } from './common';
import { makeDatabase, startCluster, stopCluster } from './postgres';

const PACKS = 10_000;
const HOUR_MS = 3_600_000;

/** Ten thousand packs with label, looks, gauge and thickness, as facts. */
function population(): PackFacts[] {
  const random = seeded(11);
  const by = v4();
  return Array.from({ length: PACKS }, (_, i) => {
    const id = taggedId(WORKSHOP, 'pack', `B-${i}`);
    const s: Subject = `pack:${id}`;
    const mAh = 3500 + Math.floor(random() * 3000);
    const left = Math.floor(mAh * (0.1 + random() * 0.5));
    const cell = 3.6 + random() * 0.4;
    const entries = [
      make('pack-added', [s], { tag: `B-${i}`, use: 'removed' }, by),
      make(
        'label-read',
        [s],
        {
          chemistry: 'li-ion',
          nominalVoltage: { digits: '11.4', unit: 'V' },
          ratedCapacity: { digits: String(mAh), unit: 'mAh' },
          ratedEnergy: { digits: ((11.4 * mAh) / 1000).toFixed(1), unit: 'Wh' },
          limitedChargeVoltage: { digits: '13.05', unit: 'V' },
          energyMarked: true,
          madeOn: '2021',
        },
        by,
      ),
      make('looked', [s], { groups: ['shape', 'smell', 'heat', 'wet', 'mechanical', 'electrical'] }, by),
      make(
        'gauge-read',
        [s],
        {
          designCapacity: { digits: String(mAh), unit: 'mAh' },
          fullChargeCapacity: { digits: String(Math.floor(mAh * 0.9)), unit: 'mAh' },
          remainingCapacity: { digits: String(left), unit: 'mAh' },
          cellVoltages: [0, 0.002, 0.004].map((d) => ({ digits: (cell + d).toFixed(3), unit: 'V' as const })),
        },
        by,
      ),
      make('reading-taken', [s], { quantity: 'new-thickness', figure: { digits: '5.00', unit: 'mm' }, source: 'data-sheet' }, by),
      make(
        'reading-taken',
        [s],
        { quantity: 'thickness', point: 'centre', figure: { digits: (4.95 + random() * 0.5).toFixed(2), unit: 'mm' } },
        by,
      ),
      make('evidence-stated', [s], { typeTested: 'yes' }, by),
    ].map((e, k): LoggedEntry => ({ ...e, seq: k + 1, recordedAt: e.at, effectiveAt: e.at }) as LoggedEntry);
    return foldPack(id, entries)!;
  });
}

/** What a spreadsheet can compute of the same: energies, small or not, charge, growth with its whisker, and four words. */
function spreadsheet(all: readonly PackFacts[]): number {
  const rows = all.map((f) => {
    const l = f.labels[0]!.body;
    const g = f.gauges[0]!.body;
    const t = f.readings[1]!.body.figure.digits;
    return [
      Number(l.nominalVoltage!.digits),
      Number(l.ratedCapacity!.digits),
      Number(l.ratedEnergy!.digits),
      Number(g.remainingCapacity!.digits),
      Number(g.fullChargeCapacity!.digits),
      Number(t),
    ];
  });
  const start = performance.now();
  const sheet = rows.map((r, i) => {
    const n = i + 1;
    return [
      ...r,
      `=(A${n}-0.05)*(B${n}-0.5)/1000`,
      `=(A${n}+0.05)*(B${n}+0.5)/1000`,
      `=AND(G${n}<=C${n}+0.05,H${n}>=C${n}-0.05)`,
      `=IF(MAX(C${n},A${n}*B${n}/1000)<=100,"small","over")`,
      `=(100*D${n}/E${n}+5)*E${n}/B${n}`,
      `=100*(F${n}-5)/5`,
      `=200*SQRT((SQRT(0.003^2+0.02^2)/5)^2+(0.0289*F${n}/25)^2)`,
      `=IF(L${n}-M${n}>5,"damaged",IF(L${n}+M${n}<=5,"sound","unproven"))`,
      `=IF(N${n}="damaged","as damaged",IF(N${n}="sound",IF(J${n}="small","SP188","P903"),"hold"))`,
      `=IF(N${n}="damaged","no",IF(N${n}="sound",IF(K${n}<=30,"PI965-IB","A331"),"hold"))`,
    ];
  });
  const hf = HyperFormula.buildFromArray(sheet, { licenseKey: 'gpl-v3' });
  const last = hf.getCellValue({ sheet: 0, row: rows.length - 1, col: 15 });
  if (typeof last !== 'string') throw new Error('the spreadsheet did not compute');
  hf.destroy();
  return performance.now() - start;
}

async function rulings(say: (line: string) => void): Promise<void> {
  const all = population();
  const now = new Date();
  const on = now.toISOString().slice(0, 10);
  for (const f of all.slice(0, 500)) rule(f, DEFAULT_POLICY, now, on);
  const start = performance.now();
  const seen = new Map<string, number>();
  for (const f of all) {
    const { condition } = rule(f, DEFAULT_POLICY, now, on).judgement;
    seen.set(condition, (seen.get(condition) ?? 0) + 1);
  }
  const ours = performance.now() - start;
  const some = all.slice(0, 2000).map((f) => rule(f, DEFAULT_POLICY, now, on).shipping);
  const before = performance.now();
  for (const s of some) matrix(s, on, { routes: ALL_ROUTES });
  const full = (performance.now() - before) / some.length;
  const stated = all.slice(0, 2000).map((f) => statedOf(rule(f, DEFAULT_POLICY, now, on).shipping));
  for (const s of stated) contradictionsOf(s);
  const asked = performance.now();
  for (const s of stated) contradictionsOf(s);
  const coherence = (performance.now() - asked) / stated.length;
  const theirs = spreadsheet(all);
  say(
    `rulings: ${PACKS} packs x 12 routes with reasons in ${(ours / 1000).toFixed(2)} s, ${Math.round(PACKS / (ours / 1000))} rulings/s on one core (${[...seen].map(([c, n]) => `${n} ${c}`).join(', ')})`,
  );
  say(`         spreadsheet engine, 10 formulas a pack, 2 routes, no reasons: ${(theirs / 1000).toFixed(2)} s`);
  say(
    `         every mode side by side (${ALL_ROUTES.length} routes): ${Math.round(1000 / full)} packs/s, ratio to the spreadsheet's 2 routes per route ${(full / ALL_ROUTES.length / (theirs / PACKS / 2)).toFixed(2)}`,
  );
  say(`         whether the facts agree costs ${((100 * coherence) / (ours / PACKS)).toFixed(1)} % of a ruling`);
  say(
    `         ratio ours / spreadsheet for all: ${(ours / theirs).toFixed(2)}; per route: ${(ours / 12 / (theirs / 2)).toFixed(2)}`,
  );
}

/** One pack with many sets of cell voltages, pack volts and temperatures: what its condition costs grows as the record does. */
function longRecords(say: (line: string) => void): void {
  const sizes = [100, 400, 1600];
  const by = v4();
  const id = taggedId(WORKSHOP, 'pack', 'LONG');
  const s: Subject = `pack:${id}`;
  const began = Date.now() - 400 * DAY_MS;
  const factsOf = (n: number): PackFacts => {
    const read = (body: Bodies['reading-taken']) => make('reading-taken', [s], body, by);
    const label = { chemistry: 'li-ion', nominalVoltage: { digits: '11.4', unit: 'V' } } as const;
    const entries = [
      make('pack-added', [s], { tag: 'LONG', use: 'removed' }, by),
      make('label-read', [s], label, by),
      ...Array.from({ length: n }, (_, i) => [
        ...['1', '2', '3'].map((point) =>
          read({
            quantity: 'cell-voltage',
            point,
            figure: { digits: '3.750', unit: 'V' },
            set: { id: v5(`${i}`, WORKSHOP), of: 3 },
          }),
        ),
        read({ quantity: 'pack-voltage', figure: { digits: '11.250', unit: 'V' }, restMinutes: 200 }),
        read({ quantity: 'surface-temperature', figure: { digits: '21.0', unit: '°C' } }),
        read({ quantity: 'room-temperature', figure: { digits: '20.0', unit: '°C' } }),
      ]).flat(),
    ];
    return foldPack(
      id,
      entries.map((e, k): LoggedEntry => {
        const at = new Date(began + Math.floor(k / 6) * 6 * HOUR_MS).toISOString();
        return { ...e, at, seq: k + 1, recordedAt: at, effectiveAt: at } as LoggedEntry;
      }),
    )!;
  };
  const now = new Date();
  const cost = (n: number): number => {
    const facts = factsOf(n);
    const start = performance.now();
    condition(facts, DEFAULT_POLICY, now);
    return performance.now() - start;
  };
  cost(sizes[0]!);
  const times = sizes.map(cost);
  const slope = Math.log(times[2]! / times[0]!) / Math.log(sizes[2]! / sizes[0]!);
  say(
    `records: condition of one pack with ${sizes.map((n, i) => `${6 * n} readings ${times[i]!.toFixed(0)} ms`).join(', ')}; grows with the power ${slope.toFixed(2)} of them`,
  );
}

/** A table as people send it, with packs of every condition and route. */
function tableText(rows: number): string {
  const random = seeded(31);
  const pick = <T>(list: readonly T[]): T => list[Math.floor(random() * list.length)]!;
  const head =
    'tag;chemistry;series;parallel;nominalVoltage;ratedCapacity;ratedEnergy;energyMarked;madeOn;typeTested;findings;stateOfCharge;placement;mass;package.packs;mode;region;on';
  const lines = Array.from({ length: rows }, (_, i) => {
    const mAh = 3500 + Math.floor(random() * 3000);
    const wh = ((11.4 * mAh) / 1000).toFixed(1);
    return `B-${i};li-ion;3;1;11,4;${mAh} mAh;${wh};yes;2021-05;yes;${pick(['none', '', 'swollen'])};${Math.floor(random() * 80)};${pick(PLACEMENTS)};270 g;${1 + Math.floor(random() * 40)};${pick(MODES)};${pick(['eu', 'us'])};2026-11-24`;
  });
  return [head, ...lines].join('\n');
}

/** From the text of a table to the text of its results. */
function throughTable(text: string): number {
  const start = performance.now();
  const table = readTable(text);
  const out = writeTable(readRows(table, mappingOf(table.headings), '2026-11-24').map(ruleRow));
  if (out.length < text.length / 4) throw new Error('the table did not come through');
  return performance.now() - start;
}

function tables(say: (line: string) => void): void {
  throughTable(tableText(1000));
  const sizes = [1000, 10_000, 100_000];
  const times = sizes.map((n) => throughTable(tableText(n)));
  const slope = Math.log(times[2]! / times[0]!) / Math.log(sizes[2]! / sizes[0]!);
  const rate = sizes.map((n, i) => `${n} rows ${Math.round(n / (times[i]! / 1000))}/s`).join(', ');
  say(`tables:  from CSV to CSV, one route a row: ${rate}; grows with the power ${slope.toFixed(2)} of the rows`);
  say(`         ${Math.round(process.memoryUsage().rss / 1_000_000)} MB resident after the largest`);
}

/** Everything as a ratio to something in the same run. */
export async function main(args: readonly string[], say: (line: string) => void): Promise<void> {
  const alone = args.includes('--lives');
  if (!alone) {
    await rulings(say);
    longRecords(say);
    tables(say);
    places(say);
    await plans(say);
    await screens(say);
    await firstLoad(say);
    await opening(say);
    await practising(say);
    await scrolling(say);
  }
  const folder = mkdtempSync(join(tmpdir(), 'gavrel-bench-'));
  chmodSync(folder, 0o755);
  const cluster = await startCluster(join(folder, 'postgres'));
  try {
    await livedIn(cluster, args, say);
    if (alone) return;
    await growth(makeDatabase(cluster, 'gavrel_bench'), say);
    await spread(cluster, say);
    await replicas(cluster, say);
  } finally {
    stopCluster(cluster, 'immediate');
    rmSync(folder, { recursive: true, force: true });
  }
}
