import fc from 'fast-check';
import { WORKED } from '../cases';
import { kindOf } from '../plan/testing';
import { classify } from '../shipping/classify';
import { type OwnPack, ownWays } from './own';

const ON = '2026-11-27';
const SOUND = kindOf('k', 1, 0.32, [1, 1, 1]).facts;
const pack = (id: string, more: Partial<OwnPack['shipping']> = {}, kg: number | null = 0.32): OwnPack => ({
  id,
  tag: id,
  shipping: { ...SOUND, ...more },
  kg,
});
const goes = (packs: readonly OwnPack[], region: 'eu' | 'us' = 'eu') =>
  Object.fromEntries(ownWays(packs, region, ON).map((w) => [w.name, w.goes]));

// ICAO Technical Instructions part 8, from memory: 100 Wh freely, 160 Wh with approval, two spares.
test.each([
  [100, ['a']],
  [100.01, ['a']],
  [160, ['a']],
  [160.01, []],
] as const)('in the hand by air, one pack of %s Wh', (ratedEnergy, those) =>
  expect(goes([pack('a', { ratedEnergy, ratedCapacity: ratedEnergy / 11.4 })])['in the hand by air']).toEqual(those),
);

test('two spares over 100 Wh go by hand, a third stays; what is not known, and what was recalled, stays', () => {
  const large = ['a', 'b', 'c'].map((id) => pack(id, { ratedEnergy: 130, ratedCapacity: 11.4 }));
  expect(goes(large)['in the hand by air']).toEqual(['a', 'b']);
  const { ratedEnergy: _e, ...unknown } = SOUND;
  expect(goes([{ ...pack('x'), shipping: unknown }])['in the hand by air']).toEqual([]);
  expect(goes([pack('r', { findings: ['safety-recall'] })])).toMatchObject({ 'own vehicle': [], 'in the hand by air': [] });
});

test('a vehicle is full at 333 kg of regulated packs in Europe, at 200 kg in the United States', () => {
  const heavy = Array.from({ length: 20 }, (_, i) => pack(String(i), { ratedEnergy: 2000, ratedCapacity: 175 }, 20));
  expect(goes(heavy)['own vehicle']).toHaveLength(16);
  expect(goes(heavy, 'us')['own vehicle']).toHaveLength(10);
  // What does not fit any more keeps nothing lighter out.
  expect(goes([...heavy, pack('light', { ratedEnergy: 2000, ratedCapacity: 175 }, 1)])['own vehicle']).toContain('light');
  // Small ones are free of points.
  expect(goes(Array.from({ length: 60 }, (_, i) => pack(String(i), {}, 9)))['own vehicle']).toHaveLength(60);
});

test('a suspect pack goes by none of them, and every pack is told of once', () => {
  const cases = WORKED.map((c, i) => ({ ...pack(String(i), {}, c.facts.mass ?? null), shipping: c.facts }));
  fc.assert(
    fc.property(fc.shuffledSubarray(cases, { maxLength: 15 }), fc.constantFrom('eu' as const, 'us' as const), (packs, region) => {
      for (const w of ownWays(packs, region, ON)) {
        expect([...w.goes, ...w.stays.map((s) => s.id)].sort()).toEqual(packs.map((p) => p.id).sort());
        for (const id of w.goes) {
          const { shipping } = packs.find((p) => p.id === id)!;
          expect(shipping.findings).toBeDefined();
          expect(shipping.conditionKnown).not.toBe(false);
          expect(shipping.findings).not.toContain('swollen');
        }
      }
    }),
  );
});

test('what was in an incident goes by none of them, nor what one account of it makes damaged; what nobody knows is not carried aboard', () => {
  for (const region of ['eu', 'us'] as const) {
    const none = Object.fromEntries(Object.keys(goes([], region)).map((name) => [name, []]));
    expect(goes([pack('a', { frozen: true })], region)).toEqual(none);
    expect(goes([pack('a', { rivals: [{ frozen: true }] })], region)).toEqual(none);
    // The sound account is held for want of a size: its answer is the more severe one, and it is not the whole.
    const damaged = { ...SOUND, findings: ['swollen'] } as const;
    expect(goes([pack('a', { typeTested: undefined, rivals: [damaged] })], region)).toEqual(none);
  }
  const { chemistry: _c, ...unread } = SOUND;
  expect(goes([{ ...pack('a'), shipping: unread }])['in the hand by air']).toEqual([]);
  expect(goes([pack('a', { rivals: [{ chemistry: 'li-metal' }] })])['in the hand by air']).toEqual([]);
});

// ICAO TI special provision A183 and 49 CFR 171.8 (a hazardous waste is no material of trade), from memory.
test('waste, and what may be waste, is not carried aboard; it is no material of trade, and who fetches it is a carrier', () => {
  for (const purpose of ['recycling', 'disposal'] as const) {
    expect(goes([pack('a', { purpose })])).toMatchObject({
      'own vehicle': ['a'],
      'in the hand by air': [],
      'brought or fetched': [],
    });
    expect(goes([pack('a', { purpose })], 'us')['own vehicle']).toEqual([]);
    const [road] = ownWays([pack('a', { purpose })], 'eu', ON);
    expect(road!.steps.join()).toMatch(/papers as for a carrier/);
    expect(road!.steps.join()).not.toMatch(/to or from a job/);
  }
  // A second opinion: whatever the rules of cargo call waste, or ask about, stays on the ground.
  const cases = WORKED.map((c, i) => ({ ...pack(String(i), {}, c.facts.mass ?? null), shipping: c.facts }));
  const purposes = fc.constantFrom(undefined, 'use' as const, 'recycling' as const, 'disposal' as const);
  fc.assert(
    fc.property(fc.constantFrom(...cases), purposes, (given, purpose) => {
      const one = { ...given, shipping: { ...given.shipping, purpose, placement: 'in-equipment' as const } };
      const [aboard] = [ownWays([one], 'eu', ON).find((w) => w.name === 'in the hand by air')!];
      if (aboard.goes.length === 0) return;
      const { provision, rules } = classify(one.shipping, { mode: 'air-cargo', region: 'international', on: ON });
      expect([provision, ...rules]).not.toContain('A183');
      expect(rules).not.toContain('air.spent');
    }),
    { numRuns: 500 },
  );
});
