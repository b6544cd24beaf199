import fc from 'fast-check';
import { type FadePoint, fadeOutlook, fitFade, healthAt, yearsUntil } from './fade';

/** Five readings of one pack. Expected values by the normal equations, worked apart from this code. */
const SEEN: readonly FadePoint[] = [
  { years: 0.5, cycles: 80, health: 0.957 },
  { years: 1, cycles: 170, health: 0.933 },
  { years: 1.5, cycles: 250, health: 0.914 },
  { years: 2, cycles: 340, health: 0.895 },
  { years: 3, cycles: 500, health: 0.862 },
];

test('plain least squares: both figures, the residual and their correlation', () => {
  const f = fitFade(SEEN, null);
  expect(f.a).toBeCloseTo(0.048432, 6);
  expect(f.b).toBeCloseTo(1.0789e-4, 8);
  expect(f.sigma).toBeCloseTo(2.64e-4, 6);
  expect(f.ab / Math.sqrt(f.aa * f.bb)).toBeCloseTo(-0.976, 3);
});

test('drawn towards what is usual: an honest uncertainty instead of the residual of smooth points', () => {
  const f = fitFade(SEEN);
  expect([f.a, f.b * 1e3]).toEqual([expect.closeTo(0.042042, 4), expect.closeTo(0.13415, 3)]);
  expect([Math.sqrt(f.aa), Math.sqrt(f.bb) * 1e5]).toEqual([expect.closeTo(0.01127, 4), expect.closeTo(4.71, 1)]);
  const at4 = healthAt(f, 4, 4 * 166.7);
  expect([at4.health, at4.u]).toEqual([expect.closeTo(0.8265, 3), expect.closeTo(0.0121, 3)]);
  const at80 = yearsUntil(f, 0.8, 166.7)!;
  expect([at80.years, at80.u]).toEqual([expect.closeTo(4.818, 2), expect.closeTo(0.506, 2)]);
});

test('what says too little tells nothing, and why', () => {
  const why = (points: readonly FadePoint[]) => {
    const o = fadeOutlook(points);
    return o.kind === 'refused' ? o.words : 'told';
  };
  expect(why(SEEN.slice(0, 3))).toMatch(/4 gauge readings/);
  expect(why(SEEN.map((p) => ({ ...p, years: p.years / 10 })))).toMatch(/half a year/);
  expect(why(SEEN.map((p) => ({ ...p, health: 0.95 })))).toMatch(/less than a gauge can tell/);
  expect(why(SEEN.map((p) => ({ ...p, health: p.health - 0.2 })))).toMatch(/below 70 %/);
  expect(why([])).toMatch(/4 gauge/);
  expect(why(SEEN)).toBe('told');
  // Read twice at one moment, it is told as if it had been read once more, not from a year of no length.
  expect(fadeOutlook([...SEEN, SEEN[4]!])).toMatchObject({ kind: 'told', then: { lo: expect.closeTo(0.78, 1) as number } });
  expect(why(SEEN.map((p) => ({ ...p, health: p.health - 0.155 })))).toMatch(/within months/);
  expect(() => fitFade(SEEN.slice(0, 2))).toThrow(RangeError);
  expect(() => fitFade([SEEN[0]!, SEEN[0]!, SEEN[0]!], null)).toThrow(RangeError);
});

test('it never looks further ahead than was looked back, and its interval holds the true course of eight of ten packs', () => {
  let [told, held] = [0, 0];
  fc.assert(
    fc.property(
      fc.double({ min: 0.02, max: 0.06, noNaN: true }),
      fc.double({ min: 0.5e-4, max: 2.5e-4, noNaN: true }),
      fc.integer({ min: 60, max: 300 }),
      fc.array(fc.double({ min: -1, max: 1, noNaN: true }), { minLength: 6, maxLength: 6 }),
      (a, b, rate, noise) => {
        const health = (t: number) => 1 - a * Math.sqrt(t) - b * rate * t;
        const points = [0.4, 0.8, 1.2, 1.6, 2, 2.4].map((years, i) => ({
          years,
          cycles: rate * years,
          health: health(years) + 0.008 * noise[i]!,
        }));
        const o = fadeOutlook(points);
        if (o.kind === 'refused') return;
        expect(o.ahead).toBeLessThanOrEqual(2 + 1e-9);
        expect(o.then.lo).toBeGreaterThanOrEqual(0.7 - 1e-9);
        // Shorter than was looked back only because of what may lie below.
        if (o.ahead < 2 - 1e-9) expect(o.then.lo).toBeCloseTo(0.7, 4);
        if (o.years) expect(o.years.hi).toBeLessThanOrEqual(o.ahead + 1e-9);
        told += 1;
        const then = health(2.4 + o.ahead);
        if (then >= o.then.lo && then <= o.then.hi) held += 1;
      },
    ),
    { numRuns: 400 },
  );
  expect(told).toBeGreaterThan(100);
  expect(held / told).toBeGreaterThan(0.75);
});
