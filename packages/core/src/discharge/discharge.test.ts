import fc from 'fast-check';
import { type Compared, compareLogs } from './compare';
import { measureLog } from './measure';
import { BadLog, decodeLog, readLog } from './read';
import { atSteps, thinned } from './thin';

/** A pack of a capacity, Ah, behind a resistance, Ω, at a constant current; volts fall in a straight line from full to empty. */
function constantCurrent({
  amperes = 2,
  ampereHours = 4,
  ohm = 0.15,
  full = 12.5,
  empty = 9.6,
  every = 10,
  sign = 1,
}: Partial<Record<'amperes' | 'ampereHours' | 'ohm' | 'full' | 'empty' | 'every' | 'sign', number>> = {}): [
  number,
  number,
  number,
][] {
  const seconds = (ampereHours / amperes) * 3600;
  const rows: [number, number, number][] = [
    [0, full, 0],
    [every, full, 0],
  ];
  for (let t = 0; t <= seconds; t += every)
    rows.push([2 * every + t, full - ((full - empty) * t) / seconds - amperes * ohm, sign * amperes]);
  rows.push([3 * every + seconds, empty, 0]);
  return rows;
}
const csv = (rows: readonly (readonly number[])[], head = 'Time (s),Voltage (V),Current (A)', join = ','): string =>
  [head, ...rows.map((r) => [r[0], r[1]!.toFixed(4), r[2]!.toFixed(4)].join(join))].join('\n');
const measured = (text: string, ...more: [Parameters<typeof measureLog>[1]?, number?]) => measureLog(readLog(text), ...more);
const holds = (i: { lo: number; hi: number } | null, x: number) => i !== null && i.lo <= x && x <= i.hi;

describe('against closed forms', () => {
  test.each([1, -1])('a constant current through a known resistance, current written with sign %d', (sign) => {
    const r = measured(csv(constantCurrent({ sign })), { ampereHours: 4.4 }, 3);
    expect(holds(r.capacityAh, 4)).toBe(true);
    // Mean volts under load: halfway, less I·R.
    expect(holds(r.energyWh, 4 * ((12.5 + 9.6) / 2 - 0.3))).toBe(true);
    expect(holds(r.resistanceOhm, 0.15)).toBe(true);
    expect(r.meanAmperes).toBeCloseTo(2, 3);
    expect(holds(r.healthPercent, (100 * 4) / 4.4)).toBe(true);
    expect(r.capacityAh.hi - r.capacityAh.lo).toBeLessThan(0.15);
    expect(r).toMatchObject({ gaps: 0, remarks: [] });
  });

  test('a capacitor over a resistor: charge and energy of an exponential', () => {
    const [farad, ohm, from] = [900, 30, 12];
    const rows = Array.from({ length: 5000 }, (_, t) => {
      const v = from * Math.exp((-t * 10) / (ohm * farad));
      return [t * 10, v, v / ohm] as const;
    });
    const end = rows[rows.length - 1]![1];
    const r = measured(csv(rows));
    expect(holds(r.capacityAh, (farad * (from - end)) / 3600)).toBe(true);
    expect(holds(r.energyWh, (farad * (from ** 2 - end ** 2)) / 2 / 3600)).toBe(true);
  });

  // Factors R(T)/R(25 °C) of 1.188 at 20 °C and 0.617 at 40 °C (Arrhenius, 25 kJ/mol: check value C156 of our own arithmetic).
  test.each([
    [20, 1.188],
    [40, 0.617],
  ])('a resistance measured at %d °C holds what it is at 25 °C, and says how far it may be off', (celsius, factor) => {
    const text = csv(constantCurrent())
      .split('\n')
      .map((line, i) => `${line},${i === 0 ? 'Temperature (C)' : celsius}`);
    const r = measured(text.join('\n'), { ampereHours: 4 });
    expect(r.celsius).toEqual({ lo: celsius, hi: celsius });
    expect(holds(r.resistance25Ohm, 0.15 / factor)).toBe(true);
    expect(r.resistance25Ohm!.hi / r.resistance25Ohm!.lo).toBeGreaterThan(r.resistanceOhm!.hi / r.resistanceOhm!.lo);
    expect(holds(r.fullCycles, 1)).toBe(true);
  });

  test('without a temperature nothing is said of 25 °C, and without a label nothing of cycles', () => {
    expect(measured(csv(constantCurrent()))).toMatchObject({ celsius: null, resistance25Ohm: null, fullCycles: null });
  });

  // Check values C80, C83 and C84 of our own arithmetic.
  test('sums and a step worked by hand', () => {
    const rows = [
      [0, 12.3, 2],
      [600, 11.9, 2.1],
      [1200, 11.6, 1.95],
      [1800, 11.3, 2.05],
    ];
    const r = measured(csv(rows));
    expect((r.capacityAh.lo + r.capacityAh.hi) / 2).toBeCloseTo(1.0125, 4);
    expect((r.energyWh.lo + r.energyWh.hi) / 2).toBeCloseTo(11.9154, 4);
    const step = measured(
      csv([
        [0, 11.52, 0.4],
        [1, 11.18, 2.4],
        [2, 11.18, 2.4],
      ]),
    );
    expect(holds(step.resistanceOhm, 0.17)).toBe(true);
  });
});

