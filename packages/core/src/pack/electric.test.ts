import * as e from './electric';

// Check values worked by hand from the formulas named beside each function, from memory of their sources.
test.each([
  ['Arrhenius, 50 kJ/mol, 25 to 35 °C', e.arrhenius(50, 25, 35), 1.924, 3],
  ['Arrhenius, 50 kJ/mol, 25 to 40 °C', e.arrhenius(50, 25, 40), 2.628, 3],
  ['a step of 0.34 V by 2 A', e.stepResistance({ volts: 11.52, amperes: 0.4 }, { volts: 11.18, amperes: 2.4 }), 0.17, 4],
  ['0.170 Ω at 20 °C is at 25 °C', e.resistanceAt(0.17, 20, 25), 0.1431, 4],
  ['R(20 °C)/R(25 °C)', e.resistanceAt(1, 25, 20), 1.188, 3],
  ['R(15 °C)/R(25 °C)', e.resistanceAt(1, 25, 15), 1.419, 3],
  ['R(5 °C)/R(25 °C)', e.resistanceAt(1, 25, 5), 2.065, 3],
  ['R(40 °C)/R(25 °C)', e.resistanceAt(1, 25, 40), 0.617, 3],
  ['kJ of 50 Wh', e.kilojoules(50), 180, 9],
  ['runtime of 50 Wh at 8 W', e.runtimeHours(50, 0.85, 8), 5.05, 2],
  ['4 Ah, 2.8 A to 80 %', e.chargeHours(4, 2.8, 0.8, 0.2).constantCurrent, 1.143, 3],
  ['the taper to 0.2 A', e.chargeHours(4, 2.8, 0.8, 0.2).constantVoltage, 0.812, 3],
  ['its τ', e.chargeHours(4, 2.8, 0.8, 0.2).tau, 0.3077, 4],
  ['vent gas of 50 Wh, 3 in series', e.ventGasLitres(4.386, 3), 32.9, 1],
  ['a quarter of 8 % needs', e.explosiveRoom(32.9, 0.25), 1.645, 3],
  ['stored from 50 to 5 %', e.storedDays(4.4, 0.5, 0.05, 0.02, 120e-6), 343.1, 1],
  ['the reserve below 0 %', e.storedDays(4.4, 0.02, 0, 0.01, 10e-6), 52.2, 1],
  ['Schmalstieg, a year at 3.9 V', 100 * e.schmalstieg.calendar(3.9, 298.15, 365), 3.263, 3],
  ['Schmalstieg, 500 Ah', 100 * e.schmalstieg.cycles(3.7, 0.8, 500), 9.018, 3],
])('%s', (_what, got, want, digits) => expect(got).toBeCloseTo(want, digits));

test('capacity from two rests, with its uncertainty, and none where they lie too near', () => {
  const c = e.capacityFromRests(2.04, 0.86, 0.35, { charge: 0.02, flow: 0.01 })!;
  expect(c.ampereHours).toBeCloseTo(4, 6);
  expect(c.relative).toBeCloseTo(0.056, 2);
  expect(e.capacityFromRests(1, 0.6, 0.3, { charge: 0.02, flow: 0.01 })).toBeNull();
});

test('there and back again', () => {
  for (const [ohm, at] of [
    [0.1, 5],
    [0.2, 38],
  ] as const)
    expect(e.resistanceAt(e.resistanceAt(ohm, 25, at), at, 25)).toBeCloseTo(ohm, 12);
  expect(e.meanWatts(e.runtimeHours(50, 1, 8, 1) * 8, e.runtimeHours(50, 1, 8, 1))).toBeCloseTo(8, 12);
  expect(e.fullCycles(88, 4.4)).toBeCloseTo(20, 12);
});

test.each([
  () => e.stepResistance({ volts: 12, amperes: 1 }, { volts: 11, amperes: 1 }),
  () => e.fullCycles(3, 0),
  () => e.runtimeHours(50, 1, 0),
  () => e.meanWatts(5, 0),
  () => e.chargeHours(4, 1, 0.8, 1),
  () => e.chargeHours(4, 1, 1.2, 0.1),
])('what has no answer is refused: %p', (act) => expect(act).toThrow(RangeError));
