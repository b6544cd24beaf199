import fc from 'fast-check';
import { rule } from '../ruling/ruling';
import type { Bodies, LoggedEntry, Subject } from './entry';
import { DEFAULT_POLICY, foldPack } from './fold';
import { foldConsignment } from './fold-consignment';
import { ALL_GROUPS, ANNA, entry, NOW, ON, OTHER_PACK, PACK, soundPack } from './testing';

const ONE = 'e0000000-0000-4000-8000-000000000001';
const TWO = 'e0000000-0000-4000-8000-000000000002';
const [BOX_A, BOX_B] = ['f0000000-0000-4000-8000-00000000000a', 'f0000000-0000-4000-8000-00000000000b'];
const on = (c: string, ...packs: string[]): { subjects: readonly Subject[] } => ({
  subjects: [`consignment:${c}`, ...packs.map((p): Subject => `pack:${p}`)],
});
const sent = (packs: readonly string[]): Bodies['consignment-handed-over'] => ({
  to: 'Marram Freight',
  on: ON,
  mode: 'road',
  region: 'eu',
  packages: [{ id: BOX_A, packs, rules: [] }],
});
const pack = (...entries: LoggedEntry[]) => foldPack(PACK, [...soundPack(), ...entries])!;
const conditionOf = (...entries: LoggedEntry[]) => rule(pack(...entries), DEFAULT_POLICY, NOW, ON).judgement.condition;

const A = on(ONE, PACK);
const HERE = entry('consigned', {}, { ...A, minutes: 20 });
const LEFT = entry('consignment-handed-over', sent([PACK]), { ...A, minutes: 40 });

describe('a pack and its consignment', () => {
  test('it is in the one that named it last, and leaves with it', () => {
    expect(pack(HERE)).toMatchObject({ consignment: ONE, left: null });
    expect(pack(HERE, entry('consigned', {}, { ...on(TWO, PACK), minutes: 30 }))).toMatchObject({ consignment: TWO });
    expect(pack(HERE, entry('withdrawn', {}, { ...A, minutes: 30 })).consignment).toBeUndefined();
    expect(pack(HERE, LEFT)).toMatchObject({ consignment: ONE, leftTo: 'carrier', left: LEFT.at });
  });

  test('what left is in no other one until somebody had it in hand again', () => {
    const wanted = entry('consigned', {}, { ...on(TWO, PACK), minutes: 50 });
    expect(pack(HERE, LEFT, wanted)).toMatchObject({ consignment: ONE });
    const moved = entry('moved', {}, { subjects: [`pack:${PACK}`, `place:${BOX_A}`], minutes: 45 });
    expect(pack(HERE, LEFT, moved, wanted)).toMatchObject({ consignment: TWO, left: null });
    expect(pack(HERE, LEFT, moved).consignment).toBeUndefined();
  });

  test.each(['refused', 'returned'] as const)('%s: it is here again, and unproven until somebody looked', (how) => {
    expect(conditionOf(HERE)).toBe('sound');
    const back = entry('consignment-ended', { how, reason: 'mark not legible' }, { ...A, minutes: 60 });
    expect(pack(HERE, LEFT, back)).toMatchObject({ left: null, cameBack: back.at });
    expect(pack(HERE, LEFT, back).consignment).toBeUndefined();
    expect(conditionOf(HERE, LEFT, back)).toBe('unproven');
    expect(conditionOf(HERE, LEFT, back, entry('looked', { groups: [...ALL_GROUPS] }, { minutes: 70 }))).toBe('sound');
  });

  test('lost stays away; cancelled frees it, but brings nothing back that left', () => {
    const ends = (how: Bodies['consignment-ended']['how'], minutes: number) =>
      entry('consignment-ended', { how, reason: 'they say so' }, { ...A, minutes });
    expect(pack(HERE, LEFT, ends('lost', 60))).toMatchObject({ consignment: ONE, leftTo: 'carrier' });
    expect(pack(HERE, ends('cancelled', 30)).consignment).toBeUndefined();
    expect(pack(HERE, LEFT, ends('cancelled', 60))).toMatchObject({ consignment: ONE, leftTo: 'carrier' });
  });

  test('in no order of arrival, from no two devices, is it in two, nor milder for having been away', () => {
    const acts: readonly ((minutes: number) => LoggedEntry)[] = [ONE, TWO].flatMap((c) => [
      (minutes) => entry('consigned', {}, { ...on(c, PACK), minutes }),
      (minutes) => entry('withdrawn', {}, { ...on(c, PACK), minutes }),
      (minutes) => entry('packed', { package: BOX_A }, { ...on(c, PACK), minutes }),
      (minutes) => entry('consignment-handed-over', sent([PACK]), { ...on(c, PACK), minutes }),
      ...(['cancelled', 'refused', 'returned', 'lost'] as const).map(
        (how) => (minutes: number) => entry('consignment-ended', { how, reason: 'they say so' }, { ...on(c, PACK), minutes }),
      ),
    ]);
    const history = fc.array(fc.tuple(fc.nat(acts.length - 1), fc.integer({ min: 1, max: 60 })), { maxLength: 12 });
    fc.assert(
      fc.property(history, fc.infiniteStream(fc.nat(1000)), (list, dice) => {
        const entries = [...soundPack(), ...list.map(([a, minutes]) => acts[a]!(minutes))];
        const shuffled = entries.map((e) => [dice.next().value as number, e] as const).sort((x, y) => x[0] - y[0]);
        const [f, g] = [
          foldPack(PACK, entries)!,
          foldPack(
            PACK,
            shuffled.map(([, e]) => e),
          )!,
        ];
        expect(g).toEqual(f);
        // Two consignments that count it as gone would bill it twice.
        if (f.left !== null) expect(f.consignment).toBeDefined();
        const now = rule(f, DEFAULT_POLICY, NOW, ON).judgement.condition;
        expect(f.cameBack === undefined ? ['sound'] : ['unproven']).toContain(now);
      }),
      { numRuns: 800 },
    );
  });
});

