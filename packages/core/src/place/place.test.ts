import fc from 'fast-check';
import type { Condition } from '../logbook/entry';
import { assign, assignByHand } from './assign';
import { makeRoom, rankPlaces } from './best';
import { between, distanceLines, distancesOf, volumeLines } from './distance';
import { loadOf, mayLie, notForIt, overLimits, roomForUnseen } from './may';
import { energyByRoom, yardOf } from './state';
import { aPack, aPlace } from './testing';

describe('limits, each just under, at and just over', () => {
  test.each([
    ['packs', { packs: 3 }, {}, 2, []],
    ['packs', { packs: 3 }, {}, 3, ['packs']],
    ['kg', { kg: 0.9 }, {}, 2, []],
    ['kg', { kg: 0.9 }, { kg: 0.301 }, 2, ['kg']],
    ['wattHours', { wattHours: 150 }, {}, 2, []],
    ['wattHours', { wattHours: 150 }, { wattHours: 50.1 }, 2, ['wattHours']],
    ['litres', { litres: 0.6 }, {}, 2, []],
    ['litres', { litres: 0.6 }, { litres: 0.21 }, 2, ['litres']],
    ['what nobody knows counts as 100 Wh', { wattHours: 150 }, { wattHours: null }, 1, []],
    ['what nobody knows counts as 100 Wh', { wattHours: 149 }, { wattHours: null }, 1, ['wattHours']],
    ['what nobody weighed counts as 1 kg', { kg: 1.2 }, { kg: null }, 1, ['kg']],
    ['no limit, nothing asked', {}, { wattHours: null }, 500, []],
  ] as const)('%s %j, a pack %j beside %d others', (_what, limits, pack, others, codes) => {
    const there = loadOf(Array.from({ length: others }, (_, i) => aPack(`o${i}`, 'damaged', 'Q')));
    const why = mayLie(aPack('new', 'damaged', null, pack), aPlace('Q', 'quarantine', limits), there);
    expect(why.map((w) => w.code)).toEqual(codes);
  });
  test('a limit lowered below what lies there is shown as over', () => {
    const [q] = yardOf([aPlace('Q', 'quarantine', { packs: 1 })], [aPack('a', 'damaged', 'Q'), aPack('b', 'damaged', 'Q')]);
    expect(q!.over.map((o) => o.words)).toEqual(['2 of 1 pack']);
    expect(q!.fill).toBe(2);
  });
});

test.each([
  [{}, 0, null],
  [{ packs: 3 }, 1, 2],
  [{ packs: 3 }, 4, 0],
  [{ wattHours: 350 }, 1, 3],
  [{ wattHours: 349 }, 1, 2],
  [{ packs: 2, wattHours: 350 }, 1, 1],
] as const)('%j with %d packs of 50 Wh there: room for %p machines nobody looked into', (limits, n, room) => {
  const there = Array.from({ length: n }, (_, i) => aPack(`m${i}`, 'unproven', 'I'));
  expect(roomForUnseen(aPlace('I', 'intake', limits), loadOf(there))).toBe(room);
});

test.each<[Condition, string, string[]]>([
  ['damaged', 'cabinet', ['kind', 'holds']],
  ['damaged', 'customer', ['kind', 'holds']],
  ['sound', 'quarantine', ['kind', 'holds']],
  ['spent', 'drum', []],
  ['critical', 'outdoors', []],
  ['unproven', 'cabinet', ['kind', 'holds']],
])('a %s pack in a %s: %j', (condition, kind, codes) => {
  expect(mayLie(aPack('p', condition), aPlace('x', kind as 'drum'), loadOf([])).map((w) => w.code)).toEqual(codes);
});

test('a pack whose look grew old stays where it was rightly put, and goes to no new place of that kind', () => {
  const [shelf, other] = [aPlace('S', 'shelf'), aPlace('T', 'shelf')];
  const aged = aPack('p', 'unproven', 'S', { placedAs: 'sound' });
  expect(mayLie(aged, shelf, loadOf([]))).toEqual([]);
  expect(mayLie(aged, other, loadOf([])).map((w) => w.code)).toEqual(['kind', 'holds']);
  expect(mayLie(aPack('q', 'unproven', 'S'), shelf, loadOf([]))).toHaveLength(2);
  // Damage found later is not old age.
  expect(mayLie(aPack('r', 'damaged', 'S', { placedAs: 'sound' }), shelf, loadOf([]))).toHaveLength(2);
});

