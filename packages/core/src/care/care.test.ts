import { DEFAULT_POLICY, foldPack } from '../logbook/fold';
import { entry, NOW, ON, PACK, soundPack } from '../logbook/testing';
import { duesOf } from '../ruling/due';
import { rule } from '../ruling/ruling';
import {
  bleedEnergy,
  bleedHours,
  type Bleeding,
  bleedOhm,
  bleedPlan,
  bleedPlans,
  chargeOverVolts,
  STOCK_OHM,
  stopVolts,
} from './bleed';
import { whyNotBleed } from './may-bleed';
import { shelfPlan } from './plan';
import { minutesToAir, roomBurn } from './room';
import { durationOf, hoursAt, usableEnergy, whatLasted } from './runtime';
import { daysTo, shelfLife } from './shelf';
import { DAY_MS } from '../quantity/day';

// 50 Wh at 11.4 V. Check values computed beside the closed form, from memory of the source; they check the arithmetic.
const THREE: Bleeding = { curve: 'HV_4.35', series: 3, ampHours: 4.386, from: 100, to: 30 };

describe('through a resistor', () => {
  test('the integral and the harmonic mean of the volts', () => {
    expect(chargeOverVolts(THREE)).toBeCloseTo(0.175535, 5);
    expect((0.7 * 3) / chargeOverVolts(THREE)).toBeCloseTo(11.963, 2);
  });
  test.each([
    [4, 15.59],
    [6, 23.38],
    [8, 31.17],
    [12, 46.76],
  ])('%d hours need %d ohm', (hours, ohm) => expect(bleedOhm(THREE, hours)).toBeCloseTo(ohm, 1));
  test.each([
    [15, 3.85, 3.89, 11.28],
    [22, 5.65, 5.68, 7.69],
    [33, 8.47, 8.51, 5.13],
    [47, 12.06, 12.1, 3.6],
  ])('%d ohm take %d h, %d h with 0.15 ohm inside, and start at %d W', (ohm, hours, inside, watts) => {
    expect(bleedHours(THREE, ohm)).toBeCloseTo(hours, 1);
    expect(bleedHours({ ...THREE, internal: 0.15 }, ohm)).toBeCloseTo(inside, 1);
    expect(bleedPlan(THREE, ohm).startWatts).toBeCloseTo(watts, 1);
  });
  test('other packs', () => {
    expect(bleedHours({ curve: 'HV_4.40', series: 4, ampHours: 4.545, from: 100, to: 25 }, 33)).toBeCloseTo(7.03, 1);
    expect(bleedHours({ curve: 'HV_4.35', series: 2, ampHours: 5.92, from: 100, to: 30 }, 10)).toBeCloseTo(5.2, 1);
    expect(bleedHours({ ...THREE, from: 50, to: 25 }, 22)).toBeCloseTo(2.11, 1);
  });
  test('36.8 Wh leave, and the plug stops at 11.26 V', () => {
    expect(bleedEnergy(THREE)).toBeCloseTo(36.79, 1);
    expect(stopVolts({ ...THREE, internal: 0.15 }, 22)).toBeCloseTo(11.26, 2);
  });
  test('the course ends where it should, and power only falls', () => {
    const p = bleedPlan(THREE, 22);
    expect(p.course[p.course.length - 1]).toEqual({ hours: p.hours, charge: 30, watts: p.endWatts });
    expect(p.hours).toBeCloseTo(bleedHours(THREE, 22), 9);
    expect(p.course.every((c, i) => i === 0 || (c.watts < p.course[i - 1]!.watts && c.hours > p.course[i - 1]!.hours))).toBe(
      true,
    );
    expect(p.ratingWatts).toBeCloseTo(3 * p.startWatts, 9);
  });
  test('only resistors that are neither too fast nor last overnight', () => {
    const all = bleedPlans(THREE).map((p) => p.ohm);
    expect(all).toEqual([12, 15, 18, 22, 27, 33]);
    expect(STOCK_OHM).toEqual(expect.arrayContaining(all));
  });
  test.each([
    [30, 30],
    [20, 50],
    [101, 30],
  ])('from %d to %d %% is refused', (from, to) => expect(() => bleedHours({ ...THREE, from, to }, 22)).toThrow(RangeError));
});

