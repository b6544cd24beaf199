import { spawnSync } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { type Box, capacityOf, type PackKind, plan, type PlanOrder } from '@gavrel/core/plan';
import loadHighs, { type Highs } from 'highs';
import { seeded } from './common';

/** Three boxes of a shipper (invented). */
const BOXES: readonly Box[] = [
  { id: 's', inner: { length: 300, width: 200, height: 150 }, tareKg: 0.3, maxGrossKg: 10, stock: 400, price: 1.2 },
  { id: 'm', inner: { length: 400, width: 300, height: 200 }, tareKg: 0.5, maxGrossKg: 20, stock: 400, price: 1.9 },
  { id: 'l', inner: { length: 600, width: 400, height: 300 }, tareKg: 0.9, maxGrossKg: 30, stock: 200, price: 3.1 },
];
const GAP = 5;
const FILL = 0.2;
/** SP 188: gross weight of a package, kg (from memory). */
const GROSS = 30;
const SOLVER_SECONDS = 60;

function order(packs: number, kinds: number, boxes: readonly Box[]): PlanOrder {
  const random = seeded(packs);
  const list = Array.from({ length: kinds }, (_, i): PackKind => {
    const wattHours = 40 + Math.floor(random() * 55);
    return {
      id: `k${i}`,
      count: Math.max(1, Math.round(packs / kinds)),
      outline: {
        length: 150 + Math.floor(random() * 140),
        width: 70 + Math.floor(random() * 60),
        height: 5 + Math.floor(random() * 12),
      },
      facts: {
        chemistry: 'li-ion',
        series: 3,
        parallel: 1,
        nominalVoltage: 11.4,
        ratedEnergy: wattHours,
        energyMarked: true,
        madeOn: '2021',
        typeTested: 'yes',
        findings: [],
        conditionKnown: true,
        placement: 'loose',
        purpose: 'use',
        // 140 to 230 Wh a kg, as such packs have.
        mass: Math.round((wattHours / (140 + random() * 90)) * 1000) / 1000,
      },
    };
  });
  const route = { mode: 'road', region: 'eu', on: '2026-11-27' } as const;
  return { kinds: list, boxes, route, gapMm: GAP, fillKgPerBox: FILL, price: { perPackage: 4, perKg: 0.6 } };
}

/** What a package costs beside the packs in it; the package itself counts more than any price. */
const PACKAGE = 1000;
const boxCost = (o: PlanOrder, b: Box): number => b.price + o.price.perKg * b.tareKg;

/** Fewest packages, then the lowest price, as an integer programme for general solvers. @param bins of each box. */
function programme(o: PlanOrder, bins: number): string {
  const all = o.boxes.flatMap((b) => Array.from({ length: bins }, (_, j) => ({ b, y: `y_${b.id}_${j}` })));
  const x = (k: number, y: string) => `x${k}_${y}`;
  const sum = (terms: readonly string[]) => terms.join('\n + ');
  return [
    'Minimize',
    ` n: ${sum(all.map(({ b, y }) => `${PACKAGE + boxCost(o, b)} ${y}`))}`,
    'Subject To',
    ...o.kinds.map((kind, k) => ` all${k}: ${sum(all.map(({ y }) => x(k, y)))} = ${kind.count}`),
    ...all.flatMap(({ b, y }) => {
      const net = Math.min(GROSS, b.maxGrossKg) - b.tareKg - FILL;
      const share = (kind: PackKind) => 1 / Math.max(0.5, capacityOf(kind.outline, b.inner, GAP));
      return [
        ` kg_${y}: ${sum(o.kinds.map((kind, k) => `${kind.facts.mass} ${x(k, y)}`))} - ${net} ${y} <= 0`,
        ` room_${y}: ${sum(o.kinds.map((kind, k) => `${share(kind)} ${x(k, y)}`))} - 1 ${y} <= 0`,
      ];
    }),
    // Equal boxes are used in their order: it is the same plan.
    ...o.boxes.flatMap((b) =>
      Array.from({ length: bins - 1 }, (_, j) => ` next_${b.id}_${j + 1}: y_${b.id}_${j + 1} - y_${b.id}_${j} <= 0`),
    ),
    'Binary',
    ...all.map(({ y }) => ` ${y}`),
    'General',
    ...o.kinds.flatMap((_, k) => all.map(({ y }) => ` ${x(k, y)}`)),
    'End',
  ].join('\n');
}

