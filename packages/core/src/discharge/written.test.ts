import fc from 'fast-check';
import { readLog } from './read';

/** A log as it was, and how an instrument may have written it. */
const two = (x: number): string => String(x).padStart(2, '0');
const hms = (t: number): string => [Math.floor(t / 3600), Math.floor(t / 60) % 60, t % 60].map(two).join(':');
const NOON = Date.parse('2026-02-27T12:00:00Z');
const iso = (t: number): string => new Date(NOON + t * 1000).toISOString();

/** Heading and unit of a time, and the text of so many seconds. */
const TIMES: readonly (readonly [name: string, unit: string, write: (t: number) => string])[] = [
  ['Time', 's', String],
  ['t', 'ms', (t) => String(t * 1000)],
  ['Test time', 'min', (t) => String(t / 60)],
  ['Zeit', 'h', (t) => String(t / 3600)],
  ['Elapsed', 'hh:mm:ss', hms],
  ['Elapsed time', 'mm:ss', (t) => `${Math.floor(t / 60)}:${two(t % 60)}`],
  ['Total Time', 'd:hh:mm:ss', (t) => `${Math.floor(t / 86_400)}:${hms(t % 86_400)}`],
  ['Run time', 'h:m:s:ms', (t) => `${hms(t)}:000`],
  ['Duration', '', (t) => `${Math.floor(t / 86_400)}d ${hms(t % 86_400)}`],
  ['Time', '', (t) => `${Math.floor(t / 3600)}h ${Math.floor(t / 60) % 60}m ${t % 60}s`],
  ['Timestamp', '', iso],
  ['DateTime', '', (t) => iso(t).replace('T', ' ').slice(0, 19)],
  ['Date Time', '', (t) => `${iso(t).slice(8, 10)}.${iso(t).slice(5, 7)}.${iso(t).slice(0, 4)} ${iso(t).slice(11, 19)}`],
  ['epoch', '', (t) => String((NOON + t * 1000) / 1000)],
];
const VOLTS = [
  ['Voltage', 'V', 1],
  ['U', 'mV', 1000],
  ['Spannung', 'V', 1],
  ['Pack voltage', 'mV', 1000],
] as const;
const AMPERES = [
  ['Current', 'A', 1],
  ['I', 'mA', 1000],
  ['Strom', 'mA', 1000],
  ['Load current', 'A', 1],
] as const;
/** How a unit stands with its name: in brackets, behind a stroke, a word or a blank, or in a row of its own. */
const UNITS: readonly ((name: string, unit: string) => string)[] = [
  (n, u) => `${n} (${u})`,
  (n, u) => `${n} [${u}]`,
  (n, u) => `${n}/${u}`,
  (n, u) => `${n}_${u}`,
  (n, u) => `${n} in ${u}`,
];

const log = fc.record({
  step: fc.integer({ min: 1, max: 900 }),
  rows: fc.array(fc.tuple(fc.integer({ min: 6000, max: 25_000 }), fc.integer({ min: -4000, max: 4000 })), {
    minLength: 3,
    maxLength: 30,
  }),
});
const form = fc.record({
  time: fc.constantFrom(...TIMES),
  volts: fc.constantFrom(...VOLTS),
  amperes: fc.constantFrom(...AMPERES),
  unit: fc.option(fc.constantFrom(...UNITS)),
  separator: fc.constantFrom(';', '\t', ',', '   '),
  comma: fc.boolean(),
  above: fc.constantFrom('', 'Load test of a pack\nOperator;Wren\n', '\ufeff', 'serial,0042\n\n'),
  others: fc.boolean(),
  end: fc.constantFrom('\n', '\r\n'),
});

test('however an instrument writes its log, the same seconds, volts and amperes are read', () => {
  fc.assert(
    fc.property(log, form, ({ step, rows }, f) => {
      const [timeName, timeUnit, time] = f.time;
      // Where blanks part the columns an empty cell is none.
      fc.pre(f.separator.trim() !== '' || f.separator === '\t' || f.unit !== null || timeUnit !== '');
      const quoted = (x: string) => (x.includes(f.separator) ? `"${x}"` : x);
      const figure = (x: number, places: number) => (f.comma ? x.toFixed(places).replace('.', ',') : x.toFixed(places));
      const { unit } = f;
      const named = (name: string, u: string) => (unit === null || u === '' ? name : unit(name, u));
      const line = (cells: readonly string[]) => [...(f.others ? ['1'] : []), ...cells].map(quoted).join(f.separator);
      const head = [named(timeName, timeUnit), named(f.volts[0], f.volts[1]), named(f.amperes[0], f.amperes[1])];
      const text = [
        line(head),
        ...(unit === null ? [line([timeUnit && `[${timeUnit}]`, `[${f.volts[1]}]`, `[${f.amperes[1]}]`])] : []),
        ...rows.map(([mv, ma], i) =>
          line([
            time(i * step).replace(/^(\d+)\.(\d+)$/, f.comma ? '$1,$2' : '$1.$2'),
            figure((mv / 1000) * f.volts[2], f.volts[2] === 1 ? 3 : 0),
            figure((ma / 1000) * f.amperes[2], f.amperes[2] === 1 ? 3 : 0),
          ]),
        ),
      ].join(f.end);
      const read = readLog(f.above + (f.others ? text.replace(/^1(.)/, 'No$1') : text) + f.end);
      const [start = 0] = read.seconds;
      expect([...read.seconds].map((s) => Math.round((s - start) * 1000) / 1000)).toEqual(rows.map((_, i) => i * step));
      expect([...read.volts].map((v) => Math.round(v * 1000))).toEqual(rows.map(([mv]) => mv));
      expect([...read.amperes].map((a) => Math.round(a * 1000) + 0)).toEqual(rows.map(([, ma]) => ma));
      expect(read.remarks).toEqual([]);
    }),
    { numRuns: 400 },
  );
});

test('columns parted by single blanks, or lined up, are read; a heading that blanks part otherwise than its rows is not guessed', () => {
  const same = { seconds: [0, 10], volts: [12.6, 12.5], amperes: [1, 1.01] };
  for (const text of [
    'time_s voltage_V current_A\n0 12.60 1.00\n10 12.50 1.01',
    '  Time/s   Voltage/V   Current/A  \r\n     0       12.60        1.00   \r\n    10       12.50        1.01',
  ]) {
    const { seconds, volts, amperes } = readLog(text);
    expect({ seconds: [...seconds], volts: [...volts], amperes: [...amperes] }).toEqual(same);
  }
  expect([...readLog('Date Time U I\n2026-02-27 12:00:00 12,6 1\n2026-02-27 12:00:10 12,5 1').volts]).toEqual([12.6, 12.5]);
  expect(() => readLog('Time Voltage (V) Current (A)\n0 12.6 1\n10 12.5 1')).toThrow(/parted by tabs or commas/);
});