test.each([
  ['refitted', {}, null],
  ['handed-over', { oldPack: 'given back' }, 'owner'],
  ['drum-collected', { to: 'them' }, 'recycler'],
] as const)(
  'packed, and %s since: it is in no consignment, and saying that it is not in the box brings it nowhere',
  (kind, body, to) => {
    const job = 'job:d0000000-0000-4000-8000-000000000001';
    const gone = entry(kind, body as never, { subjects: [job, `pack:${PACK}`] as never, minutes: 10 });
    const said = (k: 'withdrawn' | 'unpacked' | 'consigned') => entry(k, {}, { ...on(ONE, PACK), minutes: 20 });
    const f = (...more: LoggedEntry[]) =>
      foldPack(PACK, [...soundPack(), entry('packed', { package: BOX_A }, { ...on(ONE, PACK), minutes: 5 }), ...more])!;
    expect(f().consignment).toBe(ONE);
    expect(f(gone)).toMatchObject({ leftTo: to });
    expect(f(gone).consignment).toBeUndefined();
    expect(f(gone, said('withdrawn'))).toMatchObject({ leftTo: to });
    // Whoever took it out of the box had it in hand.
    expect(f(gone, said('unpacked')).left).toBeNull();
    expect(f(gone, said('consigned')).consignment).toBe(ONE);
  },
);

