import fc from 'fast-check';
import type { LoggedEntry, Subject } from '../logbook/entry';
import { DEFAULT_POLICY, foldPack } from '../logbook/fold';
import { foldPlace } from '../logbook/fold-place';
import { entry, NOW, PACK, soundPack } from '../logbook/testing';
import { condition } from '../condition/condition';
import { balanceOf, drumClock, handlerKg, kgOverTime, notWithDrum } from './drum';
import { dailyInputs, type PackOwed, packOwed } from './daily';
import { workshopDues } from './dues';
import type { Stored } from './stored';
import { DAY_MS } from '../quantity/day';

const DRUM = 'd0000000-0000-4000-8000-000000000009';
const COLLECTION = 'e0000000-0000-4000-8000-000000000001';
const both: Subject[] = [`place:${DRUM}`, `pack:${PACK}`];
const day = (iso: string) => iso.slice(0, 10);
const spent = (on: string) => [
  entry('pack-added', { tag: 'D-1', use: 'removed' }, { day: on }),
  entry('finding-recorded', { code: 'worn-out' }, { day: on }),
  entry('reading-taken', { quantity: 'mass', figure: { digits: '270', unit: 'g' } }, { day: on }),
  entry('moved', {}, { day: on, subjects: both }),
];
const collected = (minutes: number, more: object = {}) =>
  entry('drum-collected', { collection: COLLECTION, to: 'Skerry Metals', ...more }, { subjects: both, minutes });
test('what is damaged, critical or held by an incident does not leave with a drum; a look grown old holds nothing back', () => {
  const items = (['sound', 'spent', 'unproven', 'damaged', 'critical', 'spent'] as const).map((condition, i) => ({
    id: String(i),
    tag: `D-${i}`,
    condition,
  }));
  expect(notWithDrum(items, (id) => id === '5')).toEqual([
    { tag: 'D-3', why: 'damaged' },
    { tag: 'D-4', why: 'critical' },
    { tag: 'D-5', why: 'frozen' },
  ]);
});

const added = () =>
  entry('place-added', { name: 'Drum', kind: 'drum', holds: ['spent'] }, { subjects: [`place:${DRUM}`], day: '2025-01-01' });

// 40 CFR 273.15: one year from the day it became waste; from memory.
test.each([
  ['2026-11-24', '2027-11-24', '2027-10-25'],
  ['2028-02-29', '2029-02-28', '2029-01-29'],
])('waste since %s: until %s, asked for on %s', (on, until, ask) => {
  const facts = foldPack(PACK, spent(on))!;
  expect(drumClock([facts], day)).toEqual({ since: on, until, ask, unknown: [] });
});

test('the oldest pack winds the clock, one of which nobody said since when is named, and it is due', () => {
  const old = foldPack(PACK, spent('2025-12-20'))!;
  const young = { ...foldPack(PACK, spent('2026-11-01'))!, id: 'x', tag: 'D-2' };
  const silent = { ...young, id: 'y', tag: 'D-3', wasteSince: null };
  expect(drumClock([young, old, silent], day)).toMatchObject({ until: '2026-12-20', ask: '2026-11-20', unknown: ['D-3'] });
  const place = foldPlace(DRUM, [added()])!;
  const packs = [old, young].map((f) =>
    packOwed(dailyInputs(f, DEFAULT_POLICY), condition(f, DEFAULT_POLICY, NOW), DEFAULT_POLICY, day),
  );
  const dues = workshopDues(
    { packs, jobs: [], notebooks: [], places: [place], incidents: [], consignments: [] },
    DEFAULT_POLICY,
    NOW,
    day,
  );
  expect(dues.find((d) => d.id === `clock:${DRUM}`)).toMatchObject({ what: 'clock', on: '2026-11-20' });
  expect(dues.find((d) => d.id === `clock:${DRUM}`)!.note).toContain('2026-12-20');
});

test('a look that grew old: on a shelf it is due when the policy says, in a drum nobody unpacks the pack', () => {
  const looks = (kind: 'drum' | 'shelf', found: LoggedEntry[]) => {
    const put = entry('moved', {}, { subjects: both, minutes: 60 });
    const facts = foldPack(PACK, [...soundPack(), ...found, put])!;
    const place = foldPlace(DRUM, [
      entry('place-added', { name: 'X', kind, holds: ['spent', 'sound'] }, { subjects: [`place:${DRUM}`] }),
    ])!;
    const later = new Date(NOW.getTime() + 40 * DAY_MS);
    const judgement = condition(facts, DEFAULT_POLICY, later);
    expect(judgement.condition).toBe('unproven');
    const packs = [packOwed(dailyInputs(facts, DEFAULT_POLICY), judgement, DEFAULT_POLICY, day)];
    return workshopDues(
      { packs, jobs: [], notebooks: [], places: [place], incidents: [], consignments: [] },
      DEFAULT_POLICY,
      later,
      day,
    )
      .filter((d) => d.what === 'look')
      .map((d) => d.on);
  };
  expect(looks('drum', [entry('finding-recorded', { code: 'worn-out' })])).toEqual([]);
  expect(looks('shelf', [])).toEqual(['2026-12-25']);
});

