import fc from 'fast-check';
import { CURVE_KEYS, type CurveKey, voltsAt } from '../cell/curve';
import { chargeHours } from '../pack/electric';
import { measureLog } from './measure';
import { type Cells, phasesOf } from './phases';
import { readLog } from './read';

type Row = readonly [seconds: number, volts: number, amperes: number];
const csv = (rows: readonly Row[]): string =>
  ['Time (s),Voltage (V),Current (A)', ...rows.map(([t, v, i]) => `${t},${v.toFixed(4)},${i.toFixed(4)}`)].join('\n');
const phases = (rows: readonly Row[], cells: Cells | null = null) => {
  const log = readLog(csv(rows));
  return phasesOf(log, measureLog(log, {}, cells?.series), cells);
};
const cellsOf = (...curves: readonly CurveKey[]): Cells => ({ series: 3, curves, families: ['STD'] });

/** A pack of three cells on a curve: a rest, a current from one charge to another, a rest; volts in between do not matter. */
function betweenRests(
  curve: CurveKey,
  ampereHours: number,
  from: number,
  to: number,
  minutes: readonly [number, number],
  sign = 1,
): Row[] {
  const [amperes, every] = [2, 60];
  const seconds = (Math.abs(from - to) * ampereHours * 3600) / amperes;
  const at = (z: number) => 3 * voltsAt(curve, 100 * z);
  const rows: Row[] = [];
  let t = 0;
  for (; t <= minutes[0] * 60; t += every) rows.push([t, at(from), 0]);
  const begin = t;
  for (; t - begin <= seconds; t += every) {
    const z = from + ((to - from) * (t - begin)) / seconds;
    rows.push([t, at(z) - 0.1 * Math.sign(from - to), sign * Math.sign(from - to) * amperes]);
  }
  const end = t;
  for (; t - end <= minutes[1] * 60; t += every) rows.push([t, at(to), 0]);
  return rows;
}

test('the capacity of a pack is found between its two rests, whichever way and however the current is written', () => {
  fc.assert(
    fc.property(
      fc.constantFrom<CurveKey>('LCO_4.20', 'NMC_4.20'),
      fc.double({ min: 1.5, max: 8, noNaN: true }),
      fc.boolean(),
      fc.constantFrom(1, -1),
      (curve, ampereHours, charges, sign) => {
        const [from, to] = charges ? [0.1, 0.9] : [0.95, 0.15];
        const { restCapacityAh: found } = phases(betweenRests(curve, ampereHours, from, to, [150, 150], sign), cellsOf(curve));
        expect(found!.lo).toBeLessThanOrEqual(ampereHours);
        expect(found!.hi).toBeGreaterThanOrEqual(ampereHours);
        // And it says something: no wider than a third either way.
        expect(found!.hi - found!.lo).toBeLessThan(0.67 * ampereHours);
      },
    ),
    { numRuns: 40 },
  );
});

test('rests that are short, near to each other, or missing say nothing, and what is not known of the cells does not either', () => {
  const good = betweenRests('NMC_4.20', 4, 0.95, 0.15, [150, 150]);
  const none = (rows: readonly Row[], cells: Cells | null) => expect(phases(rows, cells).restCapacityAh).toBeNull();
  none(betweenRests('NMC_4.20', 4, 0.95, 0.15, [10, 150]), cellsOf('NMC_4.20'));
  none(betweenRests('NMC_4.20', 4, 0.95, 0.15, [150, 10]), cellsOf('NMC_4.20'));
  none(betweenRests('NMC_4.20', 4, 0.95, 0.7, [150, 150]), cellsOf('NMC_4.20'));
  none(good.slice(0, -160), cellsOf('NMC_4.20'));
  none(good, cellsOf());
  none(good, null);
  // Knowing less of the curve never narrows it.
  const [one, all] = [cellsOf('NMC_4.20'), cellsOf(...CURVE_KEYS)].map((c) => phases(good, c).restCapacityAh);
  if (all) expect(all!.hi - all!.lo).toBeGreaterThanOrEqual(one!.hi - one!.lo);
});

test('time at constant current and at constant voltage, against the closed form of the taper', () => {
  // 4 Ah by 2.8 A, 0.8 of it at constant current, to 0.2 A: 1.143 h and 0.812 h, worked by hand from t1 = kQ/I, t2 = τ ln(I/It).
  const { constantCurrent, constantVoltage, tau } = chargeHours(4, 2.8, 0.8, 0.2);
  const rows: Row[] = [];
  for (let t = 0; t <= (constantCurrent + constantVoltage) * 3600; t += 10) {
    const h = t / 3600;
    rows.push(
      h <= constantCurrent
        ? [t, 10.5 + (2.1 * h) / constantCurrent, 2.8]
        : [t, 12.6, 2.8 * Math.exp(-(h - constantCurrent) / tau)],
    );
  }
  const { charging } = phases(rows);
  // Current within five of a hundred still counts as constant: that much of the taper, and no more.
  const shared = tau * Math.log(1 / 0.95) + 0.01;
  expect(charging!.constantCurrent).toBeGreaterThan(constantCurrent - 0.01);
  expect(charging!.constantCurrent).toBeLessThan(constantCurrent + shared);
  expect(charging!.constantCurrent + charging!.constantVoltage).toBeCloseTo(constantCurrent + constantVoltage, 1);
  expect(phases(betweenRests('NMC_4.20', 4, 0.95, 0.15, [150, 150])).charging).toBeNull();
});

test('a loss at rest is told a day and cell, with the last digit of the meter in it, and never from a short rest', () => {
  const resting = (days: number, perDay: number): Row[] =>
    Array.from({ length: days * 144 }, (_, k) => [k * 600, 3 * (3.9 - (perDay * k) / 144 / 1000), 0] as const);
  const { restDrift } = phases(resting(4, 5), cellsOf('NMC_4.20'));
  expect(restDrift!.lo).toBeLessThanOrEqual(5);
  expect(restDrift!.hi).toBeGreaterThanOrEqual(5);
  expect(restDrift!.hi - restDrift!.lo).toBeLessThan(1);
  expect(phases(resting(4, 0), cellsOf('NMC_4.20')).restDrift!.lo).toBeLessThanOrEqual(0);
  expect(phases(resting(0.5, 5), cellsOf('NMC_4.20')).restDrift).toBeNull();
  expect(phases(resting(4, 5)).restDrift).toBeNull();
});
