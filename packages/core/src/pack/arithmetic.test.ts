import { chargeAt, energyFraction } from '../cell/curve';
import { judge, probabilityAbove } from '../quantity/limit';
import { differenceOfSame, expanded, limitsOf, rectangular, combine } from '../quantity/uncertainty';
import { parseDigits, micro } from '../quantity/figure';
import { judgeCell, worstPossibleCell } from './cells';
import { chargeFromRest, ratedCharge, ratedChargeFromGauge } from './charge';
import { parseCoin, parseDesignation, parseTradeSize } from './designation';
import { healthOf } from './health';
import { judgeImbalance } from './imbalance';
import { capacityInterval, checkLabel, declaredEnergyMicro, energyInterval, voltageInterval } from './label';
import { parallelCandidates, seriesFromChargeLimit, seriesFromMeasured, seriesFromNominal } from './layout';
import { restOf, settled } from './rest';
import { growth, judgeSwelling } from './swelling';
import { judgeHeat } from './temperature';
import { matchCode } from './type-code';

const V = (digits: string) => ({ digits, unit: 'V' as const });
const mAh = (digits: string) => ({ digits, unit: 'mAh' as const });
const Wh = (digits: string) => ({ digits, unit: 'Wh' as const });

describe('figures', () => {
  test.each([
    ['11,4', '11.4'],
    ['11.40', '11.40'],
    [' .5', '0.5'],
    ['11.4.2', null],
    ['1,234.5', null],
    ['abc', null],
    ['', null],
  ])('typed %p reads as %p', (typed, digits) => expect(parseDigits(typed)).toBe(digits));

  test('are exact: 15.4 V x 6494 mAh is over 100 Wh, 11.55 V x 8658 mAh is not (38.3.2.3, computed)', () => {
    expect(declaredEnergyMicro(V('15.4'), mAh('6494'))).toBe(100_007_600);
    expect(declaredEnergyMicro(V('11.55'), mAh('8658'))).toBe(99_999_900);
    expect(micro({ digits: '99.99', unit: 'Wh' })).toBe(99_990_000);
  });
});

// Check values: computed from the printed digits (vectors C04, C06 of the handbook set), trade convention for the verdict bands.
describe('label energy', () => {
  test('interval that the printed digits allow', () => {
    const i = energyInterval(V('11.4'), mAh('3685'));
    expect(i.lo).toBeCloseTo(41.819, 3);
    expect(i.hi).toBeCloseTo(42.199, 3);
  });
  test('and back: capacity and voltage that printed energy allows hold the printed ones', () => {
    const capacity = capacityInterval(Wh('42'), V('11.4'));
    expect(capacity.lo).toBeCloseTo(41.5 / 11.45, 6);
    expect(capacity.hi).toBeCloseTo(42.5 / 11.35, 6);
    const voltage = voltageInterval(Wh('42'), mAh('3685'));
    expect(voltage.lo).toBeLessThan(11.4);
    expect(voltage.hi).toBeGreaterThan(11.4);
  });
  test.each([
    ['11.4', '3685', '42', 'consistent'],
    ['11.6', '3553', '41.04', 'consistent'],
    ['11.4', '3685', '43', 'consistent if rounded'],
    ['11.4', '3685', '44.9', 'doubtful'],
    ['11.1', '4400', '56', 'inconsistent'],
  ])('%s V x %s mAh against %s Wh is %s', (v, q, e, verdict) =>
    expect(checkLabel({ nominalVoltage: V(v), ratedCapacity: mAh(q), ratedEnergy: Wh(e) }).verdict).toBe(verdict),
  );
});

