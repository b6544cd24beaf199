import { type Claim, claimsIn, type ReadField } from './grammar';
import { lookAlikes, type PixelBox, type ReadLine } from './text';

/** A figure or words offered from a picture. */
export interface OfferedFigure {
  readonly field: ReadField;
  readonly said: string;
  readonly unit?: NonNullable<Claim['unit']>;
  /** Two readings of the picture and the arithmetic of the label agree, and no digit that is taken for another would agree as well. */
  readonly sure: boolean;
  /** A digit was put in the place of one it is taken for, so that the label adds up. */
  readonly mended: boolean;
  readonly box: PixelBox;
}

/** A claim with how many readings of the picture made it. */
interface Candidate extends Claim {
  readonly readings: number;
}

const decimals = (digits: string): number => digits.split('.')[1]?.length ?? 0;

/** Wh by volts and ampere-hours as printed. */
const energyOf = (v: string, q: string, unit: Claim['unit']): number => Number(v) * Number(q) * (unit === 'mAh' ? 0.001 : 1);

/** Does the energy follow from volts and ampere-hours to its last digit, rounded or cut off? */
function adds(v: string, q: string, qUnit: Claim['unit'], e: string, eUnit: Claim['unit']): boolean {
  const exact = energyOf(v, q, qUnit) * (eUnit === 'mWh' ? 1000 : 1);
  const step = 10 ** -decimals(e);
  const off = exact - Number(e);
  return off > -step / 2 - 1e-9 && off < step - 1e-9;
}

/** Nominal voltages of a lithium-ion cell and the charge limits that go with them, V; from memory, as printed on labels. */
const CELLS: readonly (readonly [number, number, readonly number[]])[] = [
  [3.6, 3.65, [4.2]],
  [3.7, 3.75, [4.2]],
  [3.78, 3.83, [4.35]],
  [3.84, 3.855, [4.4]],
  [3.86, 3.885, [4.45]],
  [3.89, 3.92, [4.48, 4.5]],
];

/** Cells in series a nominal voltage may stand for. */
function seriesOfVolts(volts: number): number[] {
  return [1, 2, 3, 4, 5, 6].filter((n) => CELLS.some(([lo, hi]) => volts / n >= lo - 0.012 && volts / n <= hi + 0.012));
}

/** Is this the usual limit of that nominal voltage? */
function usualLimit(nominal: string, limit: string): boolean {
  return seriesOfVolts(Number(nominal)).some((n) =>
    CELLS.some(
      ([lo, hi, limits]) =>
        Number(nominal) / n >= lo - 0.012 &&
        Number(nominal) / n <= hi + 0.012 &&
        limits.some((l) => Math.abs(l * n - Number(limit)) < 0.0051),
    ),
  );
}

/** The claims of every reading, counted: the same words of one field once. */
function candidates(readings: readonly (readonly ReadLine[])[]): Candidate[] {
  const found = new Map<string, Candidate>();
  for (const lines of readings) {
    const seen = new Set<string>();
    for (const c of claimsIn(lines)) {
      const key = `${c.field} ${c.said} ${c.unit ?? ''}`;
      const before = found.get(key);
      if (seen.has(key)) continue;
      seen.add(key);
      found.set(key, {
        ...(before && before.confidence >= c.confidence ? before : c),
        changed: c.changed && (before?.changed ?? true),
        named: c.named || before?.named === true,
        readings: (before?.readings ?? 0) + 1,
      });
    }
  }
  return [...found.values()];
}

const worth = (c: Candidate): number => c.readings * 100 + c.confidence + (c.named ? 60 : 0) - (c.changed ? 20 : 0);
const best = (all: readonly Candidate[]): Candidate | undefined => [...all].sort((a, b) => worth(b) - worth(a))[0];

/** Every number whose decimal point may have been lost in this one. */
const withPoint = (digits: string): string[] =>
  digits.includes('.') ? [] : [1, 2].filter((i) => i < digits.length).map((i) => `${digits.slice(0, i)}.${digits.slice(i)}`);

/** A number whose decimal point was lost, or that a mark beside it lengthened. */
const worn = (digits: string): string[] => [...withPoint(digits), ...(/^\d{2,}/.test(digits) ? [digits.slice(1)] : [])];