describe('a consignment', () => {
  const C = on(ONE);
  const fold = (...entries: LoggedEntry[]) => foldConsignment(ONE, entries)!;
  const put = (p: string, into: string, minutes: number) => entry('packed', { package: into }, { ...on(ONE, p), minutes });
  const close = (minutes: number) => entry('package-closed', { package: BOX_A, seal: '7' }, { ...C, minutes });

  test('whatever goes in or out of a closed package opens it, and its counts are counted anew', () => {
    const counted = entry('package-counted', { package: BOX_A, count: 1 }, { ...C, minutes: 4, by: ANNA });
    const closed = [put(PACK, BOX_A, 1), close(3), counted];
    expect(fold(...closed)).toMatchObject({ closed: { [BOX_A]: { seal: '7' } }, counts: { [BOX_A]: [{ by: ANNA, count: 1 }] } });
    // The same pack scanned again changes nothing.
    expect(fold(...closed, put(PACK, BOX_A, 5)).closed).toHaveProperty(BOX_A);
    for (const later of [
      put(OTHER_PACK, BOX_A, 5),
      put(PACK, BOX_B, 5),
      entry('unpacked', {}, { ...on(ONE, PACK), minutes: 5 }),
      entry('withdrawn', {}, { ...on(ONE, PACK), minutes: 5 }),
      entry('package-opened', { package: BOX_A }, { ...C, minutes: 5 }),
    ]) {
      expect(fold(...closed, later)).toMatchObject({ closed: {}, counts: {} });
    }
  });

  test('what was said of the packing and is taken back opens what was closed upon it, and no package closed after that', () => {
    const [mine, other] = [put(PACK, BOX_A, 1), put(OTHER_PACK, BOX_A, 2)];
    const back = { ...entry('retracted', { reason: 'slip' }, { ...on(ONE, OTHER_PACK), minutes: 5, replaces: other.id }) };
    const slip = { ...back, waits: 'nobody' } as LoggedEntry;
    expect(fold(mine, other, close(3), slip)).toMatchObject({ closed: {}, packed: { [PACK]: BOX_A } });
    expect(fold(mine, other, slip, close(6)).closed).toHaveProperty(BOX_A);
    const gone = entry('consignment-handed-over', sent([PACK]), { ...A, minutes: 4 });
    expect(fold(mine, other, close(3), gone, slip).closed).toHaveProperty(BOX_A);
    // A box that somebody opened is not closed by taking that word back.
    const open = entry('package-opened', { package: BOX_A }, { ...C, minutes: 4 });
    const never = { ...entry('retracted', { reason: 'slip' }, { ...C, minutes: 5, replaces: open.id }), waits: 'nobody' };
    expect(fold(mine, close(3), open, never as LoggedEntry).closed).toEqual({});
  });

  test('what was lost and arrives after all is not lost; what came back is, whatever was said of it before', () => {
    const ends = (how: Bodies['consignment-ended']['how'], minutes: number) =>
      entry('consignment-ended', { how, reason: 'they say so' }, { ...A, minutes });
    const arrived = entry('consignment-arrived', { receipt: 'R-1' }, { ...C, minutes: 80 });
    expect(fold(LEFT, ends('lost', 60))).toMatchObject({ ended: { how: 'lost' }, arrived: null });
    expect(fold(LEFT, ends('lost', 60), arrived)).toMatchObject({ ended: null, arrived: { receipt: 'R-1' } });
    expect(fold(LEFT, ends('lost', 60), ends('returned', 70))).toMatchObject({ ended: { how: 'returned' } });
    expect(fold(LEFT, arrived, ends('refused', 90))).toMatchObject({ ended: { how: 'refused' } });
  });

  test('parts of one hand-over are one, and what left keeps its packages', () => {
    const second = { ...sent([OTHER_PACK]), packages: [{ id: BOX_B, packs: [OTHER_PACK], rules: [] }] };
    const f = fold(LEFT, entry('consignment-handed-over', second, { ...on(ONE, OTHER_PACK), minutes: 41 }));
    expect(f.sent).toMatchObject({ at: LEFT.at, packs: [PACK, OTHER_PACK] });
    expect(f.sent!.packages.map((p) => p.id)).toEqual([BOX_A, BOX_B]);
  });
});
