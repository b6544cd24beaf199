import fc from 'fast-check';
import type { InstrumentWire } from '../formats/instrument-line';
import type { Ruling } from '../ruling/ruling';
import { voltsAt } from '../cell/curve';
import { randomOf } from '../practice/random';
import { atRest, CELL, cellsUnder, drawn, SimulatedLoad } from '../practice/under-load';
import { fullyCharged, packWith, type TruePack } from '../practice/world';
import {
  BENCH,
  benchCsv,
  benchHours,
  type BenchOrder,
  benchRefusals,
  type BenchRow,
  orderTroubles,
  runBenchTest,
  usualOrder,
} from './bench-test';
import { measureLog } from './measure';
import { readLog } from './read';

const full = (seed: number): TruePack => fullyCharged(packWith([], randomOf(seed)));
const orderOf = (p: TruePack): BenchOrder => ({
  amperes: Math.floor(p.ratedMah * BENCH.usualRate) / 1000,
  cutOff: p.series * BENCH.cutOff.usual,
  series: p.series,
});

/** A load on a wire whose clock is turned by the pauses alone. @param spoil what becomes of an answer. */
function bench(p: TruePack, spoil: (question: string, answer: string | null, n: number) => string | null = (_q, a) => a) {
  let ms = 0;
  const load = new SimulatedLoad(p, randomOf(7), () => ms / 1000);
  const sent: string[] = [];
  let answers: (string | null)[] = [];
  const wire: InstrumentWire = {
    send: (text) => {
      const question = text.trim();
      sent.push(question);
      const said = load.answer(question);
      if (question.endsWith('?')) answers.push(spoil(question, said, sent.length));
    },
    next: async () => {
      const [line = null, ...rest] = answers;
      answers = rest;
      if (line === null) ms += 3000;
      return line;
    },
    // Hours pass quickly: ten seconds between two rows.
    pause: async (x) => void (ms += x * 10),
    clock: () => ms,
  };
  const rows: BenchRow[] = [];
  const run = (o = orderOf(p), stop: () => string | null = () => null) => runBenchTest(wire, o, (r) => rows.push(r), stop);
  return { load, sent, rows, run, wait: (s: number) => (ms += s * 1000) };
}

test('a whole test finds the capacity that the simulated pack truly has, and leaves the load off', async () => {
  await fc.assert(
    fc.asyncProperty(fc.integer({ min: 1, max: 1e6 }), async (seed) => {
      const p = full(seed);
      const b = bench(p);
      expect(await b.run()).toEqual({ whole: true, off: true, words: expect.stringMatching(/^Down to/) });
      expect(b.load.isOn()).toBe(false);
      const found = measureLog(
        readLog(benchCsv(b.rows, '2026-11-28T10:00:00.000Z')),
        { ampereHours: p.ratedMah / 1000 },
        p.series,
      );
      expect(found).toMatchObject({ gaps: 0, isCharge: false, from: '2026-11-28T10:00:00.000Z' });
      // What flowed, by a second way: the charge that is gone from the cells.
      const left = drawnTo(p, found.meanAmperes, orderOf(p).cutOff);
      const truth = (p.ratedMah / 1000) * p.health * (1 - left);
      expect(found.capacityAh.lo).toBeLessThan(truth * 1.005);
      expect(found.capacityAh.hi).toBeGreaterThan(truth * 0.995);
      expect(found.healthPercent!.hi).toBeGreaterThan(100 * p.health * (1 - left) - 1);
      // Steps of the current tell the resistance: at once, and with what the quick term takes within a row.
      const ohm = (p.series * CELL.ohm * CELL.ah * 1000) / p.ratedMah / p.health;
      expect(found.resistanceOhm!.hi).toBeGreaterThan(ohm * 0.95);
      expect(found.resistanceOhm!.lo).toBeLessThan(ohm * 1.8);
    }),
    { numRuns: 12 },
  );
});