// Band rule on data sheet classes, from memory (C08-C23).
describe('series and family from nominal volts', () => {
  test.each([
    ['7.4', 2, 'STD', ['STD']],
    ['7.6', 2, 'HV435', ['MID', 'HV435']],
    ['7.7', 2, 'HV440', ['HV435', 'HV440', 'HV445']],
    ['10.8', 3, 'STD', ['STD']],
    ['11.25', 3, 'MID', ['MID']],
    ['11.4', 3, 'HV435', ['MID', 'HV435']],
    ['11.55', 3, 'HV440', ['HV440']],
    ['14.8', 4, 'STD', ['STD']],
    ['15.44', 4, 'HV440', ['HV440']],
  ])('%s V is %dS %s', (v, series, best, possible) =>
    expect(seriesFromNominal(V(v))).toEqual([expect.objectContaining({ series, best, possible })]),
  );
  test('12.0 V fits no lithium-ion pack', () => expect(seriesFromNominal(V('12.0'))).toEqual([]));
  test('a measured 11.4 V may be three cells or four', () => expect(seriesFromMeasured(11.4)).toEqual([3, 4]));
});

// Divisor search (C25-C33).
describe('charge-limit decode', () => {
  test.each([
    ['8.4', 2, 4.2],
    ['8.7', 2, 4.35],
    ['12.6', 3, 4.2],
    ['13.05', 3, 4.35],
    ['13.2', 3, 4.4],
    ['17.4', 4, 4.35],
    ['14.6', 4, 3.65],
  ])('%s V is %dS x %d V', (v, series, perCell) =>
    expect(seriesFromChargeLimit(V(v))[0]).toMatchObject({ series, perCell, listed: true }),
  );
  test('a rounded 8.9 V fits two limits', () =>
    expect(seriesFromChargeLimit(V('8.9')).map((r) => r.perCell)).toEqual([4.45, 4.48]));
});

test.each([
  [2.6, [1], [], [1]],
  [4.4, [2], [1], [1, 2]],
  [6.6, [2, 3], [], [1, 2, 3]],
  [7.8, [3], [], [1, 2, 3]],
] as const)('parallel candidates of %d Ah (C34-C38)', (ah, r18, r21, pouch) => {
  expect(parallelCandidates(ah, '18650')).toEqual(r18);
  expect(parallelCandidates(ah, '21700')).toEqual(r21);
  expect(parallelCandidates(ah, 'pouch')).toEqual(pouch);
});

// IEC 61960-3 and IEC 60086 examples, from memory (P07-P11, C150-C154).
describe('designations', () => {
  test('round, prismatic, tenths, series and parallel', () => {
    expect(parseDesignation('ICR19/66')).toMatchObject({
      anode: 'I',
      cathode: 'C',
      shape: 'round',
      thickness: { lo: 18, hi: 19 },
      height: { lo: 65, hi: 66 },
    });
    expect(parseDesignation('ICPt9/35/48')).toMatchObject({ shape: 'prismatic', thickness: { lo: 0.8, hi: 0.9 } });
    expect(parseDesignation('1ICP20/68/70-2')).toMatchObject({ series: 1, parallel: 2 });
    expect(parseDesignation('4ICP5/57/101')).toMatchObject({ series: 4, width: { lo: 56, hi: 57 } });
    expect(parseDesignation('IFpR19/66')).toMatchObject({ cathode: 'Fp' });
  });
  test('a misread I is repaired, and said', () =>
    expect(parseDesignation('41CP5/57/101')).toMatchObject({ series: 4, forgave: ['I read as 1'] }));
  test('a round cell with a width is refused', () => expect(parseDesignation('ICR19/30/66')).toBeNull());
  test('trade codes are not of that form', () => {
    expect(parseDesignation('ICP606168')).toBeNull();
    expect(parseTradeSize('ICP606168')).toEqual([{ thickness: 6, width: 61, height: 68 }]);
    expect(parseTradeSize('5057101').length).toBe(1);
  });
  test('CR2032', () => expect(parseCoin('CR2032')).toEqual({ system: 'CR', diameter: 20, height: 3.2, nominal: 3 }));
});

describe('type codes', () => {
  test('look-alikes are forgiven, and named', () => {
    expect(matchCode('BHOC15S', 'BH0C15S')).toEqual({ kind: 'forgiven', pairs: ['O taken for 0'] });
    expect(matchCode('bh0c', 'BH0C15S')).toEqual({ kind: 'exact' });
    expect(matchCode('8H0C1SS', 'BH0C15S')).toEqual({ kind: 'forgiven', pairs: ['8 taken for B', 'S taken for 5'] });
    expect(matchCode('XH0C15S', 'BH0C15S')).toEqual({ kind: 'none' });
  });
});