/** The least that boxes and packages cost, null where it did not close in time, and how long it took, ms. */
interface Found {
  readonly value: number | null;
  readonly ms: number;
}

/** By GLPK (Debian's glpk-utils). */
function byGlpk(lines: string): Found {
  const folder = mkdtempSync(join(tmpdir(), 'gavrel-bench-plan-'));
  try {
    const [lp, out] = [join(folder, 'plan.lp'), join(folder, 'plan.txt')];
    writeFileSync(lp, lines);
    const from = performance.now();
    spawnSync('glpsol', ['--lp', lp, '--tmlim', String(SOLVER_SECONDS), '--cuts', '--output', out], { stdio: 'ignore' });
    const ms = performance.now() - from;
    const text = readFileSync(out, 'utf8');
    return { value: /INTEGER OPTIMAL/.test(text) ? Number(/Objective:\s+n = ([\d.e+]+)/.exec(text)![1]) : null, ms };
  } finally {
    rmSync(folder, { recursive: true, force: true });
  }
}

/** By HiGHS (its WebAssembly build), solved again where that takes no longer than a second: the quicker of the two. */
function byHighs(highs: Highs, lines: string): Found {
  const solved = (): Found => {
    const from = performance.now();
    const found = highs.solve(lines, { time_limit: SOLVER_SECONDS, output_flag: false });
    return { value: found.Status === 'Optimal' ? found.ObjectiveValue : null, ms: performance.now() - from };
  };
  const first = solved();
  return first.ms > 1000 ? first : { ...first, ms: Math.min(first.ms, solved().ms) };
}

const timed = (o: PlanOrder) => {
  const from = performance.now();
  const made = plan(o);
  return { made, ms: performance.now() - from };
};

/** Plans made again of the same order, and the middle one of their times, ms: what a program takes that plans all day. */
const AGAIN = 9;
const timedAgain = (o: PlanOrder): number => {
  const times = Float64Array.from({ length: AGAIN }, () => timed(o).ms).sort();
  return times[(AGAIN - 1) / 2]!;
};

/** Packages planned, against two general solvers on the same instances with the same aims, and how it grows. */
export async function plans(say: (line: string) => void): Promise<void> {
  const highs = await loadHighs();
  timed(order(20, 5, BOXES));
  for (const [packs, kinds, sorts] of [
    [24, 3, 2],
    [60, 4, 2],
    [240, 6, 2],
    [300, 12, 3],
    [600, 20, 3],
  ] as const) {
    const o = order(packs, kinds, BOXES.slice(0, sorts));
    const { made, ms } = timed(o);
    const again = timedAgain(o);
    const boxOf = (id: string) => o.boxes.find((b) => b.id === id)!;
    const ours = made.packages.reduce((sum, p) => sum + PACKAGE + boxCost(o, boxOf(p.box)), 0);
    const lines = programme(o, made.count + 1);
    const told = [
      ['GLPK', byGlpk(lines)],
      ['HiGHS', byHighs(highs, lines)],
    ] as const;
    const against = told.map(([name, f]) =>
      f.value === null
        ? `${name} did not close in ${SOLVER_SECONDS} s`
        : `${name} ${f.value.toFixed(2)} in ${f.ms.toFixed(0)} ms, ratio ${(f.ms / ms).toFixed(1)} (${(f.ms / again).toFixed(0)})`,
    );
    say(
      `plans:   ${packs} packs of ${kinds} kinds, ${sorts} boxes: ${ours.toFixed(2)}, ${made.count} packages (bound ${made.bound.count}${made.proved ? ', proved' : ''}) in ${ms.toFixed(0)} ms, again in ${again.toFixed(1)} ms; ${against.join('; ')}`,
    );
  }
  const sizes = [10, 30, 100, 300, 1000, 3000];
  const runs = sizes.map((n) => timed(order(n, Math.min(30, n), BOXES)));
  for (const [i, { made, ms }] of runs.entries()) {
    const gap = (100 * (made.price - made.bound.price)) / made.bound.price;
    say(
      `         ${sizes[i]} packs: ${made.count} packages, bound ${made.bound.count}, price ${gap.toFixed(2)} % over its bound, ${ms.toFixed(0)} ms`,
    );
  }
  const slope = Math.log(runs[5]!.ms / runs[1]!.ms) / Math.log(sizes[5]! / sizes[1]!);
  say(`         grows with the power ${slope.toFixed(2)} of the packs, from ${sizes[1]} to ${sizes[5]}`);
}