/** Part of the full charge left at which the volts under a steady current are those of the cut-off, by halving. */
function drawnTo(p: TruePack, amperes: number, cutOff: number): number {
  const steady = { ...drawn(p, atRest(p), amperes, 4000), charges: [] as number[] };
  let [lo, hi] = [-0.2, 1];
  for (let i = 0; i < 40; i++) {
    const mid = (lo + hi) / 2;
    const volts = cellsUnder(p, { ...steady, charges: p.cells.map(() => 100 * mid) }, amperes).reduce((a, b) => a + b, 0);
    if (volts > cutOff) hi = mid;
    else lo = mid;
  }
  return hi;
}

test('a simulated pack gives what it loses: charge to the last, and energy but for its own heat', () => {
  const p = full(3);
  let [s, wattSeconds, lost] = [atRest(p), 0, 0];
  for (let i = 0; i < 3600; i++) {
    const before = cellsUnder(p, s, 1).reduce((a, b) => a + b, 0);
    const source = s.charges.reduce((sum, c) => sum + voltsAt(p.curve, c), 0);
    s = drawn(p, s, 1, 1);
    wattSeconds += before;
    lost += source - before;
  }
  expect(100 - s.charges[0]!).toBeCloseTo((100 * 3600) / ((p.ratedMah / 1000) * p.health * 3600), 6);
  const rest = { ...s, heldBack: [0, 0] as const };
  const source = [atRest(p), rest].map((x) => cellsUnder(p, x, 0).reduce((a, b) => a + b, 0));
  expect(wattSeconds + lost).toBeLessThan(source[0]! * 3600);
  expect(wattSeconds + lost).toBeGreaterThan(source[1]! * 3600);
  // After long rest nothing is held back, and the heat has gone into the room.
  const later = drawn(p, s, 0, 36_000);
  expect(Math.max(...later.heldBack)).toBeLessThan(1e-9);
  expect(later.celsius).toBeCloseTo(p.roomC, 3);
});

test.each([
  [
    'silent in the middle',
    (_q: string, a: string | null, n: number) => (n > 300 ? null : a),
    /Stopped: it does not answer.*take the lead off/,
  ],
  [
    'overload',
    (q: string, a: string | null, n: number) => (q === 'MEAS:CURR?' && n > 300 ? '9.9E37' : a),
    /Stopped: it answered "9.9E37"/,
  ],
  [
    'a probe that falls off',
    (q: string, a: string | null, n: number) => (q === 'MEAS:TEMP?' && n > 300 ? '' : a),
    /Stopped: its probe/,
  ],
  [
    'hot',
    (q: string, a: string | null, n: number) => (q === 'MEAS:TEMP?' && n > 300 ? '+4.51E+01' : a),
    /^45 °C on the pack: stopped/,
  ],
  [
    'leads off',
    (q: string, a: string | null, n: number) => (q === 'MEAS:CURR?' && n > 300 ? '0' : a),
    /protection opened, or a lead/,
  ],
] as const)('%s: it is told to switch off, and the words say what to do', async (_name, spoil, words) => {
  const b = bench(full(2), spoil);
  const end = await b.run();
  expect(end.whole).toBe(false);
  expect(end.words).toMatch(words);
  expect(b.sent.lastIndexOf('INP OFF')).toBeGreaterThan(b.sent.lastIndexOf('INP ON'));
  b.wait(BENCH.loadWaits + 1);
  expect(b.load.isOn()).toBe(false);
});

test.each([
  ['on already', (q: string, a: string | null) => (q === 'INP?' ? '1' : a), /on already/],
  ['no time-out of its own', (q: string, a: string | null) => (q === 'SYST:ERR?' ? '-113,"Undefined header"' : a), /no time-out/],
  ['the wrong way round', (q: string, a: string | null) => (q === 'MEAS:VOLT?' ? '-1.2E+01' : a), /wrong way round/],
  ['nothing on its leads', (q: string, a: string | null) => (q === 'MEAS:VOLT?' ? '1.0E-03' : a), /are the leads on/],
  ['a larger pack', (q: string, a: string | null) => (q === 'MEAS:VOLT?' ? '2.52E+01' : a), /another pack/],
  ['hot before it began', (q: string, a: string | null) => (q === 'MEAS:TEMP?' ? '5.0E+01' : a), /50 °C on the pack/],
] as const)('%s: nothing is switched on', async (_name, spoil, words) => {
  const b = bench(full(2), spoil);
  const end = await b.run();
  expect(end).toMatchObject({ whole: false, words: expect.stringMatching(words) });
  expect(end.words).toMatch(/^Not started/);
  expect(b.sent).not.toContain('INP ON');
  // What somebody else switched on stays on.
  expect(b.sent).not.toContain('INP OFF');
});