// Linear interpolation of the working tables (C61-C67, C69-C74).
describe('rest voltage and charge', () => {
  test.each([
    ['LCO_4.20', 3.8, 40],
    ['NMC_4.20', 3.8, 60],
    ['HV_4.40', 3.8, 35],
    ['LCO_4.20', 3.7, 12],
    ['NMC_4.20', 3.7, 48.6],
  ] as const)('%s at %d V is %d %%', (curve, volts, soc) => expect(chargeAt(curve, volts)).toBeCloseTo(soc, 0));
  test('energy fraction', () => {
    expect(energyFraction('HV_4.35', 30)).toBeCloseTo(0.283, 3);
    expect(energyFraction('LCO_4.20', 50)).toBeCloseTo(0.4827, 3);
  });
  test('unknown family spans all of them', () => {
    const i = chargeFromRest(3.7, 0.005, ['LCO_4.20', 'NMC_4.20', 'HV_4.45']);
    expect(i.lo).toBeLessThan(12);
    expect(i.hi).toBeGreaterThan(50);
  });
  test('too early is no rest voltage, and says which way it errs', () => {
    expect(restOf(10, 'discharge')).toMatchObject({ rested: false, bias: 'too low', wait: 20 });
    expect(restOf(undefined)).toMatchObject({ rested: false });
    expect(restOf(180).rested).toBe(true);
    expect(settled(11.412, 11.416, 3, 0.001)).toBe('rested');
    expect(settled(11.41, 11.41, 3, 0.01)).toBe('not able');
  });
  test('the gauge counts at its upper end: at least 5 points, of rated capacity', () => {
    expect(ratedChargeFromGauge(1, 4, 5, 2)).toEqual({ lo: 16, hi: 24 });
    expect(ratedChargeFromGauge(1, 4, 4, 8).hi).toBe(33);
    expect(ratedCharge({ lo: 20, hi: 30 }, null).hi).toBeCloseTo(30.9, 6);
    expect(ratedCharge({ lo: 20, hi: 30 }, { lo: 0.75, hi: 0.85 }).hi).toBeCloseTo(25.5, 6);
  });
});

test('health bands; wear is never damage (C78)', () => {
  expect(healthOf(42636, 50160)).toMatchObject({ band: 'normal', trusted: true });
  expect(healthOf(42636, 50160)!.percent).toBeCloseTo(85, 2);
  expect(healthOf(60000, 50160)!.trusted).toBe(false);
  expect(healthOf(0, 50160)).toBeNull();
});

// Worst slope, trade convention; C72, C74 for the conversion.
describe('imbalance is judged in charge', () => {
  test('20 mV on the flat part is more than 100 mV at the bottom', () => {
    expect(judgeImbalance([3.8, 3.82], ['LCO_4.20'], 0.003).charge).toBeCloseTo(6.7, 0);
    expect(judgeImbalance([3.4, 3.5], ['LCO_4.20'], 0.003)).toMatchObject({ grade: 'good', code: null });
    expect(judgeImbalance([3.4, 3.5], ['LCO_4.20'], 0.003).charge).toBeCloseTo(1.5, 1);
  });
  test('bad, severe, and one empty cell', () => {
    expect(judgeImbalance([3.78, 3.9], ['LCO_4.20'], 0.003).code).toBe('imbalance');
    expect(judgeImbalance([3.7, 4.05], ['LCO_4.20'], 0.003).code).toBe('imbalance-severe');
    expect(judgeImbalance([2.4, 3.35], ['LCO_4.20'], 0.003).code).toBe('imbalance-severe');
  });
});

