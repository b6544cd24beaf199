import { parseDesignation } from '../pack/designation';
import { METAL_VOLTS, NI_MH_VOLTS, seriesCandidates, seriesOfNominal, seriesSources } from '../pack/series';
import type { Contradiction, Relation, RelationId } from './relation';

import type { StatedFacts } from './stated';

/** Wh from volts times capacity may differ from the printed Wh by this share before the label contradicts itself: makers print typical beside rated figures. */
export const LABEL_APART = 0.06;
/** Share by which a stated net weight may differ from mass times count. */
export const NET_APART = 0.05;
/** Wh for each kg of a lithium-ion pack, least and most. */
export const WH_PER_KG = { lo: 50, hi: 320 } as const;
/** Volts over the charge limit of a cell from which it is over-voltage. */
export const OVER_BY = 0.1;
const EPS = 1e-9;

const HALF_DIGIT = 'half a unit of the last printed digit, each, carried through the product';
const ROUNDED = 'figures are printed rounded';
const EXACT = 'none';
const COUNTED = 'counts are whole';
const PRACTICE = 'common practice, no source';

const one = (relation: RelationId, fields: readonly string[], sentence: string): Contradiction[] => [
  { relation, fields, sentence },
];

function labelEnergy(f: StatedFacts): Contradiction[] {
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

function labelSeries(f: StatedFacts): Contradiction[] {
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

function labelDesignation(f: StatedFacts): Contradiction[] {
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

function labelLimit(f: StatedFacts): Contradiction[] {
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

function chemistryVolts(f: StatedFacts): Contradiction[] {
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
    `${f.series} ${name} cells in series are ${(f.series * cell).toFixed(1)} V, but ${v.words} is given: read chemistry, volts and cells again`,
  );
}

function countFitted(f: StatedFacts): Contradiction[] {
  const p = f.package ?? {};
  const { packs, fittedPacks: fitted, equipment, packsPerEquipment: each } = p;
  const holds = equipment !== undefined && each !== undefined ? equipment * each : undefined;
  if (fitted !== undefined && packs !== undefined && fitted > packs)
    return one(
      'count-fitted',
      ['package.fittedPacks', 'package.packs'],
      `${fitted} packs are fitted, but the package holds ${packs}: count them`,
    );
  if (fitted !== undefined && holds !== undefined && fitted > holds)
    return one(
      'count-fitted',
      ['package.fittedPacks', 'package.equipment', 'package.packsPerEquipment'],
      `${fitted} packs are fitted, but ${equipment} machines of ${each} take ${holds}: count them`,
    );
  if (fitted === 0 && f.placement === 'in-equipment')
    return one(
      'count-fitted',
      ['package.fittedPacks', 'placement'],
      'in equipment, but no pack is fitted: say where the packs lie',
    );
  if (fitted !== undefined && fitted > 0 && packs === fitted && f.placement === 'loose')
    return one(
      'count-fitted',
      ['package.fittedPacks', 'placement'],
      `loose, but all ${fitted} packs are fitted: say where the packs lie`,
    );
  return [];
}

function netCount(f: StatedFacts): Contradiction[] {
  const { packs, netKg, fittedPacks } = f.package ?? {};
  if (netKg === undefined || !f.mass) return [];
  // Packs not counted are at least those fitted.
  const count = packs ?? fittedPacks ?? 0;
  const product = count * f.mass.value;
  const apart = packs === undefined ? product - netKg : Math.abs(netKg - product);
  if (count === 0 || apart <= NET_APART * product + EPS) return [];
  return one(
    'net-count',
    ['package.netKg', 'package.packs', 'mass'],
    `${netKg} kg net, but ${count} packs of ${f.mass.words} are ${product.toFixed(2)} kg: weigh again`,
  );
}

/** The least the packs of a package can weigh by what is stated, kg. */
function leastNet(f: StatedFacts): number | undefined {
  const { packs, netKg, fittedPacks } = f.package ?? {};
  const product = f.mass && f.mass.value * Math.max(packs ?? 1, fittedPacks ?? 1);
  return netKg ?? product;
}

function grossNet(f: StatedFacts): Contradiction[] {
  const gross = f.package?.grossKg;
  const net = leastNet(f);
  if (gross === undefined || net === undefined || gross > net) return [];
  return one(
    'gross-net',
    ['package.grossKg', f.package?.netKg === undefined ? 'mass' : 'package.netKg'],
    `${gross} kg gross, but the packs alone are ${Number(net.toFixed(3))} kg: weigh the package again`,
  );
}

function massEnergy(f: StatedFacts): Contradiction[] {
  if (f.chemistry !== undefined && f.chemistry !== 'li-ion') return [];
  const wh = f.ratedEnergy?.value ?? (f.nominalVoltage && f.ratedCapacity && f.nominalVoltage.value * f.ratedCapacity.value);
  if (!wh || !f.mass || f.mass.value <= 0) return [];
  const each = wh / f.mass.value;
  if (each >= WH_PER_KG.lo && each <= WH_PER_KG.hi) return [];
  return one(
    'mass-energy',
    ['mass', f.ratedEnergy ? 'ratedEnergy' : 'ratedCapacity'],
    `${f.mass.words} for ${Number(wh.toFixed(1))} Wh is ${each.toFixed(0)} Wh a kg, mostly ${WH_PER_KG.lo} to ${WH_PER_KG.hi}: weigh it again`,
  );
}

function fraction(f: StatedFacts): Contradiction[] {
  const x = f.stateOfCharge;
  if (x === undefined || x <= 0 || x > 1) return [];
  const percent = Number((x * 100).toFixed(6));
  return one('fraction', ['stateOfCharge'], `a charge of ${x}: is it ${x} %, or ${percent} %?`);
}

/** Findings that no clearing ends although their class has one. */
export const NOT_CLEARED: readonly string[] = ['cannot-examine', 'recelled'];

function clearedWhat(f: StatedFacts): Contradiction[] {
  const named = Array.isArray(f.cleared) ? (f.cleared as readonly string[]) : f.cleared === true ? (f.findings ?? []) : [];
  return named
    .filter((c) => NOT_CLEARED.includes(c) && f.findings?.includes(c))
    .flatMap((c) =>
      one(
        'cleared-what',
        ['cleared', 'findings'],
        c === 'recelled'
          ? 'a clearing does nothing for a rebuilt pack: get the builder’s test report'
          : 'a clearing does nothing for what cannot be examined: examine it',
      ),
    );
}

function swellingSchool(f: StatedFacts): Contradiction[] {
  if (f.swelling === 'allowance' || !f.findings?.includes('swelling-spent')) return [];
  return one(
    'swelling-school',
    ['findings', 'policy.swelling'],
    'growth within the allowance, but the workshop allows none: it counts as swollen',
  );
}

function meterSeries(f: StatedFacts): Contradiction[] {
  if (!f.packVolts || f.packVolts.length === 0) return [];
  const named = seriesSources(f).filter((s) => s.allows.length > 0);
  if (named.length === 0 || f.chemistry === 'ni-mh') return [];
  const most = Math.max(...named.flatMap((s) => s.allows));
  const limit = most * (4.5 + OVER_BY);
  const over = f.packVolts.find((v) => v.value - v.half > limit);
  if (!over) return [];
  return one(
    'meter-series',
    ['series', 'packVolts'],
    `${named[0]!.words()}, but the meter shows ${over.words}: ${most} cells are at most ${limit.toFixed(1)} V; count the cells and check leads and range`,
  );
}

function setSeries(f: StatedFacts): Contradiction[] {
  const named = seriesSources(f).filter((s) => s.allows.length > 0);
  const allowed = seriesCandidates(f);
  const n = f.cellSets?.find((of) => !allowed.includes(of));
  if (n === undefined || named.length === 0) return [];
  return one(
    'set-series',
    ['series', 'cellVolts'],
    `${named[0]!.words()}, but ${n === 1 ? 'one cell was' : `${n} cells were`} read: count the cells`,
  );
}

/** Every relation of the trade that facts of one pack, one row or one package must keep. The order is the order in which they are told. */
export const RELATIONS: readonly Relation[] = [
  {
    id: 'zero',
    ties: ['ratedCapacity', 'ratedEnergy', 'nominalVoltage', 'mass', 'series', 'parallel', 'package.packs', 'package.netKg'],
    must: 'capacity, energy, volts, mass, series, parallel and packs are more than 0; a lone decimal mark is no number',
    tolerance: EXACT,
    reason: 'nothing real is 0',
    certainty: 'certain',
    effect: 'refused',
    of: 'pack',
  },
  {
    id: 'count-whole',
    ties: ['package.packs', 'package.equipment', 'package.packsPerEquipment', 'consignment.packages'],
    must: 'packs, machines and packages are whole numbers from 1',
    tolerance: EXACT,
    reason: COUNTED,
    certainty: 'certain',
    effect: 'refused',
    of: 'package',
  },
  {
    id: 'calendar',
    ties: ['madeOn', 'on'],
    must: 'a day exists, nothing was made after today, and nothing leaves before the last entry on it',
    tolerance: 'a partial date may mean any of its days',
    reason: 'labels print the month or the year alone',
    certainty: 'certain',
    effect: 'refused',
    of: 'pack',
  },
  {
    id: 'list',
    ties: ['findings', 'cleared'],
    must: 'a list of findings holds codes, or is the explicit "looked, nothing found": never both, never an empty element',
    tolerance: EXACT,
    reason: 'an empty element is nobody’s "nothing found"',
    certainty: 'certain',
    effect: 'refused',
    of: 'pack',
  },
  {
    id: 'fraction',
    ties: ['stateOfCharge'],
    must: 'a charge in per cent is more than 1, or 0',
    tolerance: EXACT,
    reason: 'a spreadsheet writes 55 % as 0.55; a charge up to 1 % is rare',
    certainty: 'practice',
    effect: 'asked',
    of: 'pack',
    check: fraction,
  },
  {
    id: 'mass-energy',
    ties: ['mass', 'ratedEnergy', 'nominalVoltage', 'ratedCapacity'],
    must: 'a lithium-ion pack holds 50 to 320 Wh for each kilogram',
    tolerance: 'from 50 to 320',
    reason: `packs are 150 to 260 Wh a kg, old and framed ones less; ${PRACTICE}`,
    certainty: 'practice',
    effect: 'asked',
    of: 'pack',
    check: massEnergy,
  },
  {
    id: 'chemistry-volts',
    ties: ['chemistry', 'nominalVoltage', 'series', 'ratedCapacity', 'ratedEnergy', 'mass', 'findings'],
    must: 'nickel-metal hydride is n times 1.2 V, lithium metal n times 3.0 V, lithium-ion n times a cell family; no battery has no volts, energy, mass or finding',
    tolerance: 'half a unit of the last printed digit',
    reason: ROUNDED,
    certainty: 'certain',
    effect: 'hold',
    of: 'pack',
    check: chemistryVolts,
  },
  {
    id: 'label-series',
    ties: ['nominalVoltage', 'series'],
    must: 'nominal volts over cells in series lie in a cell family: 3.2 to 3.3 V or 3.6 to 3.9 V',
    tolerance: 'half a unit of the last printed digit',
    reason: ROUNDED,
    certainty: 'certain',
    effect: 'size',
    of: 'pack',
    check: labelSeries,
  },
  {
    id: 'label-designation',
    ties: ['designation', 'series', 'parallel', 'nominalVoltage'],
    must: 'series and parallel of the designation equal those given',
    tolerance: EXACT,
    reason: COUNTED,
    certainty: 'certain',
    effect: 'size',
    of: 'pack',
    check: labelDesignation,
  },
  {
    id: 'label-limit',
    ties: ['limitedChargeVoltage', 'series', 'nominalVoltage', 'designation'],
    must: 'charge limit over cells in series is 3.6 to 3.65 V or 4.1 to 4.5 V',
    tolerance: 'half a unit of the last printed digit, or digits cut off',
    reason: 'makers round and truncate',
    certainty: 'certain',
    effect: 'size',
    of: 'pack',
    check: labelLimit,
  },
  {
    id: 'label-energy',
    ties: ['ratedEnergy', 'nominalVoltage', 'ratedCapacity'],
    must: 'volts times capacity is the printed energy',
    tolerance: `${HALF_DIGIT}; up to 6 % of the means is doubtful, more contradicts`,
    reason: `makers print typical beside rated figures; ${PRACTICE}`,
    certainty: 'practice',
    effect: 'size',
    of: 'pack',
    check: labelEnergy,
  },
  {
    id: 'meter-series',
    ties: ['packVolts', 'series', 'nominalVoltage', 'designation', 'limitedChargeVoltage'],
    must: 'measured pack volts are at most cells in series times the highest charge limit and 0.1 V',
    tolerance: 'expanded uncertainty of the reading',
    reason: 'a meter is not exact',
    certainty: 'certain',
    effect: 'judged',
    of: 'pack',
    check: meterSeries,
  },
  {
    id: 'set-series',
    ties: ['cellVolts', 'series', 'nominalVoltage', 'designation', 'limitedChargeVoltage'],
    must: 'a set of cell voltages has as many cells as the label has in series',
    tolerance: EXACT,
    reason: COUNTED,
    certainty: 'certain',
    effect: 'size',
    of: 'pack',
    check: setSeries,
  },
  {
    id: 'meter-family-unknown',
    ties: ['packVolts', 'series'],
    must: 'pack volts are judged under every count of cells that nothing excludes',
    tolerance: 'a cell in service is at 2.5 to 4.5 V',
    reason: 'the label does not say the count',
    certainty: 'certain',
    effect: 'judged',
    of: 'pack',
  },
  {
    id: 'pack-is-not-cell',
    ties: ['packVolts', 'cellVolts'],
    must: 'pack volts say nothing better of a cell than V less (n - 1) charge limits; sound needs every cell of one set',
    tolerance: EXACT,
    reason: 'the others may be full',
    certainty: 'certain',
    effect: 'judged',
    of: 'pack',
  },
  {
    id: 'no-limit-known',
    ties: ['cellVolts', 'packVolts', 'limitedChargeVoltage'],
    must: 'without a known charge limit a cell is at most 4.5 V and 0.1 V',
    tolerance: 'expanded uncertainty of the reading',
    reason: 'the highest limit of the chemistry',
    certainty: 'certain',
    effect: 'judged',
    of: 'pack',
  },
  {
    id: 'one-set',
    ties: ['cellVolts'],
    must: 'cell voltages belong to one run of the keypad that says how many cells there should be',
    tolerance: EXACT,
    reason: 'a minute of the clock may turn within a set',
    certainty: 'certain',
    effect: 'judged',
    of: 'pack',
  },
  {
    id: 'rest-unsaid',
    ties: ['cellVolts', 'restMinutes'],
    must: 'a spread of cells without a stated rest is judged as if rested, and asked',
    tolerance: EXACT,
    reason: 'the more cautious reading',
    certainty: 'certain',
    effect: 'judged',
    of: 'pack',
  },
  {
    id: 'heat-unsaid',
    ties: ['surfaceTemperature', 'roomTemperature', 'restMinutes'],
    must: 'a surface over 40 °C does not pass while room or rest is not known; over 60 °C it is hot whatever else',
    tolerance: 'expanded uncertainty of the reading',
    reason: 'ten kelvin over the room cannot be excluded',
    certainty: 'certain',
    effect: 'judged',
    of: 'pack',
  },
  {
    id: 'charge-time',
    ties: ['stateOfCharge', 'packVolts', 'gauge'],
    must: 'what changes the charge makes every older reading of it void',
    tolerance: EXACT,
    reason: 'topped up, brought down, fitted and used',
    certainty: 'certain',
    effect: 'judged',
    of: 'pack',
  },
  {
    id: 'charge-agree',
    ties: ['gauge', 'packVolts'],
    must: 'two readings of charge within 24 hours with nothing between overlap',
    tolerance: 'the intervals of both',
    reason: 'nothing was done between them',
    certainty: 'certain',
    effect: 'judged',
    of: 'pack',
  },
  {
    id: 'gauge-units',
    ties: ['gauge', 'ratedCapacity', 'ratedEnergy'],
    must: 'full and design capacity are 0.2 to 1.3 of the label in the same unit; what is left is at most 1.05 of full; full is more than 0',
    tolerance: 'factor 0.2 to 1.3',
    reason: `wear below, typical above; an energy called mWh that matches mAh is a trap; ${PRACTICE}`,
    certainty: 'practice',
    effect: 'judged',
    of: 'pack',
  },
  {
    id: 'gauge-health',
    ties: ['gauge', 'packVolts'],
    must: 'full-charge capacity, charge left and rest voltage agree; of three figures two decide',
    tolerance: 'the intervals of each',
    reason: 'one of three may be wrong',
    certainty: 'practice',
    effect: 'judged',
    of: 'pack',
  },
  {
    id: 'gauge-error',
    ties: ['gauge'],
    must: 'the gauge’s error widens charge and health; unknown it counts as 5 points',
    tolerance: '5 points',
    reason: PRACTICE,
    certainty: 'practice',
    effect: 'judged',
    of: 'pack',
  },
  {
    id: 'instrument-unsaid',
    ties: ['packVolts', 'cellVolts', 'thickness', 'surfaceTemperature', 'mass'],
    must: 'a reading without an instrument has the worst usual accuracy of its kind',
    tolerance: 'volts 1 % and 5 digits, calliper 0.1 mm, surface 3 K, scale 2 %',
    reason: PRACTICE,
    certainty: 'practice',
    effect: 'judged',
    of: 'pack',
  },
  {
    id: 'look-finding',
    ties: ['looks', 'findings'],
    must: 'a look that found nothing and a finding of the same group do not go together',
    tolerance: EXACT,
    reason: 'who found something saw it',
    certainty: 'certain',
    effect: 'judged',
    of: 'pack',
  },
  {
    id: 'count-fitted',
    ties: ['package.fittedPacks', 'package.packs', 'package.equipment', 'package.packsPerEquipment', 'placement'],
    must: 'fitted packs are at most all packs and at most what the machines take; the rest is loose beside them',
    tolerance: EXACT,
    reason: COUNTED,
    certainty: 'certain',
    effect: 'hold',
    of: 'package',
    check: countFitted,
  },
  {
    id: 'net-count',
    ties: ['package.netKg', 'package.packs', 'mass'],
    must: 'net weight is packs times the mass of one',
    tolerance: '5 %',
    reason: `packs of one kind differ a little; ${PRACTICE}`,
    certainty: 'practice',
    effect: 'judged',
    of: 'package',
    check: netCount,
  },
  {
    id: 'gross-net',
    ties: ['package.grossKg', 'package.netKg', 'mass'],
    must: 'a package weighs more than the packs in it',
    tolerance: EXACT,
    reason: 'packaging weighs something',
    certainty: 'certain',
    effect: 'hold',
    of: 'package',
    check: grossNet,
  },
  {
    id: 'swelling-school',
    ties: ['findings', 'policy.swelling'],
    must: 'growth within an allowance is a finding of the workshop that allows it',
    tolerance: EXACT,
    reason: 'where no growth is allowed it is swollen',
    certainty: 'certain',
    effect: 'judged',
    of: 'pack',
    check: swellingSchool,
  },
  {
    id: 'cleared-what',
    ties: ['cleared', 'findings'],
    must: 'a clearing names a finding that has one',
    tolerance: EXACT,
    reason: 'what cannot be examined was not examined',
    certainty: 'certain',
    effect: 'remark',
    of: 'pack',
    check: clearedWhat,
  },
];

const BY_ID = new Map(RELATIONS.map((r) => [r.id, r]));

/** @throws RangeError for an id nobody wrote. */
export function relationOf(id: RelationId): Relation {
  const r = BY_ID.get(id);
  if (!r) throw new RangeError(`no relation ${id}`);
  return r;
}

const checks = (of: Relation['of']) => RELATIONS.flatMap((r) => (r.check && r.of === of ? [r.check] : []));
const OF_PACK = checks('pack');
const OF_PACKAGE = checks('package');

/** Every contradiction among what is stated of the pack itself, in the order in which they are told. */
export const packContradictions = (f: StatedFacts): Contradiction[] => OF_PACK.flatMap((check) => check(f));

/** Every contradiction of the package a pack lies in. */
export const packageContradictions = (f: StatedFacts): Contradiction[] => OF_PACKAGE.flatMap((check) => check(f));

/** Every contradiction among stated facts. */
export const contradictionsOf = (f: StatedFacts): Contradiction[] => [...packContradictions(f), ...packageContradictions(f)];
