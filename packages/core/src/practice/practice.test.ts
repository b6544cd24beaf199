import fc from 'fast-check';
import { foldPack } from '../logbook/fold';
import { both, judgePacks } from './judged';
import { type ACTS, measured, SIMULATED_PACK } from './measure';
import { randomOf } from './random';
import { simulate } from './world';

const START = Date.parse('2026-11-01T08:00:00.000Z');

test('no dangerous pack ends sound when everything was done; most of those with nothing wrong do', () => {
  const t = judgePacks(20_261_127, 2500);
  expect(t.missed).toEqual({});
  expect(t.harmful.sound ?? 0).toBe(0);
  expect(t.dangerous).toBeGreaterThan(600);
  expect((t.harmless.sound ?? 0) / (t.packs - t.dangerous)).toBeGreaterThan(0.9);
  // An interval of 95 % holds the truth at least that often.
  expect(t.intervals).toBeGreaterThan(500);
  expect(t.covered / t.intervals).toBeGreaterThanOrEqual(0.95);
});

test('what finds a danger is needed: without it some of them end sound, and never more than with nothing left out', () => {
  const without = (act: (typeof ACTS)[number]) => judgePacks(5, 400, new Set([act]));
  // Who looks at nothing, or reads no voltage, is told that it is unproven.
  expect([without('look'), without('cells')].map((t) => t.harmful.sound ?? 0)).toEqual([0, 0]);
  expect(Object.keys(without('temperature').missed)).toContain('hot');
});

test('the same seed is the same pack and the same log, and a longer run holds the shorter one', () => {
  fc.assert(
    fc.property(fc.integer({ min: 0, max: 2 ** 31 }), (seed) => {
      const once = () => {
        const r = randomOf(seed);
        const p = simulate(r);
        return { p, log: measured(p, new Set(), r, START) };
      };
      const [a, b] = [once(), once()];
      expect(a).toEqual(b);
      expect(a.log.entries.every((e) => Date.parse(e.at) < a.log.now)).toBe(true);
      expect(foldPack(SIMULATED_PACK, a.log.entries)).not.toBeNull();
    }),
    { numRuns: 50 },
  );
  const [first, rest] = [judgePacks(7, 60), judgePacks(67, 40)];
  expect(both(first, rest)).toEqual(judgePacks(7, 100));
});

test('random numbers are even, and normal ones have their spread', () => {
  const r = randomOf(3);
  const n = 20_000;
  const units = Array.from({ length: n }, r.unit);
  const normals = Array.from({ length: n }, () => r.normal(2));
  expect(units.reduce((a, b) => a + b, 0) / n).toBeCloseTo(0.5, 1);
  expect(Math.sqrt(normals.reduce((a, b) => a + b * b, 0) / n)).toBeCloseTo(2, 1);
});