test('nobody is told to carry a pack that reacts, or to use a place that is closed', () => {
  const bin = aPlace('bin', 'outdoors');
  expect(mayLie(aPack('p', 'critical', null, { kind: 'reacting' }), bin, loadOf([]))[0]!.words).toContain('do not carry it');
  // Nobody is asked to move it from where it lies outdoors; indoors it is in the wrong place all the same.
  const lying = (p: typeof bin) => notForIt(aPack('p', 'critical', p.id, { kind: 'reacting' }), p).map((w) => w.code);
  expect(lying(bin)).toEqual([]);
  expect(lying({ ...bin, kind: 'quarantine' })).toEqual(['kind']);
  const closed = aPlace('old', 'outdoors', {}, { closed: { at: '2026-11-25T08:00:00.000Z', reason: 'rusted through' } });
  expect(rankPlaces(aPack('p', 'damaged'), yardOf([closed], []))).toEqual([]);
  // What still lies in a closed place stays in sight.
  expect(yardOf([closed], [aPack('p', 'damaged', 'old')])[0]!.wrong[0]!.why[0]!.code).toBe('closed');
});

test('the best place first, then what is wrong with the others; and what to move when nothing fits', () => {
  const places = [
    aPlace('A', 'quarantine', { packs: 1 }),
    aPlace('B', 'quarantine', { packs: 4 }),
    aPlace('bin', 'outdoors', { packs: 1 }),
  ];
  const stock = [aPack('a', 'damaged', 'A'), aPack('b', 'damaged', 'B')];
  expect(rankPlaces(aPack('new', 'damaged'), yardOf(places, stock)).map((c) => [c.place.name, c.why.length])).toEqual([
    ['B', 0],
    ['bin', 0],
    ['A', 1],
  ]);
  const full = [...stock, aPack('c', 'critical', 'bin')];
  const tight = yardOf([places[0]!, places[2]!, aPlace('B', 'quarantine', { packs: 2 })], full);
  expect(makeRoom(aPack('new', 'critical'), tight)).toEqual(['bin is full: ask for a collection, or set up another outdoors']);
  expect(makeRoom(aPack('new', 'damaged'), tight)).toContain('A is full: move a to B');
});

describe('many at once', () => {
  const conditions = fc.constantFrom<Condition>('sound', 'spent', 'unproven', 'damaged');
  const yard = fc.array(
    fc.record({
      kind: fc.constantFrom('quarantine' as const, 'outdoors' as const, 'drum' as const, 'cabinet' as const, 'intake' as const),
      packs: fc.integer({ min: 0, max: 4 }),
      wattHours: fc.option(fc.integer({ min: 0, max: 250 }), { nil: undefined }),
    }),
    { minLength: 1, maxLength: 5 },
  );
  const stock = fc.array(
    fc.record({
      condition: conditions,
      wattHours: fc.option(fc.integer({ min: 10, max: 100 })),
      at: fc.nat(6),
      chosen: fc.boolean(),
    }),
    { minLength: 1, maxLength: 14 },
  );
  test('no limit is broken that was not broken before, none lies in two places, and it is never worse than by hand', () => {
    fc.assert(
      fc.property(yard, stock, (kinds, packs) => {
        const places = kinds.map((k, i) =>
          aPlace(`P${i}`, k.kind, { packs: k.packs, ...(k.wattHours !== undefined && { wattHours: k.wattHours }) }),
        );
        const all = packs.map((p, i) =>
          aPack(`k${i}`, p.condition, places[p.at]?.id ?? null, { wattHours: p.wattHours, kg: null, litres: null }),
        );
        const chosen = all.filter((_, i) => packs[i]!.chosen);
        const before = yardOf(places, all);
        const plan = assign(chosen, before);
        const hand = assignByHand(chosen, before);
        expect(plan.placed).toBeGreaterThanOrEqual(hand.placed);
        expect(plan.placed).toBeLessThanOrEqual(plan.atMost);
        if (plan.placed === hand.placed) expect(plan.moves).toBeLessThanOrEqual(hand.moves);
        const ids = new Set(chosen.map((c) => c.id));
        for (const p of places) {
          const stays = all.filter((s) => s.place === p.id && !ids.has(s.id));
          const comes = chosen.filter((c) => plan.to.get(c.id) === p.id);
          if (comes.length === 0) continue;
          expect(overLimits(p, loadOf([...stays, ...comes]))).toEqual([]);
          for (const c of comes) expect(mayLie(c, p, loadOf(stays))).toEqual([]);
        }
      }),
      { numRuns: 300 },
    );
  });
  test('a pack is shifted so that another finds room', () => {
    const places = [aPlace('A', 'quarantine', { packs: 1 }), aPlace('bin', 'outdoors', { packs: 1 })];
    const both = [aPack('d', 'damaged', 'bin'), aPack('x', 'critical')];
    const plan = assign(both, yardOf(places, both));
    expect([plan.to.get('d'), plan.to.get('x'), plan.moves, plan.best]).toEqual(['A', 'bin', 2, true]);
  });
});