test.each([
  ['swollen', 'it is damaged'],
  ['wet', 'it is damaged'],
  ['hot', 'it is critical'],
  ['no-output', 'do not force it'],
])('a pack found %s is not brought down: %s', (code, words) => {
  const why = (more: ReturnType<typeof entry>[]) => {
    const facts = foldPack(PACK, [...soundPack(), ...more])!;
    return whyNotBleed(facts, rule(facts, DEFAULT_POLICY, NOW, ON)).join('; ');
  };
  expect(why([])).toBe('');
  expect(why([entry('finding-recorded', { code })])).toContain(words);
});

// Days to cut-off of a 4.4 Ah pack at 2 % a month and 120 uA: computed; the drains themselves are orders of magnitude from memory.
describe('on the shelf', () => {
  test.each([
    [50, 5, { perMonth: 0.02, amps: 120e-6 }, 343],
    [30, 0, { perMonth: 0.02, amps: 120e-6 }, 229],
    [2, 0, { perMonth: 0.01, amps: 10e-6 }, 52],
    [10, 20, { perMonth: 0.02, amps: 120e-6 }, 0],
  ])('%d to %d %%: %p', (from, to, drain, days) => expect(daysTo(from, to, 4.4, drain)).toBeCloseTo(days, -0.3));
  test('a wider charge gives a wider interval, and lower ends come sooner', () => {
    const narrow = shelfLife({ lo: 48, hi: 52 }, 4.4);
    const wide = shelfLife({ lo: 40, hi: 60 }, 4.4);
    expect(wide.toLow.lo).toBeLessThan(narrow.toLow.lo);
    expect(wide.toLow.hi).toBeGreaterThan(narrow.toLow.hi);
    expect(narrow.toCutOff.lo).toBeGreaterThan(narrow.toLow.lo);
    expect(() => shelfLife({ lo: 0, hi: 1 }, 0)).toThrow(RangeError);
  });
});

test('the top-up plan: soonest first, the unknown last, and only sound packs are in it', () => {
  const of = (id: string, tag: string, ...more: ReturnType<typeof soundPack>) => {
    // Known for two days, so that a charge measured today stands for itself.
    const known = soundPack().map((e) => {
      const at = new Date(Date.parse(e.at) - 2 * DAY_MS).toISOString();
      return { ...e, at, recordedAt: at, effectiveAt: at };
    });
    const facts = { ...foldPack(PACK, [...known, ...more])!, id, tag };
    return { facts, ruling: rule(facts, DEFAULT_POLICY, NOW, ON) };
  };
  const gauge = (left: string) =>
    entry(
      'gauge-read',
      {
        designCapacity: { digits: '5000', unit: 'mAh' },
        fullChargeCapacity: { digits: '4600', unit: 'mAh' },
        remainingCapacity: { digits: left, unit: 'mAh' },
        maxError: 2,
      },
      { minutes: 30 },
    );
  const half = of('a', 'A', gauge('2300'));
  const full = of('b', 'B', gauge('4370'));
  const low = of('c', 'C');
  const unknown = of('d', 'D');
  const blind = { ...unknown, ruling: { ...unknown.ruling, electrical: { ...unknown.ruling.electrical, charge: null } } };
  const swollen = of('e', 'E', entry('finding-recorded', { code: 'swollen' }));
  const plan = shelfPlan([blind, full, half, swollen, low]);
  expect(plan.map((l) => l.tag)).toEqual(['C', 'A', 'B', 'D']);
  expect(plan.map((l) => l.high)).toEqual([false, false, true, false]);
  expect(plan[3]!.topUpBy).toBeNull();
});

// Hydrogen fluoride 20 to 200 mg/Wh and IDLH 30 ppm: published, from memory; the rest is arithmetic.
test('one pack of 50 Wh burnt in 60 m3', () => {
  const { ppm, cubicMetres, gasLitres, gasCubicMetres, heat } = roomBurn(50, 60);
  expect([ppm.lo, ppm.hi].map((x) => Math.round(x * 10) / 10)).toEqual([20.4, 203.7]);
  expect([cubicMetres.lo, cubicMetres.hi].map(Math.round)).toEqual([41, 407]);
  expect(minutesToAir(204, 3, 6)).toBeCloseTo(42.2, 1);
  // At 3.8 V a cell the handbook has 32.9 l and 1.64 m3; at 3.6 V the same energy is more ampere-hours, never fewer.
  expect([gasLitres * (3.6 / 3.8), gasCubicMetres * (3.6 / 3.8)].map((x) => Math.round(x * 100) / 100)).toEqual([32.89, 1.64]);
  expect([heat.lo, heat.hi]).toEqual([270, 3780]);
});