interface Energy {
  readonly v: Candidate;
  readonly q: Candidate;
  readonly e: Candidate;
  readonly mended: ReadField | null;
}

/** Voltage, capacity and energy as read that add up; else with one digit put for another it is taken for. */
function addingUp(v: readonly Candidate[], q: readonly Candidate[], e: readonly Candidate[]): Energy[] {
  const out: Energy[] = [];
  for (const a of v)
    for (const b of q)
      for (const c of e) if (adds(a.said, b.said, b.unit, c.said, c.unit)) out.push({ v: a, q: b, e: c, mended: null });
  if (out.length > 0) return out;
  const other = (x: Candidate) => [...lookAlikes(x.said), ...worn(x.said)].map((said): Candidate => ({ ...x, said }));
  for (const a of v)
    for (const b of q)
      for (const c of e) {
        const ok = (x: Candidate, y: Candidate, z: Candidate) =>
          adds(x.said, y.said, y.unit, z.said, z.unit) && seriesOfVolts(Number(x.said)).length > 0;
        out.push(
          ...other(a)
            .filter((x) => ok(x, b, c))
            .map((x) => ({ v: x, q: b, e: c, mended: 'nominalVoltage' as const })),
        );
        out.push(
          ...other(b)
            .filter((x) => ok(a, x, c))
            .map((x) => ({ v: a, q: x, e: c, mended: 'ratedCapacity' as const })),
        );
        out.push(
          ...other(c)
            .filter((x) => ok(a, b, x))
            .map((x) => ({ v: a, q: b, e: x, mended: 'ratedEnergy' as const })),
        );
      }
  return out;
}

/** Voltages makers print for one lithium-ion cell, V; from memory, as printed on labels. */
const PRINTED = [3.6, 3.63, 3.635, 3.65, 3.7, 3.72, 3.75, 3.78, 3.8, 3.82, 3.83, 3.84, 3.85, 3.86, 3.87, 3.88, 3.89, 3.9];

/** Is it what a maker prints for some cells in series, to its last digit? */
function printedVolts(digits: string): boolean {
  const half = 10 ** -decimals(digits) / 2 + 1e-9;
  return [1, 2, 3, 4, 5, 6].some((n) => PRINTED.some((c) => Math.abs(c * n - Number(digits)) <= Math.min(half, 0.0051)));
}

/**
 * Would the label add up as well with one digit of this field put for another or its point lost, and perhaps one more elsewhere? Then the
 * arithmetic does not tell.
 */
function otherwise({ v, q, e }: Energy, field: 'v' | 'q' | 'e'): boolean {
  const own = { v: v.said, q: q.said, e: e.said };
  const others = {
    v: [...lookAlikes(v.said), ...withPoint(v.said)].filter(printedVolts),
    // Nobody prints parts of a milliampere-hour.
    q: [...lookAlikes(q.said), ...(q.unit === 'Ah' ? withPoint(q.said) : [])],
    e: [...lookAlikes(e.said), ...withPoint(e.said)],
  };
  const fields = ['v', 'q', 'e'] as const;
  return others[field].some((said) => {
    const as = { ...own, [field]: said };
    if (adds(as.v, as.q, q.unit, as.e, e.unit)) return true;
    return fields.some(
      (f) =>
        f !== field &&
        others[f].some((also) => {
          const both = { ...as, [f]: also };
          return adds(both.v, both.q, q.unit, both.e, e.unit);
        }),
    );
  });
}

/** Digits that could be another, apart from those that cannot be anything else where they stand. */
const doubtful = (said: string): boolean => /[035689]/.test(said);

/**
 * What a label says, of several readings of one picture. The arithmetic is the checksum: what adds up wins over what does not, and only what it
 * confirms to the last digit, in two readings, is sure. What no rule confirms is offered with a question; what contradicts itself is left out.
 * @param readings lines of each reading of the picture.
 * @param today YYYY-MM-DD; nothing was made later.
 */
