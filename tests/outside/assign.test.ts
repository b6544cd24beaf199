import { execFileSync } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { type PlaceFacts, type Stored, storageOrder } from '@gavrel/core';
import { assign, yardOf } from '@gavrel/core/place';
import fc from 'fast-check';

const place = (
  id: string,
  kind: PlaceFacts['kind'],
  holds: PlaceFacts['holds'],
  packs: number,
  wattHours: number,
): PlaceFacts => ({
  id,
  name: id,
  kind,
  holds,
  limits: { packs, wattHours },
  dues: [],
  closed: null,
  looks: [],
  answered: [],
  counted: null,
  collections: [],
  lastAt: '2026-11-25T08:00:00.000Z',
});
const KINDS = [
  ['quarantine', ['damaged', 'unproven']],
  ['outdoors', ['damaged', 'critical']],
  ['intake', ['unproven', 'sound', 'spent']],
  ['cabinet', ['sound']],
] as const;

/** Fewest packs without a place, then fewest moves, as an integer programme. The limits are written here once more. */
function programme(packs: readonly Stored[], places: readonly PlaceFacts[]): string {
  const may = (s: Stored, p: PlaceFacts) =>
    storageOrder(s.condition, s.kind).places.includes(p.kind) && p.holds.includes(s.condition);
  const pairs = packs.flatMap((s, i) => places.flatMap((p, j) => (may(s, p) ? [{ i, j, s, p }] : [])));
  const x = (i: number, j: number) => `x${i}_${j}`;
  const sum = (terms: readonly string[]) => (terms.length === 0 ? '0 z' : terms.join(' + '));
  return [
    'Minimize',
    ` n: 0 z + ${sum([...packs.map((_, i) => `1000 u${i}`), ...pairs.filter((q) => q.s.place !== q.p.id).map((q) => x(q.i, q.j))])}`,
    'Subject To',
    ...packs.map((_, i) => ` one${i}: u${i} + ${sum(pairs.filter((q) => q.i === i).map((q) => x(i, q.j)))} = 1`),
    ...places.flatMap((p, j) => {
      const here = pairs.filter((q) => q.j === j);
      return [
        ` packs${j}: ${sum(here.map((q) => x(q.i, j)))} <= ${p.limits!.packs}`,
        ` wh${j}: ${sum(here.map((q) => `${q.s.wattHours} ${x(q.i, j)}`))} <= ${p.limits!.wattHours}`,
      ];
    }),
    'Bounds',
    ' z = 0',
    'Binary',
    ...packs.map((_, i) => ` u${i}`),
    ...pairs.map((q) => ` ${x(q.i, q.j)}`),
    'End',
  ].join('\n');
}

// GLPK's integer solver (Debian's glpk-utils) on random small yards: as many placed, as few moved.
test('no assignment places more packs, or as many with fewer moves, says a solver', () => {
  const folder = mkdtempSync(join(tmpdir(), 'gavrel-assign-'));
  const [lp, out] = [join(folder, 'p.lp'), join(folder, 'p.txt')];
  let tight = 0;
  try {
    fc.assert(
      fc.property(
        fc.array(fc.record({ kind: fc.nat(3), packs: fc.integer({ min: 0, max: 3 }), wh: fc.integer({ min: 40, max: 220 }) }), {
          minLength: 2,
          maxLength: 4,
        }),
        fc.array(
          fc.record({
            condition: fc.constantFrom('sound' as const, 'unproven' as const, 'damaged' as const, 'critical' as const),
            wh: fc.integer({ min: 10, max: 100 }),
            at: fc.nat(5),
          }),
          { minLength: 2, maxLength: 9 },
        ),
        (kinds, packs) => {
          const places = kinds.map((k, j) => place(`P${j}`, KINDS[k.kind]![0], KINDS[k.kind]![1], k.packs, k.wh));
          const all = packs.map((p, i): Stored => ({
            id: `k${i}`,
            tag: `k${i}`,
            condition: p.condition,
            kind: p.condition === 'critical' ? 'unstable' : null,
            place: places[p.at]?.id ?? null,
            placedAs: p.condition,
            placedAt: null,
            despite: null,
            wattHours: p.wh,
            kg: 0.3,
            litres: 0.2,
          }));
          writeFileSync(lp, programme(all, places));
          execFileSync('glpsol', ['--lp', lp, '-w', out], { stdio: 'pipe' });
          const best = Number(/^s mip \d+ \d+ o ([\d.]+)$/m.exec(readFileSync(out, 'utf8'))![1]);
          const plan = assign(all, yardOf(places, all));
          expect(plan.best).toBe(true);
          expect(plan.atMost).toBeGreaterThanOrEqual(plan.placed);
          expect(1000 * (all.length - plan.placed) + plan.moves).toBe(best);
          if (plan.placed < all.length && plan.placed > 0) tight++;
        },
      ),
      { numRuns: 60 },
    );
    expect(tight).toBeGreaterThan(10);
  } finally {
    rmSync(folder, { recursive: true, force: true });
  }
});