describe('a pack on its way down', () => {
  const begun = entry('brought-down', { to: 30, how: 'resistor', hours: 2.5 }, { minutes: 60 });
  const told = (...more: ReturnType<typeof entry>[]) => {
    const facts = foldPack(PACK, [...soundPack(), begun, ...more])!;
    const ruling = rule(facts, DEFAULT_POLICY, NOW, ON);
    const dues = duesOf(facts, ruling.judgement, (iso) => iso.slice(0, 10)).filter((d) => d.what === 'discharge');
    return { at: dues.map((d) => d.at), charge: ruling.electrical.charge, refused: whyNotBleed(facts, ruling) };
  };
  test('is due when it should be there, is begun once, and its charge is not known', () => {
    const { at, charge, refused } = told();
    expect(at).toEqual([`${ON}T11:30:00.000Z`]);
    expect(charge).toBeNull();
    expect(refused).toContain('it is being brought down already');
  });
  test('a reading meanwhile does not end it; somebody who says so does, and so does what is done with it next', () => {
    const volts = entry('reading-taken', { quantity: 'pack-voltage', figure: { digits: '11.30', unit: 'V' } }, { minutes: 90 });
    expect(told(volts).at).toHaveLength(1);
    const met = entry('due-met', { meets: begun.id }, { minutes: 200 });
    expect(told(met).at).toEqual([]);
    const slip = entry('retracted', { reason: 'another pack' }, { minutes: 201, replaces: met.id });
    expect(told(met, { ...slip, waits: 'nobody' } as typeof slip).at).toHaveLength(1);
    expect(told(entry('topped-up', { to: 50 }, { minutes: 200 })).at).toEqual([]);
    const back = entry('retracted', { reason: 'another pack' }, { minutes: 61, replaces: begun.id });
    expect(told({ ...back, waits: 'nobody' } as typeof back).at).toEqual([]);
    const again = entry('brought-down', { to: 30, how: 'notebook', hours: 2 }, { minutes: 120 });
    expect(told(again).at).toEqual([`${ON}T12:00:00.000Z`]);
  });
});

describe('how long it lasts', () => {
  const ruled = (...more: Parameters<typeof foldPack>[1]) =>
    rule(foldPack(PACK, [...soundPack(), ...more])!, DEFAULT_POLICY, NOW, ON);

  // 50 Wh at 85 % health, 95 % of it usable, at 8 W: 5.05 h (check value C106 of our own arithmetic).
  test('the check value lies where the usual part is drawn', () => {
    const i = hoursAt({ lo: 50 * 0.85 * 0.93, hi: 50 * 0.85 * 0.97 }, { lo: 8, hi: 8 });
    expect(i.lo < 5.05 && 5.05 < i.hi).toBe(true);
  });

  test('a worse gauge never promises more, and without a gauge nothing is promised', () => {
    const at = (full: string) =>
      usableEnergy(
        ruled(
          entry(
            'gauge-read',
            { designCapacity: { digits: '5000', unit: 'mAh' }, fullChargeCapacity: { digits: full, unit: 'mAh' } },
            { minutes: 1 },
          ),
        ),
      );
    const [good, worn] = [at('4800'), at('3600')];
    expect(good!.hi).toBeGreaterThan(worn!.hi);
    expect(good!.lo).toBeGreaterThan(worn!.lo);
    const bare = foldPack(
      PACK,
      soundPack().filter((e) => e.kind !== 'gauge-read'),
    )!;
    expect(usableEnergy(rule(bare, DEFAULT_POLICY, NOW, ON))).toBeNull();
  });

  test.each([
    [0.33, 'short'],
    [0.9, 'load'],
    [4, 'fits'],
    [90, 'long'],
  ] as const)('a full charge of 45 Wh that lasted %d h: %s', (hours, verdict) => {
    const { watts, verdict: told } = whatLasted({ lo: 43, hi: 47 }, hours);
    expect(told).toBe(verdict);
    // What was drawn in that time is what was there.
    expect(watts.lo * hours).toBeCloseTo(43, 9);
  });

  test.each([
    ['160', 160 / 60],
    ['2:40', 160 / 60],
    ['2 h 40 min', 160 / 60],
    ['2h40', 160 / 60],
    ['2,5 h', 2.5],
    ['20 minutes', 1 / 3],
    ['', null],
    ['0', null],
    ['h', null],
    ['-5', null],
    ['2:75', null],
    ['soon', null],
    ['9999 h', null],
  ])('"%s" is %d h', (said, hours) => {
    if (hours === null) expect(durationOf(said)).toBeNull();
    else expect(durationOf(said)).toBeCloseTo(hours, 9);
  });
});