describe('what logs are like', () => {
  const rows = constantCurrent();
  const base = measured(csv(rows));

  test('semicolons and decimal commas, milli-units, minutes, words above the table and a byte-order mark change nothing', () => {
    const foreign = csv(
      rows.map(([t, v, a]) => [t / 60, v * 1000, a * 1000]),
      '\ufeffLoad test of TH-171\nOperator;Wren\nTime [min];Voltage_mV;Current/mA',
      ';',
    ).replace(/(\d)\.(\d)/g, '$1,$2');
    const r = measured(foreign);
    expect(r.capacityAh.lo).toBeCloseTo(base.capacityAh.lo, 4);
    expect(r.energyWh.hi).toBeCloseTo(base.energyWh.hi, 3);
  });

  test('a clock with a date, or hours and minutes', () => {
    const at = (t: number) => new Date(Date.parse('2026-11-27T08:00:00Z') + t * 1000).toISOString();
    const dated = measured(['timestamp,volts,current', ...rows.map(([t, v, a]) => `${at(t)},${v},${a}`)].join('\n'));
    expect(dated).toMatchObject({ from: '2026-11-27T08:00:00.000Z', rows: rows.length });
    expect(dated.capacityAh.lo).toBeCloseTo(base.capacityAh.lo, 3);
    const clock = (t: number) =>
      [Math.floor(t / 3600), Math.floor(t / 60) % 60, t % 60].map((x) => String(x).padStart(2, '0')).join(':');
    const timed = measured(['time,volts,amps', ...rows.map(([t, v, a]) => `${clock(t)},${v},${a}`)].join('\n'));
    expect(timed.capacityAh.lo).toBeCloseTo(base.capacityAh.lo, 3);
  });

  /** Over midnight, and over the end of a month. */
  const NIGHT = Date.parse('2026-11-30T22:40:10Z');
  const two = (x: number) => String(x).padStart(2, '0');
  const hms = (d: Date) => d.toISOString().slice(11, 19);
  const dmy = (d: Date, join: string) => [two(d.getUTCDate()), two(d.getUTCMonth() + 1), d.getUTCFullYear()].join(join);
  const half = (d: Date) => `${d.getUTCHours() % 12 || 12}:${hms(d).slice(3)} ${d.getUTCHours() < 12 ? 'AM' : 'PM'}`;
  const grouped = (x: number) => Math.round(x).toLocaleString('en-US');
  const point = (x: number) => x.toFixed(4);
  const spelt = (t: number, [first = ':', second = first]: string) =>
    `${two(Math.floor(t / 3600))}${first}${two(Math.floor(t / 60) % 60)}${second}${two(t % 60)}`;
  test.each<[string, string, (d: Date, t: number, v: number, a: number) => string]>([
    ['a time of day alone', 'time,volts,amps', (d, _t, v, a) => `${hms(d)},${point(v)},${point(a)}`],
    [
      'day and time in columns of their own',
      'Datum;Uhrzeit;Spannung/V;Strom/A',
      (d, _t, v, a) => `${dmy(d, '.')};${hms(d)};${point(v)};${point(a)}`.replace(/(?<=;\d+)\.(?=\d{4}(;|$))/g, ','),
    ],
    [
      'a day whose order is not told, morning and evening',
      'Date Time,Voltage,Current',
      (d, _t, v, a) => `${dmy(d, '/')} ${half(d)},${point(v)},${point(a)}`,
    ],
    ['seconds since 1970', 'epoch,V,A', (d, _t, v, a) => `${d.getTime() / 1000},${point(v)},${point(a)}`],
    ['a day beside a count of seconds', 'Date,Test time (s),V,A', (d, t, v, a) => `${dmy(d, '.')},${t},${point(v)},${point(a)}`],
    ['a unit beside each figure', 'time,voltage,current', (_d, t, v, a) => `${t} s,${point(v)} V,${point(a * 1000)} mA`],
    [
      'thousands set apart',
      'Time (ms);Voltage (mV);Current (mA)',
      (_d, t, v, a) => `${grouped(t * 1000)};${grouped(v * 1000)};${grouped(a * 1000)}`,
    ],
    [
      'cells and a setting beside the pack',
      't/s,Cell 1 (V),Pack (V),Set current (A),Current (A)',
      (_d, t, v, a) => `${t},${point(v / 3)},${point(v)},9,${point(a)}`,
    ],
    [
      'units in a row of their own',
      'Zeit;Spannung;Strom\n[min];[mV];[mA]',
      (_d, t, v, a) => `${t / 60};${point(v * 1000)};${point(a * 1000)}`,
    ],
    [
      'units behind a word or a comma',
      'Time in s,"Voltage, V",Current in mA',
      (_d, t, v, a) => `${t},${point(v)},${point(a * 1000)}`,
    ],
    ['days before a time', 'Test Time,V,A', (_d, t, v, a) => `0d ${spelt(t, ':')},${point(v)},${point(a)}`],
    ['days and a point', 'Total time,V,A', (_d, t, v, a) => `12.${spelt(t, ':')},${point(v)},${point(a)}`],
    ['days as the heading says', 'Time (d:hh:mm:ss),V,A', (_d, t, v, a) => `3:${spelt(t, ':')},${point(v)},${point(a)}`],
    ['thousandths behind a colon', 'Time [h:m:s:ms],V,A', (_d, t, v, a) => `${spelt(t, ':')}:000,${point(v)},${point(a)}`],
    ['hours, minutes and seconds spelt out', 'Elapsed,V,A', (_d, t, v, a) => `${spelt(t, 'hm')}s,${point(v)},${point(a)}`],
    [
      'minutes beyond sixty',
      'Elapsed (mm:ss),V,A',
      (_d, t, v, a) => `${Math.floor(t / 60)}:${two(t % 60)},${point(v)},${point(a)}`,
    ],
    ['a time of day as the heading says', 'Time (hh:mm:ss),V,A', (d, _t, v, a) => `${hms(d)},${point(v)},${point(a)}`],
  ])('%s: the same capacity', (name, heading, line) => {
    const r = measured([heading, ...rows.map(([t, v, a]) => line(new Date(NIGHT + t * 1000), t, v, a))].join('\n'));
    expect(r).toMatchObject({ rows: base.rows, gaps: 0 });
    expect(r.remarks).toEqual(/not told/.test(name) ? [expect.stringMatching(/each new day is taken as the next/)] : []);
    expect(r.capacityAh.lo).toBeCloseTo(base.capacityAh.lo, 2);
    expect(r.energyWh.hi).toBeCloseTo(base.energyWh.hi, 1);
  });

  test.each<[string, (v: number, a: number) => string]>([
    ['with exponents', (v, a) => `${v.toExponential(4)},${a.toExponential(4)}`],
    ['with units of their own', (v, a) => `${Math.round(v * 1e4) / 10} mV,${(a * 1000).toFixed(1)} mA`],
  ])('figures %s have the last digit that they show', (_what, figures) => {
    const read = readLog(['time,volts,amps', ...rows.map(([t, v, a]) => `${t},${figures(v, a)}`)].join('\n'));
    expect(read.steps.volts).toBeCloseTo(0.0001, 8);
    expect(read.steps.amperes).toBeCloseTo(0.0001, 8);
  });

  test('a decimal comma with three places is none between thousands, where any cell says so', () => {
    const amps = (heading: string, lines: readonly string[]) => readLog([heading, ...lines].join('\n')).amperes[1]!;
    const milli = 'Time (s);Voltage (mV);Current (mA)';
    expect(amps(milli, ['0;12450,5;2,125', '10;12449,5;2,125'])).toBeCloseTo(0.002125, 9);
    expect(amps(milli, ['0;12450;2,125', '10;12449;2,125'])).toBeCloseTo(0.002125, 9);
    expect(amps('Time (s);Voltage (V);Current (mA)', ['0;12,45;2,125', '10;12,44;2,125'])).toBeCloseTo(0.002125, 9);
    expect(amps(milli, ['0;12,450;0,125', '10;12,449;2,125'])).toBeCloseTo(0.002125, 9);
    expect(amps(milli, ['0;12,450;2,125', '10;12,449;2,125'])).toBeCloseTo(2.125, 9);
  });

  test('the newest row first is the same log, told; a degree sign in an old code page hides no figure', () => {
    const [heading, ...lines] = csv(rows.map(([t, v, a]) => [t + 60, v, a])).split('\n');
    const r = measured([heading, ...lines.reverse()].join('\n'));
    expect(r.capacityAh).toEqual(base.capacityAh);
    expect(r.remarks).toEqual(['its newest row stands first: taken from the end']);
    const old = Buffer.from(csv(rows, 'Zeit (s),Spannung (V),Strom (A),Raum (°C)').replace(/(\n[^\n]+)/g, '$1,21.5'), 'latin1');
    expect(measured(decodeLog(old)).capacityAh).toEqual(base.capacityAh);
  });

  test('a clock set back at another hour is no midnight', () => {
    const at = (t: number) => hms(new Date(Date.parse('2026-11-27T10:00:00Z') + (t > 3000 ? t - 3600 : t) * 1000));
    const r = measured(['time,volts,amps', ...rows.map(([t, v, a]) => `${at(t)},${v},${a}`)].join('\n'));
    expect(r.remarks.join()).toMatch(/the clock went back once/);
  });

  test('doubled rows are left out, unreadable ones named, a clock that goes back is told and counts nothing', () => {
    const lines = csv(rows).split('\n');
    lines.splice(50, 0, lines[49]!, 'overload,OL,---');
    lines.splice(300, 0, `5,12,2`);
    const r = measured(lines.join('\n'));
    expect(r.remarks.join()).toMatch(/1 row is not readable: 52.*1 doubled row left out.*the clock went back once/);
    expect(holds(r.capacityAh, 4)).toBe(true);
  });

  test('a charge is no discharge, and says nothing of health', () => {
    const r = measured(csv(rows.map(([t], i) => [t, rows[rows.length - 1 - i]![1], 2])), { ampereHours: 4.4 }, 3);
    expect(r.healthPercent).toBeNull();
    expect(r.remarks.join()).toMatch(/this is a charge/);
  });

  test.each([
    ['it did not begin full', { full: 11.4 }],
    ['it did not end empty', { empty: 11.2 }],
  ])('no health where %s', (why, made) => {
    const r = measured(csv(constantCurrent(made)), { ampereHours: 4.4 }, 3);
    expect(r.healthPercent).toBeNull();
    expect(r.remarks.join()).toMatch(new RegExp(why));
  });

  test.each(['', 'a\nb', 'time,volts,amperes\n1,2', 'time,power\n1,2\n2,3', 'OL,OL,OL\nx,y,z', '1,2\n3,4'])(
    '%j is refused in words',
    (text) => expect(() => readLog(text)).toThrow(BadLog),
  );

  test('a heading that lacks one thing is told which', () => {
    expect(() => readLog('Time (s);Voltage (V)\n0;12,4\n10;12,3')).toThrow(
      'the heading names no amperes: write it above its column; where the pack rested',
    );
    expect(() => readLog('Serial;0042\nCurrent (A),Power (W)\n2,24\n2,23')).toThrow('names no time and no volts');
  });

  test('what nobody wrote is told or refused, never taken for granted', () => {
    const bare = (f: number) => rows.map(([t, v, a]) => [t, v * f, a] as const);
    expect(measured(csv(bare(1), 'Time,Voltage,Current')).remarks).toEqual(['the time has no unit: taken as seconds']);
    expect(() => readLog(csv(bare(1000), 'Time (s),Voltage,Current'))).toThrow(/volts up to 12500 and no unit.*Voltage \(mV\)/);
    expect(measured(csv(bare(1000))).remarks.join()).toMatch(/volts up to 12500: more than a pack of a notebook has/);
    expect(() => readLog(`Time,Voltage (V),Current\ns,mV,mA\n${csv(rows)}`)).toThrow(/one unit and the row below it another/);
    expect(() => readLog('Time,Voltage,Current\n01:30,12,2\n01:40,11,2')).toThrow(
      /row 2: "01:30" is no time that is sure.*mm:ss/,
    );
  });

  test('overloads and reversed leads are no figures, a clock that stands is none, and a second pack beside the first is told', () => {
    const lines = csv(rows).split('\n');
    lines.splice(40, 0, '5,9.9E+37,2', '6,12,-9.90000000E+37', '7,-12.3,2');
    const r = measured(lines.join('\n'));
    expect(r.remarks).toEqual(['3 rows are not readable: 41, 42, 43']);
    expect(r.energyWh).toEqual(base.energyWh);
    expect(() => readLog(csv(rows.map(([t, v, a]) => [t, -v, a])))).toThrow(/were the leads the other way round/);
    expect(() => readLog(csv(rows.map(([, v, a]) => [0, v, a])))).toThrow(/its clock stands still/);
    const two = csv(rows)
      .split('\n')
      .map((l, i) => `${l},${i === 0 ? 'Voltage (V)' : 99}`);
    expect(measured(two.join('\n'))).toMatchObject({
      energyWh: base.energyWh,
      remarks: ['more than one column of volts: the first is taken'],
    });
  });

  test('a pack at rest gives nothing that the meter could not have missed', () => {
    const r = measured(csv(Array.from({ length: 73 }, (_, h) => [h * 3600, 12.3 - h * 0.0005, 0])));
    expect(r.capacityAh).toEqual({ lo: 0, hi: expect.closeTo(0.36, 6) });
    expect(r.energyWh.hi).toBeCloseTo(r.capacityAh.hi * 12.282, 4);
    expect(() => readLog('Time (h),Voltage (V)\n0,12.3\n1,12.2')).toThrow(/where the pack rested, add one with 0/);
  });

  test('no health by more or fewer cells than the pack has, and a health beyond belief is told', () => {
    const text = csv(constantCurrent({ full: 16.8, empty: 9.6 }));
    const of = (cells: number, ampereHours = 4.4) => measured(text, { ampereHours }, cells);
    expect(of(3)).toMatchObject({
      healthPercent: null,
      remarks: [expect.stringMatching(/5\.\d+ V a cell is more than any has/)],
    });
    expect(of(4).healthPercent).not.toBeNull();
    expect(of(4, 2).remarks.join()).toMatch(/far more than the label says/);
  });

  test('taking rows away only widens: what flowed stays inside the interval', () => {
    const truth = { ah: 4, wh: 4 * ((12.5 + 9.6) / 2 - 0.3) };
    fc.assert(
      fc.property(
        fc.integer({ min: 3, max: 650 }),
        fc.integer({ min: 4, max: 60 }),
        fc.constantFrom(1, -1),
        (at, missing, sign) => {
          const all = constantCurrent({ sign });
          const r = measured(csv([...all.slice(0, at), ...all.slice(at + missing)]));
          expect([holds(r.capacityAh, truth.ah), holds(r.energyWh, truth.wh)]).toEqual([true, true]);
          expect(r.capacityAh.hi - r.capacityAh.lo).toBeGreaterThanOrEqual(base.capacityAh.hi - base.capacityAh.lo - 1e-3);
        },
      ),
      { numRuns: 60 },
    );
  });
});

