import fc from 'fast-check';
import type { LoggedEntry } from '../logbook/entry';
import { DEFAULT_POLICY, foldPack } from '../logbook/fold';
import { entry, PACK, soundPack } from '../logbook/testing';
import { condition } from './condition';
import { judgeDrift } from './drift';

const METER = { name: 'M1', accuracy: { percent: 0.05, digits: 1 } } as const;
type Day = `2026-11-${string}`;
const volts = (day: Day, digits: string) =>
  entry('reading-taken', { quantity: 'pack-voltage', figure: { digits, unit: 'V' }, instrument: METER as never }, { day });
const NOW = new Date('2026-11-25T12:00:00Z');
const judged = (...more: LoggedEntry[]) => condition(foldPack(PACK, [...soundPack(), ...more])!, DEFAULT_POLICY, NOW);
const drift = (...more: LoggedEntry[]) => {
  const facts = foldPack(PACK, [...soundPack(), ...more])!;
  return judgeDrift(facts, judged(...more).nature);
};

// 3 cells in series. Thresholds: convention, no source. The 9.5 days: check value C148 of our own arithmetic cases.
describe('what a pack loses at rest', () => {
  test.each([
    ['as usual: 0.3 mV a day and cell', '11.250', '11.241', 'sound'],
    ['too fast: 1.5 mV a day and cell', '11.250', '11.205', 'unproven'],
    ['as a soft short: 6 mV a day and cell', '11.250', '11.070', 'damaged'],
    ['it rises: somebody charged it', '11.070', '11.250', 'sound'],
  ])('%s', (_, from, to, expected) => {
    expect(judged(volts('2026-11-01', from), volts('2026-11-11', to)).condition).toBe(expected);
  });

  test('the border, at and just over: 1 mV a day and cell of 10 days is 30 mV of the pack', () => {
    const at = drift(volts('2026-11-01', '11.250'), volts('2026-11-11', '11.220'));
    expect(at.limit).toMatchObject({ limit: 1, verdict: 'cannot tell' });
    expect(at.limit!.value).toBeCloseTo(1, 9);
    expect(at.unclear).toEqual(['loses 1.0 mV a day and cell at rest: too close to tell']);
    // One digit of a 1 mV meter, twice: U = 2 x sqrt(2) x 1 mV / sqrt(3) over three cells and ten days.
    expect(at.limit!.u).toBeCloseTo((2 * Math.SQRT2) / Math.sqrt(3) / 30, 4);
  });

  test('what says nothing: too soon, used in between, on the steep foot of the curve, another meter', () => {
    expect(drift(volts('2026-11-01', '11.250'), volts('2026-11-03', '11.243'))).toMatchObject({ limit: null, unclear: [] });
    const [a, b] = [volts('2026-11-01', '11.250'), volts('2026-11-20', '11.000')];
    expect(drift(a, b).findings).toHaveLength(1);
    expect(drift(a, entry('brought-down', { to: 30, how: 'resistor' }, { day: '2026-11-03' }), b).findings).toEqual([]);
    expect(drift(volts('2026-11-01', '10.650'), volts('2026-11-20', '10.350')).findings).toEqual([]);
    // In a machine from the first day on: it was used, and never lay.
    const fitted = entry(
      'refitted',
      { back: [] },
      { day: '2026-11-01', minutes: -60, subjects: [`job:${PACK}`, `pack:${PACK}`] },
    );
    const taken = entry('pack-removed', {}, { day: '2026-11-20', minutes: 60 });
    expect(drift(fitted, a, b).findings).toEqual([]);
    expect(drift(fitted, a, b, taken).findings).toEqual([]);
    const other = { name: 'M2', accuracy: METER.accuracy };
    const foreign = entry(
      'reading-taken',
      { quantity: 'pack-voltage', figure: { digits: '11.000', unit: 'V' }, instrument: other as never },
      { day: '2026-11-20' },
    );
    expect(drift(a, foreign).findings).toEqual([]);
  });

  test('a cell at 4.1 V is not above it, whatever three of them divide to', () => {
    expect(drift(volts('2026-11-01', '12.300'), volts('2026-11-04', '12.000')).findings).toHaveLength(1);
    expect(drift(volts('2026-11-01', '12.303'), volts('2026-11-04', '12.000')).findings).toEqual([]);
  });

  test('a pack that falls out of the middle of its curve lost what it lost on the way, however steep the rest is', () => {
    const ends = ['11.250', '11.000', '10.800', '10.500', '9.000', '3.000'];
    const found = ends.map((v) => drift(volts('2026-11-01', '11.250'), volts('2026-11-20', v)).findings.length);
    expect(found).toEqual([0, 1, 1, 1, 1, 1]);
    // Nearly empty already: it falls fast by itself, but not from one end to the other in a fortnight.
    expect(drift(volts('2026-11-01', '10.800'), volts('2026-11-20', '8.400')).findings).toHaveLength(1);
  });

  test('in any order of arrival, and one good pair does not hide a bad one', () => {
    const all = [volts('2026-11-01', '11.250'), volts('2026-11-11', '11.070'), volts('2026-11-20', '11.069')];
    expect(judged(...all).condition).toBe('damaged');
    expect(judged(...[...all].reverse()).condition).toBe('damaged');
  });

  // Every two readings by themselves, as one would with pencil and paper; the figures are those of the text above.
  test('of many readings the fastest loss of any two decides, and all that lost as a short are named', () => {
    const day = fc.integer({ min: 1, max: 24 }).map((d) => `2026-11-${String(d).padStart(2, '0')}` as Day);
    const reading = fc.record({ day, mv: fc.integer({ min: 10_300, max: 12_600 }), meter: fc.constantFrom('M1', 'M1', 'M2') });
    const used = fc.array(day, { maxLength: 2 });
    fc.assert(
      fc.property(fc.uniqueArray(reading, { selector: (x) => x.day, minLength: 2, maxLength: 9 }), used, (all, days) => {
        const log = all.map(({ day, mv, meter }) => ({
          mv,
          meter,
          at: Number(day.slice(8)),
          e: entry(
            'reading-taken',
            {
              quantity: 'pack-voltage',
              figure: { digits: (mv / 1000).toFixed(3), unit: 'V' },
              instrument: { name: meter, accuracy: METER.accuracy } as never,
            },
            { day },
          ),
        }));
        const work = days.map((d) => entry('brought-down', { to: 30, how: 'resistor' }, { day: d, minutes: 30 }));
        const lost = (from: number, to: number) => {
          const flat = (v: number) => (v >= 3.6 ? v : 3.6 + (v - 3.6) / 12);
          return from < 3.6 && to > from ? from - to : flat(from) - flat(to);
        };
        const u = (span: number) => (2 * Math.SQRT2) / Math.sqrt(3) / 3 / span;
        const two = log.flatMap((a) =>
          log
            .filter(
              (b) =>
                b.at - a.at >= 2 &&
                b.meter === a.meter &&
                !days.some((d) => Number(d.slice(8)) >= a.at && Number(d.slice(8)) < b.at),
            )
            .filter((b) => a.mv / 3000 <= 4.1 || b.at - a.at >= 7)
            .map((b) => ({
              ids: [a.e.id, b.e.id],
              span: b.at - a.at,
              rate: (1000 * lost(a.mv / 3000, b.mv / 3000)) / (b.at - a.at),
            })),
        );
        const telling = two.filter((x) => x.span >= 9.5 || x.rate - u(x.span) > 1);
        const short = telling.filter((x) => x.rate - u(x.span) > 3);
        const found = drift(...log.map((x) => x.e), ...work);
        expect(found.findings.flatMap((f) => f.entries)).toEqual([...new Set(short.flatMap((x) => x.ids))].sort());
        expect(found.limit === null).toBe(telling.length === 0);
        if (found.limit)
          expect(found.limit.value - found.limit.u).toBeCloseTo(Math.max(...telling.map((x) => x.rate - u(x.span))), 9);
      }),
      { numRuns: 200 },
    );
  });
});
