import { seriesCandidates, seriesSources } from '../pack/series';
import { OVER_BY, WH_PER_KG } from './limits';
import { type Contradiction, one } from './relation';
import type { StatedFacts } from './stated';
import { counted } from '../quantity/counted';

/** Findings that no clearing ends although their class has one. */
export const NOT_CLEARED: readonly string[] = ['cannot-examine', 'recelled'];

export function massEnergy(f: StatedFacts): Contradiction[] {
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

export function fraction(f: StatedFacts): Contradiction[] {
  const x = f.stateOfCharge;
  if (x === undefined || x <= 0 || x > 1) return [];
  const percent = Number((x * 100).toFixed(6));
  return one('fraction', ['stateOfCharge'], `a charge of ${x}: is it ${x} %, or ${percent} %?`);
}

export function clearedWhat(f: StatedFacts): Contradiction[] {
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

export function swellingSchool(f: StatedFacts): Contradiction[] {
  if (f.swelling === 'allowance' || !f.findings?.includes('swelling-spent')) return [];
  return one(
    'swelling-school',
    ['findings', 'policy.swelling'],
    'growth within the allowance, but the workshop allows none: it counts as swollen',
  );
}

export function meterSeries(f: StatedFacts): Contradiction[] {
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
    `${named[0]!.words()}, but the meter shows ${over.words}: ${counted(most, 'cell')} ${most === 1 ? 'is' : 'are'} at most ${limit.toFixed(1)} V; count the cells and check leads and range`,
  );
}

export function setSeries(f: StatedFacts): Contradiction[] {
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
