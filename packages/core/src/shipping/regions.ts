import type { Region } from '../logbook/entry';
import type { Certainty } from '../rules/rule';

/**
 * Whose rules of road, rail and waste hold in a region. Adding a region is a line here, its name in `REGIONS` and a worked case; air and sea are
 * the same everywhere.
 */
export interface RegionRules {
  readonly words: string;
  /** Rule set of road and rail; null where we hold none: nothing is taken from a neighbour. */
  readonly road: 'adr' | '49cfr' | null;
  readonly waste: 'eu' | 'uk' | 'us' | null;
  readonly certainty: Certainty;
  /** What to look up, said with every ruling there. */
  readonly says: string | null;
}

export const REGION_RULES: Readonly<Record<Region, RegionRules>> = {
  eu: { words: 'Europe', road: 'adr', waste: 'eu', certainty: 'H', says: null },
  uk: {
    words: 'Great Britain',
    road: 'adr',
    waste: 'uk',
    certainty: 'M',
    says: 'Great Britain applies ADR at home through regulations of its own: look up where they differ',
  },
  ch: {
    words: 'Switzerland',
    road: 'adr',
    waste: null,
    certainty: 'L',
    says: 'Switzerland applies ADR at home through an ordinance of its own: look up where it differs',
  },
  us: { words: 'United States', road: '49cfr', waste: 'us', certainty: 'H', says: null },
  ca: {
    words: 'Canada',
    road: null,
    waste: null,
    certainty: 'L',
    says: 'Canada has regulations of its own for road and rail, which are not held here: look them up',
  },
  international: { words: 'international', road: 'adr', waste: 'eu', certainty: 'H', says: null },
};