// A band includes its lower edge; borders are guarded. Trade convention, no source.
describe('deep-discharge bands', () => {
  const code = (volts: number, dwellHours?: number) =>
    judgeCell({ volts, u: 0, chargeLimit: 4.35, dwellHours, point: '1' }).codes;
  test.each([
    [2.5, undefined, []],
    [2.499, undefined, ['low-voltage']],
    [2.0, undefined, ['low-voltage']],
    [1.999, undefined, ['deep-discharge-severe']],
    [1.999, 24, ['deep-discharge']],
    [1.999, 25, ['deep-discharge-severe']],
    [1.5, 24, ['deep-discharge']],
    [1.499, 1, ['deep-discharge-severe']],
    [-0.1, 1, ['reversed-cell', 'deep-discharge-severe']],
    [4.45, undefined, []],
    [4.451, undefined, ['over-voltage']],
  ])('%d V after %p h: %p', (volts, dwell, codes) => expect(code(volts, dwell)).toEqual(codes));
  test('inside the guard band it cannot be told', () => {
    expect(judgeCell({ volts: 2.51, u: 0.02, chargeLimit: null, point: '1' })).toMatchObject({ codes: [], unclear: true });
  });
  test('pack volts never pass a cell: 14.8 V on 4S leaves one at 1.6 V, 10.5 V on 3S one at 1.8 V', () => {
    expect(worstPossibleCell(14.8, 4, 4.4)).toBeCloseTo(1.6, 6);
    expect(worstPossibleCell(10.5, 3, 4.35)).toBeCloseTo(1.8, 6);
  });
});

// JCGM 100 / 106 (C140-C144, P32, P33).
describe('uncertainty and guarded limits', () => {
  test('multimeter, difference, conformity', () => {
    const a = limitsOf({ percent: 0.5, digits: 2 }, 11.42, 0.01);
    expect(a).toBeCloseTo(0.0771, 4);
    expect(expanded(rectangular(a))).toBeCloseTo(0.089, 3);
    expect(expanded(differenceOfSame(2, 1))).toBeCloseTo(3.27, 2);
    expect(probabilityAbove(5.52, 0.0265, 5.5)).toBeCloseTo(0.775, 3);
  });
  test.each([
    [5.447, 'pass'],
    [5.448, 'cannot tell'],
    [5.553, 'cannot tell'],
    [5.554, 'fail'],
  ] as const)('5.50 mm with U 0.053: %d is %s', (x, verdict) => expect(judge(x, 0.053, 5.5, 'max')).toBe(verdict));
  test('equality is inside', () => {
    expect(judge(30, 0, 30, 'max')).toBe('pass');
    expect(judge(2.5, 0, 2.5, 'min')).toBe('pass');
  });
});

// Two schools, trade convention; the guarded edge of 5.417 mm for t0 5.00 +- 0.05 is computed.
describe('swelling', () => {
  const u = combine(0.0173, 0.02);
  test('10.4 % (C91)', () => expect(growth(5.52, u, 5, 0.03).percent).toBeCloseTo(10.4, 2));
  test('the uncertainty of the new thickness belongs in the decision', () => {
    expect(judgeSwelling(growth(5.417, u, 5, 0.05), 'allowance', 5, 'centre').limit.verdict).toBe('pass');
    expect(judgeSwelling(growth(5.42, u, 5, 0.05), 'allowance', 5, 'centre').limit.verdict).toBe('cannot tell');
  });
  test.each([
    ['any', 5.1, null, false],
    ['any', 5.24, null, true],
    ['any', 5.4, 'swollen', false],
    ['allowance', 5.4, null, false],
    ['allowance', 5.49, 'swelling-spent', true],
    ['allowance', 5.7, 'swollen', false],
  ] as const)('%s at %d mm of 5.00: %p, unclear %p', (school, t, code, unclear) => {
    expect(judgeSwelling(growth(t, u, 5, 0.03), school, 5, 'centre')).toMatchObject({ code, unclear });
  });
});

test('hot: over 60 degrees, or 10 K over the room after half an hour', () => {
  expect(judgeHeat(61.2, 1, 20, undefined).hot).toBe(true);
  expect(judgeHeat(60.5, 1, null, undefined)).toMatchObject({ hot: false, unclear: true });
  expect(judgeHeat(34, 1, 20, 45).hot).toBe(true);
  expect(judgeHeat(34, 1, 20, 5).hot).toBe(false);
});