export function settle(readings: readonly (readonly ReadLine[])[], today: string): OfferedFigure[] {
  const all = candidates(readings);
  const of = (field: ReadField) => all.filter((c) => c.field === field);
  const offered: OfferedFigure[] = [];
  const offer = (c: Candidate, sure: boolean, mended = false) =>
    offered.push({ field: c.field, said: c.said, ...(c.unit && { unit: c.unit }), sure, mended, box: c.box });
  const twice = (c: Candidate) => c.readings >= 2 && !c.changed;

  const volts = of('nominalVoltage').filter((c) => Number(c.said) >= 1 && Number(c.said) < 1000);
  const capacities = [...of('ratedCapacity'), ...of('typicalCapacity')];
  // No notebook's pack has more: a point was lost.
  const low = (c: Candidate) => Number(c.said) <= 60;
  const every = addingUp(volts, capacities, of('ratedEnergy')).filter((s) => low(s.v));
  // A typical capacity has an energy of its own beside the rated one's.
  const rated = every.filter((s) => s.mended === null && s.q.field === 'ratedCapacity');
  const sums = rated.length > 0 ? rated : every;
  const told = (s: Energy) => worth(s.v) + worth(s.q) + worth(s.e);
  const [sum, second] = [...sums].sort((a, b) => told(b) - told(a));
  // Two ways to add up that differ say nothing of either.
  const alone = second === undefined || sum!.mended !== null || told(sum!) - told(second) > 100;
  // What no cells in series give is a voltage that lost its point.
  const checked = sum !== undefined && sum.mended === null && alone && seriesOfVolts(Number(sum.v.said)).length > 0;
  const kept = sum !== undefined && (sum.mended === null || sums.length === 1) ? sum : null;
  const usual = volts.filter((c) => seriesOfVolts(Number(c.said)).length > 0);
  const v = kept?.v ?? best(usual) ?? best(volts.filter(low));
  const e = kept?.e ?? best(of('ratedEnergy'));
  if (v) offer(v, checked && twice(v) && !otherwise(sum, 'v'), kept?.mended === 'nominalVoltage');
  for (const field of ['ratedCapacity', 'typicalCapacity'] as const) {
    const q = kept?.q.field === field ? kept.q : best(of(field));
    if (q) offer(q, checked && q === sum.q && twice(q) && !otherwise(sum, 'q'), q === kept?.q && kept.mended === 'ratedCapacity');
  }
  if (e) offer(e, checked && twice(e) && !otherwise(sum, 'e'), kept?.mended === 'ratedEnergy');

  const limits = of('limitedChargeVoltage').filter((c) => Number(c.said) >= 2 && Number(c.said) <= 60);
  const fits = v ? limits.filter((c) => usualLimit(v.said, c.said)) : [];
  const limit = best(fits) ?? best(limits);
  if (limit) {
    const only = v !== undefined && !lookAlikes(limit.said).some((x) => usualLimit(v.said, x));
    const settled = offered.some((f) => f.field === 'nominalVoltage' && f.sure);
    offer(limit, settled && fits.length === 1 && twice(limit) && only);
  }

  // One that ends too soon was cut off.
  const whole = of('designation').filter((c) => c.said.split('/').length === 3);
  const designation = best(whole) ?? best(of('designation'));
  if (designation) {
    const series = Number(designation.said[0]);
    const fit = v !== undefined && seriesOfVolts(Number(v.said)).includes(series);
    offer(designation, checked && fit && twice(designation) && !doubtful(designation.said.slice(1)));
  }
  const code = best(of('typeCode'));
  if (code) offer(code, false);
  const made = best(of('madeOn').filter((c) => madeSomeDay(c.said, today)));
  if (made) offer(made, twice(made) && made.confidence >= 80 && !doubtful(made.said.slice(2).replace(/-0/g, '-')));
  const chemistry = best(of('chemistry'));
  if (chemistry) offer(chemistry, twice(chemistry) && of('chemistry').length === 1);
  return offered;
}

/** A day, or a month, that there was: from 1990 to today. */
function madeSomeDay(said: string, today: string): boolean {
  const m = /^(\d{4})-(\d{2})(?:-(\d{2}))?$/.exec(said);
  if (!m || Number(m[1]) < 1990 || Number(m[2]) < 1 || Number(m[2]) > 12) return false;
  if (m[3] && (Number(m[3]) < 1 || Number(m[3]) > new Date(Date.UTC(Number(m[1]), Number(m[2]), 0)).getUTCDate())) return false;
  return said <= today.slice(0, said.length);
}
