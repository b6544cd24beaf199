import fc from 'fast-check';
import { foldPack } from '../logbook/fold';
import { entry, PACK } from '../logbook/testing';
import { byAge, fadePoints, healthTrend } from './by-age';

const NOW = new Date('2026-11-25T12:00:00Z');
const gauge = (
  full: number,
  day: '2026-11-01' | '2026-11-03' | '2026-11-11' = '2026-11-01',
  design = 5000,
  cycleCount?: number,
) =>
  entry(
    'gauge-read',
    {
      fullChargeCapacity: { digits: String(full), unit: 'mAh' },
      designCapacity: { digits: String(design), unit: 'mAh' },
      ...(cycleCount !== undefined && { cycleCount }),
    },
    { day },
  );
const pack = (madeOn: string | undefined, ...entries: ReturnType<typeof entry>[]) =>
  foldPack(PACK, [
    entry('pack-added', { tag: 'T', use: 'removed' }, { day: '2026-11-01' }),
    ...(madeOn ? [entry('label-read', { madeOn }, { day: '2026-11-01' })] : []),
    ...entries,
  ])!;
const mm = (digits: string, quantity: 'thickness' | 'new-thickness', point?: string) =>
  entry(
    'reading-taken',
    {
      quantity,
      figure: { digits, unit: 'mm' },
      ...(point && { point }),
      ...(quantity === 'new-thickness' && { source: 'data-sheet' as const }),
    },
    { day: '2026-11-03' },
  );

test('health over time, oldest first, each with the error of its gauge; what is not to be trusted is left out', () => {
  const t = healthTrend(pack(undefined, gauge(4000, '2026-11-11'), gauge(4500), gauge(9000, '2026-11-03')));
  expect(t.map((p) => p.value)).toEqual([90, 80]);
  for (const p of t) expect(p.lo < p.value && p.value < p.hi).toBe(true);
});

test('what a course is told from: trusted readings that count cycles, by their age since it was made', () => {
  const all = [
    gauge(4000, '2026-11-11', 5000, 300),
    gauge(4500, '2026-11-01'),
    gauge(4500, '2026-11-01', 5000, 0),
    gauge(9000, '2026-11-03', 5000, 200),
  ];
  expect(fadePoints(pack('2024-11-11', ...all), '2024-11-11')).toEqual([
    { years: expect.closeTo(2, 2), cycles: 300, health: expect.closeTo(0.8, 9) },
  ]);
  // Without its age, or made after it was read, it says nothing.
  expect(fadePoints(pack(undefined, ...all), undefined)).toEqual([]);
  expect(fadePoints(pack('2027', ...all), '2027')).toEqual([]);
});

test('packs by their age: whole years from what the label says, unknown last', () => {
  const all = [pack('2021'), pack('2024-10'), pack(undefined), pack('2025-11-25'), pack('2025-11-26'), pack('2030')];
  expect(byAge(all, NOW).map((g) => [g.years, g.packs])).toEqual([
    [0, 2],
    [1, 1],
    [2, 1],
    [5, 1],
    [null, 1],
  ]);
});

test('growth is that of the thickest point as it was measured last', () => {
  const [g] = byAge(
    [pack('2024', mm('5.00', 'new-thickness'), mm('5.10', 'thickness', 'centre'), mm('5.40', 'thickness', 'front-left'))],
    NOW,
  );
  expect((g!.growth!.lo + g!.growth!.hi) / 2).toBeCloseTo(8, 6);
  expect([g!.health, byAge([pack('2024', mm('5.10', 'thickness', 'centre'))], NOW)[0]!.growth]).toEqual([null, null]);
});

test('a group holds every pack of it, in whatever order they come', () => {
  fc.assert(
    fc.property(
      fc.array(fc.tuple(fc.constantFrom('2020', '2023', undefined), fc.integer({ min: 2500, max: 5500 })), { maxLength: 9 }),
      (all) => {
        const packs = all.map(([made, full]) => pack(made, gauge(full)));
        const groups = byAge(packs, NOW);
        expect(byAge([...packs].reverse(), NOW)).toEqual(groups);
        expect(groups.reduce((n, g) => n + g.packs, 0)).toBe(packs.length);
        packs.forEach((p) => {
          const [one] = byAge([p], NOW);
          const g = groups.find((x) => x.years === one!.years)!;
          expect(g.health!.lo <= one!.health!.lo && one!.health!.hi <= g.health!.hi).toBe(true);
        });
      },
    ),
    { numRuns: 60 },
  );
});
