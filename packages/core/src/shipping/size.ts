import { relationOf } from '../coherence/relations';
import type { Reader, SizeLimits } from './leaf';

const MICRO = 1_000_000;

const FIGURES: readonly string[] = ['ratedEnergy', 'nominalVoltage', 'ratedCapacity'];

/** Declared energies in micro-watt-hours: the printed one, and volts times capacity (whole mV times whole mAh). */
export function energies(r: Reader): number[] {
  const wh = r.peek<number>('ratedEnergy');
  const v = r.peek<number>('nominalVoltage');
  const ah = r.peek<number>('ratedCapacity');
  const list: number[] = [];
  if (wh !== undefined) list.push(Math.round(wh * MICRO));
  if (v !== undefined && ah !== undefined) list.push(Math.round(Math.round(v * MICRO) * Math.round(ah * MICRO) * 1e-6));
  return list;
}

/** What contradicts itself so that neither size nor count of cells can be read off the label: the facts to look at; null when nothing does. */
export function sizeConflict(r: Reader): readonly string[] | null {
  const broken = r.asked.contradictions.filter((c) => relationOf(c.relation).effect === 'size');
  const first = broken[0];
  if (first) {
    for (const b of broken) r.say(b.sentence);
    return [...new Set(broken.map((b) => (b.relation === 'label-energy' ? 'ratedEnergy' : 'series')))];
  }
  return r.facts.disputed?.some((d) => FIGURES.includes(d)) ? ['ratedEnergy'] : null;
}

/** A cell, or a battery? Series and parallel decide; a nominal voltage over 4.5 V is a battery. */
export function isCell(r: Reader): boolean {
  r.cite('size.cell');
  const battery = r.derive('stated as a battery', (at) => {
    const known = (field: string) => at.peek<number>(field);
    const v = known('nominalVoltage');
    if ((known('series') ?? 1) > 1 || (known('parallel') ?? 1) > 1) return true;
    return v !== undefined && v > at.figure('size.cell', 'batteryAboveV');
  });
  return !battery && r.atMost('series', 1) && r.atMost('parallel', 1);
}

/**
 * Which side of a limit the declared energy lies on; equality is inside. `conflict` when the printed watt-hours and volts times
 * capacity fall on different sides of it.
 */
export function sideOf(r: Reader, limitWh: number): 'inside' | 'over' | 'conflict' {
  const side = r.derive(`declared energy and ${limitWh} Wh`, (at) => {
    const list = energies(at);
    const over = list.filter((e) => e > limitWh * MICRO).length;
    return list.length === 0 ? 'not declared' : over === 0 ? 'inside' : over === list.length ? 'over' : 'conflict';
  });
  if (side === 'not declared') return r.atMost('ratedEnergy', limitWh) ? 'inside' : 'over';
  return side;
}

/** Is more than a limit declared, by either figure? */
export const moreThan = (r: Reader, limitWh: number): boolean => sideOf(r, limitWh) !== 'inside';

/** The strict reading: is each cell of the battery within the limit? Asks for the counts that would settle it. */
function cellsInside(r: Reader, cellWh: number): boolean {
  const [s, p] = [r.possible('series'), r.possible('parallel')];
  const list = energies(r);
  const worst = list.length > 0 ? Math.max(...list) / MICRO : undefined;
  if (worst !== undefined && worst <= s.lo * p.lo * cellWh) return true;
  if (worst !== undefined && worst > s.hi * p.hi * cellWh) return false;
  const fields = (['series', 'parallel'] as const).filter((f) => r.peek(f) === undefined);
  return r.decide(`cells#${cellWh}`, worst === undefined ? ['ratedEnergy', ...fields] : fields, [true, false]);
}

/**
 * Within the limits of a class? Cell or battery is asked only where the two limits differ on the energy.
 * @param limits Wh; the cell's limit is also tried on the cells inside a battery where the workshop reads the text so.
 */
export function within(r: Reader, limits: SizeLimits): 'small' | 'over' | 'conflict' {
  if (sizeConflict(r)) {
    r.cite('size.conflict');
    return 'conflict';
  }
  const battery = sideOf(r, limits.battery);
  const cell = sideOf(r, limits.cell);
  const side = battery === cell ? battery : isCell(r) ? cell : battery;
  if (side !== 'inside') {
    if (side === 'conflict') r.cite('size.conflict');
    return side;
  }
  if (r.facts.policy?.innerCellLimit && cell !== 'inside') {
    r.cite('size.inner');
    if (!cellsInside(r, limits.cell)) return 'over';
  }
  return 'small';
}

/** Small enough for the light provisions? */
export function sizeOf(r: Reader): 'small' | 'over' | 'conflict' {
  r.cite('size.small');
  return within(r, r.limits('size.small', 'Wh'));
}

/** Grams of lithium at most a limit? A button cell without a figure counts as small. */
function gramsAtMost(r: Reader, limit: number): boolean {
  if (r.peek<number>('lithiumContent') === undefined && r.peek<boolean>('buttonCell') === true) return true;
  return r.atMost('lithiumContent', limit);
}

/** Within the lithium content of a class, g? Cell or battery is asked only where it matters. */
export function metalWithin(r: Reader, { cell, battery }: SizeLimits): boolean {
  if (gramsAtMost(r, cell)) return true;
  return gramsAtMost(r, battery) && !isCell(r);
}

/** Small by lithium content, for lithium-metal cells. */
export function metalSize(r: Reader): 'small' | 'over' | 'conflict' {
  r.cite('size.metal');
  if (sizeConflict(r)) return 'conflict';
  return metalWithin(r, r.limits('size.metal', 'G')) ? 'small' : 'over';
}

/** The latest day a date of manufacture can mean; missing counts as new. */
function latestDay(madeOn: string | undefined): string {
  if (!madeOn) return '9999-12-31';
  return madeOn.length === 4 ? `${madeOn}-12-31` : madeOn.length === 7 ? `${madeOn}-31` : madeOn;
}

/** Does the missing watt-hour mark hold a battery? `not small` where it may travel as large, `hold` where it may not at all. */
export function markDuty(r: Reader, small: boolean): 'met' | 'not small' | 'hold' {
  const before = (year: number) =>
    r.derive(`made before ${year}`, (at) => latestDay(at.peek<string>('madeOn')) < `${year}-01-01`);
  const since = r.figure('mark.188', 'sinceYear');
  const after = r.figure('mark.348', 'afterYear');
  if (before(small ? since : after + 1)) return 'met';
  if (isCell(r)) return 'met';
  if (r.need<boolean>('energyMarked', [true, false])) return 'met';
  r.cite(before(after + 1) ? 'mark.188' : 'mark.348');
  return small && before(after + 1) ? 'not small' : 'hold';
}
