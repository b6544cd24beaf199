import fc from 'fast-check';
import { foldPack } from '../logbook/fold';
import { entry, PACK, soundPack } from '../logbook/testing';
import { measureLog } from './measure';
import { readLog } from './read';
import { logBody, logTrend, outward } from './record';

test('an interval written with fewer digits is never narrower, and hardly wider', () => {
  const number = fc.double({ min: -1e4, max: 1e4, noNaN: true });
  fc.assert(
    fc.property(number, number, (a, b) => {
      const [lo, hi] = [Math.min(a, b), Math.max(a, b)];
      const out = outward({ lo, hi });
      expect(out.lo).toBeLessThanOrEqual(lo);
      expect(out.hi).toBeGreaterThanOrEqual(hi);
      expect(lo - out.lo).toBeLessThanOrEqual(2e-4 * Math.abs(lo) + 1e-11);
      expect(out.hi - hi).toBeLessThanOrEqual(2e-4 * Math.abs(hi) + 1e-11);
    }),
  );
  expect(outward({ lo: 0, hi: 0 })).toEqual({ lo: 0, hi: 0 });
});

/** A discharge at one current, a row every ten seconds. */
const csv = (amperes: number, rows = 361) =>
  [
    'time s,voltage V,current A',
    ...Array.from({ length: rows }, (_, i) => `${i * 10},${(12.4 - i * 0.006).toFixed(3)},${amperes}`),
  ].join('\n');
const body = (amperes: number, sha: string) =>
  logBody(measureLog(readLog(csv(amperes)), { ampereHours: 5 }, 3), sha.repeat(64), null);

test('a log on the record: its figures hold the truth, the same file counts once, and no condition or route changes', () => {
  const one = body(2, 'a');
  // Constant current through an hour: two ampere-hours.
  expect(one.charge.lo).toBeLessThanOrEqual(2);
  expect(one.charge.hi).toBeGreaterThanOrEqual(2);
  expect(one).not.toHaveProperty('file');
  const all = soundPack();
  const before = foldPack(PACK, all)!;
  const logs = [
    entry('log-measured', one, { minutes: 20 }),
    entry('log-measured', one, { minutes: 21 }),
    entry('log-measured', body(1, 'b'), { minutes: 22 }),
  ];
  const { logs: kept, ...after } = foldPack(PACK, [...all, ...logs])!;
  expect(kept!.map((l) => l.body.sha256[0])).toEqual(['a', 'b']);
  expect({ ...after, entries: 0, lastAt: '', unsent: 0 }).toEqual({ ...before, entries: 0, lastAt: '', unsent: 0 });
  expect(before).not.toHaveProperty('logs');
});

test('over the years: by when a log ran, else by when it was kept; a figure that a log lacks is no point', () => {
  const said = (at: string, to?: string, resistance?: { lo: number; hi: number }) => ({
    at,
    body: { ...body(2, 'a'), ...(to && { from: to, to }), ...(resistance && { resistance }) },
  });
  const logs = [
    said('2026-03-01T00:00:00.000Z', '2022-01-01T00:00:00.000Z', { lo: 0.2, hi: 0.3 }),
    said('2025-01-01T00:00:00.000Z'),
    said('2024-01-01T00:00:00.000Z', undefined, { lo: 0.1, hi: 0.2 }),
  ];
  expect(logTrend(logs, 'charge').map((p) => p.at.slice(0, 4))).toEqual(['2022', '2024', '2025']);
  expect(logTrend(logs, 'resistance').map((p) => p.value)).toEqual([0.25, expect.closeTo(0.15, 9)]);
  for (const p of logTrend(logs, 'charge')) expect(p.lo <= p.value && p.value <= p.hi).toBe(true);
});