// Figures: fire code and insurers from memory; 3 m and 5 m common practice, no source.
describe('distances', () => {
  const near = (burns?: number) =>
    aPlace('Q', 'quarantine', {}, { near: { openings: 9, exit: 9, ...(burns !== undefined && { burns }) } });
  test.each([
    ['practice', 3, []],
    ['practice', 2.99, ['2.99 m to what burns, 3 m asked']],
    ['practice', undefined, ['to what burns not measured, 3 m asked']],
    ['fire code', 3.05, []],
    ['fire code', 3.04, ['3.04 m to what burns, 3.05 m asked']],
    ['insurer', 2.5, []],
    ['insurer far', 4.9, ['4.9 m to what burns, 5 m asked']],
  ] as const)('%s, %p m', (school, metres, words) => {
    expect(distanceLines([near(metres)], school).map((l) => l.words)).toEqual(words);
  });
  test('containers of one drawing stand apart; shelves are not asked', () => {
    const at = (name: string, x: number) =>
      aPlace(name, 'drum', {}, { room: 'yard', box: { x, y: 0, width: 1, depth: 1 }, near: { burns: 9, openings: 9, exit: 9 } });
    expect(distanceLines([at('a', 0), at('b', 1.91)], 'fire code')).toEqual([]);
    expect(distanceLines([at('a', 0), at('b', 1.9)], 'fire code').map((l) => l.what)).toEqual(['apart']);
    expect(distanceLines([aPlace('s', 'shelf')], 'fire code')).toEqual([]);
    expect(between({ x: 0, y: 0, width: 1, depth: 1 }, { x: 4, y: 5, width: 1, depth: 1 })).toBe(5);
    expect(distancesOf('fire code').source).toContain('Fire Code');
  });
});

// 15 and 7.5 cubic feet: International Fire Code, from memory.
test.each([
  [212, []],
  [212.1, ['A: 212.1 l is too much for one']],
  [425, ['A: 425 l is too much for one']],
  [426, ['426 l in all: a permit', 'A: 426 l is too much for one']],
])('%d litres in one place: %j', (litres, lines) => {
  expect(volumeLines(yardOf([aPlace('A', 'drum')], [aPack('p', 'spent', 'A', { litres })]))).toEqual(lines);
});

test('energy by room, with the packs that nobody can count', () => {
  const places = [
    aPlace('A', 'quarantine', {}, { room: 'shed' }),
    aPlace('B', 'quarantine', {}, { room: 'shed' }),
    aPlace('C', 'cabinet'),
  ];
  const stock = [aPack('a', 'damaged', 'A'), aPack('b', 'damaged', 'B', { wattHours: null }), aPack('c', 'sound', 'C')];
  expect(energyByRoom(yardOf(places, stock))).toEqual([
    { room: 'shed', wattHours: 50, unknown: 1, packs: 2 },
    { room: 'C', wattHours: 50, unknown: 0, packs: 1 },
  ]);
});