test('what was collected lies nowhere, comes back only when it is handled again, and never leaves twice', () => {
  const base = spent('2026-11-20');
  const put = fc.record({ kind: fc.constantFrom('moved' as const, 'collected' as const), at: fc.integer({ min: 1, max: 400 }) });
  fc.assert(
    fc.property(fc.array(put, { minLength: 1, maxLength: 8 }), (acts) => {
      const said = acts.map((a): LoggedEntry =>
        a.kind === 'moved' ? entry('moved', {}, { subjects: both, minutes: a.at }) : collected(a.at),
      );
      const last = [...said].sort((a, b) => (a.at < b.at || (a.at === b.at && a.id < b.id) ? -1 : 1)).pop()!;
      const f = foldPack(PACK, [...base, ...said])!;
      if (f.left !== null && f.place !== null) return false;
      if (last.kind === 'moved') return f.left === null || said.some((s) => s.kind === 'drum-collected' && s.at === last.at);
      return f.leftTo === 'recycler' && f.place === null;
    }),
  );
  const place = foldPlace(DRUM, [
    added(),
    ...base,
    collected(10),
    collected(20),
    entry('drum-answered', { collection: COLLECTION, certificate: 'S-1' }, { subjects: [`place:${DRUM}`], minutes: 30 }),
  ])!;
  expect(place.collections).toHaveLength(1);
  expect(place.collections[0]).toMatchObject({ packs: [PACK], answered: { certificate: 'S-1' } });
});

test('the balance: packs against the drum, the drum against the recycler; a sum with a gap is no balance', () => {
  const facts = foldPack(PACK, spent('2026-11-20'))!;
  const kg = (digits: string) => ({ digits, unit: 'kg' as const });
  const b = balanceOf({ weighed: kg('0.28'), answered: { weighed: kg('0.25') } }, [facts]);
  expect(b.ours).toBeCloseTo(0.01, 9);
  expect(b.theirs).toBeCloseTo(-0.03, 9);
  // Nothing weighs 0: that is no loss of everything on the way.
  expect(balanceOf({ weighed: kg('0.28'), answered: { weighed: kg('0') } }, [facts])).toMatchObject({
    recyclerKg: null,
    theirs: null,
  });
  expect(balanceOf({ weighed: kg('0.28'), answered: null }, [facts, { ...facts, tag: 'D-2', readings: [] }])).toMatchObject({
    ours: null,
    theirs: null,
    notWeighed: ['D-2'],
  });
  expect(handlerKg([facts, { ...facts, left: '2026-11-21T00:00:00.000Z' }])).toEqual({ kg: 0.27, limit: 5000 });
});

test('how heavy a drum became: in the order of arrival, what has no weight or no day left out', () => {
  const item = (placedAt: string | null, kg: number | null) => ({ placedAt, kg }) as Stored;
  const items = [
    item('2026-11-20T08:00:00.000Z', 0.3),
    item('2026-11-03T08:00:00.000Z', 0.25),
    item(null, 9),
    item('2026-11-04T08:00:00.000Z', null),
  ];
  expect(kgOverTime(items)).toEqual([
    { at: '2026-11-03T08:00:00.000Z', kg: 0.25 },
    { at: '2026-11-20T08:00:00.000Z', kg: 0.55 },
  ]);
});

test('many looks at one place on one day are one walk, few stay apart, and what was set on a pack stays its own', () => {
  const one = (n: number, place: string | null): PackOwed => ({
    id: `p-${n}`,
    tag: `T-${n}`,
    place,
    watch: null,
    agedLook: null,
    wasteSince: null,
    dues: [
      {
        id: `look:p-${n}`,
        what: 'look',
        title: `Look at T-${n}`,
        on: '2026-11-20',
        note: 'unproven',
        subject: `pack:p-${n}`,
        derived: true,
      },
      { id: `set-${n}`, what: 'proof', title: 'Show it', on: '2026-11-20', note: 'x', subject: `pack:p-${n}`, derived: false },
    ],
  });
  const place = foldPlace(DRUM, [
    entry('place-added', { name: 'Shelf', kind: 'shelf', holds: ['sound'] }, { subjects: [`place:${DRUM}`] }),
  ])!;
  const looks = (packs: readonly PackOwed[]) =>
    workshopDues(
      { packs, jobs: [], notebooks: [], places: [place], incidents: [], consignments: [] },
      DEFAULT_POLICY,
      NOW,
      day,
    ).filter((d) => d.what === 'look');
  const many = [...Array(300).keys()].map((n) => one(n, DRUM));
  expect(looks(many)).toMatchObject([{ title: 'Look at Shelf', note: '300 packs', subject: `place:${DRUM}`, on: '2026-11-20' }]);
  expect(looks(many.slice(0, 3)).map((d) => d.subject)).toEqual(['pack:p-0', 'pack:p-1', 'pack:p-2']);
  expect(looks(many.map((p) => ({ ...p, place: null })))).toMatchObject([{ title: 'Place 300 packs', subject: 'pack:p-0' }]);
  const all = workshopDues(
    { packs: many, jobs: [], notebooks: [], places: [place], incidents: [], consignments: [] },
    DEFAULT_POLICY,
    NOW,
    day,
  );
  expect(all.filter((d) => d.what === 'proof')).toHaveLength(300);
});