test('a thinned curve begins and ends where it did, and keeps a spike of one row among a hundred thousand', () => {
  const xs = Float64Array.from({ length: 100_000 }, (_, i) => i);
  const ys = xs.map((x) => 12 - x / 50_000);
  ys[54_321] = 3;
  const points = thinned(xs, ys, 60);
  expect(points).toHaveLength(60);
  expect([points[0], points[59]]).toEqual([
    { x: 0, y: 12 },
    { x: 99_999, y: ys[99_999] },
  ]);
  expect(points).toContainEqual({ x: 54_321, y: 3 });
  points.slice(1).forEach((p, i) => expect(p.x).toBeGreaterThan(points[i]!.x));
});

describe('two logs against each other', () => {
  const compared = (how: Parameters<typeof constantCurrent>[0], celsius: number | null = 23): Compared => {
    const rows = constantCurrent(how);
    const result = { ...measured(csv(rows)), celsius: celsius === null ? null : { lo: celsius, hi: celsius + 1 } };
    return { result, startVolts: rows[0]![1], endVolts: rows[rows.length - 1]![1] };
  };
  test('what it lost lies in the interval, and the other way round what it would have won', () => {
    const { unlike, charge, resistance } = compareLogs(compared({}), compared({ ampereHours: 3.2, ohm: 0.21 }));
    expect([unlike, holds(charge, -20), holds(resistance, 40)]).toEqual([[], true, true]);
    expect(charge!.hi).toBeLessThan(-10);
    expect(holds(compareLogs(compared({ ampereHours: 3.2 }), compared({})).charge, 25)).toBe(true);
  });
  test('a log against itself shows no change', () =>
    fc.assert(
      fc.property(
        fc.double({ min: 0.5, max: 9, noNaN: true }),
        fc.double({ min: 0.3, max: 4, noNaN: true }),
        (ampereHours, amperes) => {
          const one = compared({ ampereHours, amperes });
          const { charge, energy, resistance, unlike } = compareLogs(one, one);
          return unlike.length === 0 && [charge, energy, resistance].every((x) => x === null || (x.lo <= 0 && x.hi >= 0));
        },
      ),
      { numRuns: 30 },
    ));
  test.each([
    ['another current', compared({ amperes: 1 }), /taken at 2.00 and 1.00 A/],
    ['another end', compared({ empty: 10.8 }), /end at 9.60 and 10.80 V/],
    ['another start', compared({ full: 11.9 }), /begin at 12.50 and 11.90 V/],
    ['another temperature', compared({}, 4), /23 to 24 °C and 4 to 5 °C/],
    ['no temperature', compared({}, null), /not known/],
  ])('%s is told, and the figures all the same', (_what, other, words) => {
    const { unlike, charge } = compareLogs(compared({}), other);
    expect([unlike.length > 0 && unlike.join('; '), charge !== null]).toEqual([expect.stringMatching(words), true]);
  });
  test('what may be nothing is compared with nothing', () => {
    const none = { ...compared({}), result: { ...compared({}).result, capacityAh: { lo: 0, hi: 0.1 } } };
    expect(compareLogs(none, compared({})).charge).toBeNull();
  });
});

test('a curve at even steps lies on its lines, from its beginning to its own end', () => {
  const points = [
    { x: 0, y: 12 },
    { x: 1, y: 11 },
    { x: 4, y: 8 },
  ];
  expect(atSteps(points, 1, 40)).toEqual([12, 11, 10, 9, 8]);
  expect(atSteps(points, 0.1, 41)[40]).toBeCloseTo(8, 9);
  expect(atSteps(points, 3, 40)).toEqual([12, 9]);
  expect(atSteps(points, 1, 2)).toEqual([12, 11]);
});
