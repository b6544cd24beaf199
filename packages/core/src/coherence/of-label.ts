import { parseDesignation } from '../pack/designation';
import { METAL_VOLTS, NI_MH_VOLTS, seriesOfNominal, seriesSources } from '../pack/series';
import { EPS, LABEL_APART } from './limits';
import { type Contradiction, one, type RelationId } from './relation';
import type { StatedFacts } from './stated';
import { counted } from '../quantity/counted';

export function labelEnergy(f: StatedFacts): Contradiction[] {
  const { nominalVoltage: v, ratedCapacity: q, ratedEnergy: e } = f;
  // Lithium metal is measured by its grams: its energy decides nothing.
  if (!v || !q || !e || f.chemistry === 'li-metal') return [];
  const product = v.value * q.value;
  const lo = (v.value - v.half) * (q.value - q.half);
  const hi = (v.value + v.half) * (q.value + q.half);
  // Rounded, or cut off from the digits on.
  const meet = lo <= e.value + 2 * e.half + EPS && e.value - e.half <= hi + EPS;
  if (meet || Math.abs(product - e.value) <= LABEL_APART * e.value) return [];
  return one(
    'label-energy',
    ['ratedEnergy', 'nominalVoltage', 'ratedCapacity'],
    `${e.words} is printed, but ${v.words} times ${q.words} is ${product.toFixed(1)} Wh: read all three again`,
  );
}

/** Two facts that allow no common number of cells in series, of which the later one is given. */
function seriesApart(f: StatedFacts, relation: RelationId, later: string): Contradiction[] {
  const sources = seriesSources(f);
  const at = sources.findIndex((s) => s.field === later);
  const b = sources[at];
  if (!b || b.allows.length === 0) return [];
  return sources
    .slice(0, at)
    .filter((a) => a.allows.length > 0 && !a.allows.some((n) => b.allows.includes(n)))
    .slice(0, 1)
    .flatMap((a) => one(relation, [b.field, a.field], `${a.words()}, but ${b.words()}: count the cells`));
}

export function labelSeries(f: StatedFacts): Contradiction[] {
  const v = f.nominalVoltage;
  if (!v || f.chemistry === 'ni-mh' || f.chemistry === 'li-metal') return [];
  if (f.series === undefined || seriesOfNominal(v, f.chemistry).length > 0)
    return seriesApart(f, 'label-series', 'nominalVoltage');
  const each = (v.value / f.series).toFixed(2);
  return one(
    'label-series',
    ['nominalVoltage', 'series'],
    `${v.words} over ${f.series} in series is ${each} V a cell, which no lithium-ion cell has: read the volts and count the cells`,
  );
}

export function labelDesignation(f: StatedFacts): Contradiction[] {
  if (f.designation === undefined) return [];
  const apart = seriesApart(f, 'label-designation', 'designation');
  const design = parseDesignation(f.designation);
  // Left out, the parallel count may be the cell's own: only a printed one is compared.
  if (apart.length > 0 || !design || design.parallel < 2 || f.parallel === undefined || f.parallel === design.parallel)
    return apart;
  return one(
    'label-designation',
    ['designation', 'parallel'],
    `${f.parallel} in parallel, but ${f.designation} is ${design.parallel} in parallel: count the cells`,
  );
}

export function labelLimit(f: StatedFacts): Contradiction[] {
  if (!f.limitedChargeVoltage) return [];
  const own = seriesSources(f).find((s) => s.field === 'limitedChargeVoltage');
  if (own && own.allows.length === 0)
    return one(
      'label-limit',
      ['limitedChargeVoltage'],
      `a limited charge voltage of ${f.limitedChargeVoltage.words} fits no lithium-ion pack of 1 to 6 cells in series: read it again`,
    );
  return seriesApart(f, 'label-limit', 'limitedChargeVoltage');
}

function nothingThere(f: StatedFacts): Contradiction[] {
  const found = (f.findings ?? []).length > 0;
  const has = f.nominalVoltage ?? f.ratedCapacity ?? f.ratedEnergy ?? f.mass;
  if (!has && !found) return [];
  const field = f.nominalVoltage
    ? 'nominalVoltage'
    : f.ratedCapacity
      ? 'ratedCapacity'
      : f.ratedEnergy
        ? 'ratedEnergy'
        : f.mass
          ? 'mass'
          : 'findings';
  return one(
    'chemistry-volts',
    ['chemistry', field],
    `no battery is said to be there, but ${has ? has.words : 'something was found on it'}: look whether there is a battery`,
  );
}

export function chemistryVolts(f: StatedFacts): Contradiction[] {
  if (f.chemistry === 'none') return nothingThere(f);
  const v = f.nominalVoltage;
  if (!v || (f.chemistry !== 'ni-mh' && f.chemistry !== 'li-metal' && f.chemistry !== 'li-ion')) return [];
  const allows = seriesOfNominal(v, f.chemistry);
  // With a count of cells it is the count that does not go with the volts.
  if (f.chemistry === 'li-ion' && f.series !== undefined) return [];
  const name = { 'ni-mh': 'nickel-metal hydride', 'li-metal': 'lithium metal', 'li-ion': 'lithium-ion' }[f.chemistry];
  if (allows.length === 0)
    return one(
      'chemistry-volts',
      ['chemistry', 'nominalVoltage'],
      `${v.words} is no number of ${name} cells in series: read chemistry and volts again`,
    );
  const cell = f.chemistry === 'ni-mh' ? NI_MH_VOLTS : METAL_VOLTS;
  if (f.chemistry === 'li-ion' || f.series === undefined || allows.includes(f.series)) return [];
  return one(
    'chemistry-volts',
    ['chemistry', 'nominalVoltage', 'series'],
    `${counted(f.series, `${name} cell`)} in series ${f.series === 1 ? 'is' : 'are'} ${(f.series * cell).toFixed(1)} V, but ${v.words} is given: read chemistry, volts and cells again`,
  );
}