test('a lead that comes off is no cut-off, though the volts are gone with the current', async () => {
  const b = bench(full(2), (q, a, n) => (n > 300 && /^MEAS:(VOLT|CURR)/.test(q) ? '0.0E+00' : a));
  const end = await b.run();
  expect(end).toMatchObject({ whole: false, off: true, words: expect.stringMatching(/protection opened, or a lead/) });
});

test('a load without a probe is used all the same: it complains of the question, or says nothing to it', async () => {
  for (const none of [null, '', '9.91E37']) {
    const b = bench(full(2), (q, a) => (q === 'MEAS:TEMP?' ? none : a));
    expect(await b.run()).toMatchObject({ whole: true, off: true });
    expect(b.sent.filter((q) => q === 'MEAS:TEMP?')).toHaveLength(1);
    expect(b.rows.every((r) => r.celsius === null)).toBe(true);
    expect(benchCsv(b.rows, '2026-11-28T10:00:00.000Z').split('\n')[0]).toBe('time,voltage V,current A');
  }
});

test('who stops it stops it, and a load that nobody speaks to stops by itself', async () => {
  const b = bench(full(4));
  expect(await b.run(orderOf(full(4)), () => (b.rows.length > 20 ? 'Stopped by Wren.' : null))).toEqual({
    whole: false,
    off: true,
    words: 'Stopped by Wren.',
  });
  expect(b.load.isOn()).toBe(false);
  for (const say of [`INP:TIM ${BENCH.loadWaits}`, 'CURR 1', 'INP ON']) b.load.answer(say);
  b.wait(BENCH.loadWaits - 1);
  expect(b.load.isOn()).toBe(true);
  b.wait(BENCH.loadWaits + 1);
  expect(b.load.isOn()).toBe(false);
});

const ruling = (condition: string, more: { series?: number | undefined; lithium?: boolean; sure?: object } = {}) =>
  ({
    judgement: {
      condition,
      nature: { lithium: more.lithium ?? true },
      label: { sure: more.sure ?? { ratedCapacity: { digits: '4400', unit: 'mAh' } } },
    },
    shipping: { series: 'series' in more ? more.series : 3 },
  }) as unknown as Ruling;

test('no current is drawn from what is dangerous, doubtful or not known', () => {
  for (const condition of ['critical', 'damaged', 'unproven'])
    expect([condition, usualOrder(ruling(condition)), benchRefusals(ruling(condition))]).toEqual([
      condition,
      null,
      [expect.stringContaining(condition)],
    ]);
  for (const r of [ruling('sound', { series: undefined }), ruling('sound', { lithium: false }), ruling('spent', { sure: {} })])
    expect([usualOrder(r), benchRefusals(r).length]).toEqual([null, 1]);
  expect(usualOrder(ruling('sound'))).toEqual({ amperes: 0.88, cutOff: 9, series: 3 });
  expect([benchHours(ruling('sound'), 0.88), benchHours(ruling('sound'), 0.05)]).toEqual([expect.closeTo(5.5, 9), 24]);
  const wattHours = { ratedEnergy: { digits: '50', unit: 'Wh' }, nominalVoltage: { digits: '11.4', unit: 'V' } };
  expect(usualOrder(ruling('spent', { sure: wattHours }))).toEqual({ amperes: 0.87, cutOff: 9, series: 3 });
});

test('an order stays within what the pack is given, its edges included', () => {
  const r = ruling('sound');
  for (const good of [
    { amperes: 2.2, cutOff: 8.4 },
    { amperes: 0.05, cutOff: 10.5 },
  ])
    expect(orderTroubles(r, good)).toEqual([]);
  for (const bad of [
    { amperes: 2.21, cutOff: 9 },
    { amperes: 0, cutOff: 9 },
    { amperes: 0.88, cutOff: 8.39 },
    { amperes: 1, cutOff: NaN },
  ])
    expect(orderTroubles(r, bad)).toHaveLength(1);
});
