import type { Mode, Placement, Purpose, Region } from '../logbook/entry';
import type { Chemistry } from '../pack/label';
import type { Contradiction } from '../coherence/relation';
import type { StatedPackage } from '../coherence/stated';
import type { CodeFacts } from '../condition/ladder';

export type TypeTested = 'yes' | 'no' | 'unknown';

export { type Mode, MODES, type Placement, PLACEMENTS, type Region, REGIONS } from '../logbook/entry';

/** What is known of one pack and how it would travel. Missing means unknown, never a benign default. */
export interface ShippingFacts extends CodeFacts {
  readonly chemistry?: Chemistry;
  readonly series?: number;
  readonly parallel?: number;
  /** Declared, V, Ah, Wh. */
  readonly nominalVoltage?: number;
  readonly ratedCapacity?: number;
  readonly ratedEnergy?: number;
  readonly lithiumContent?: number;
  /** It was in an incident that is not over. */
  readonly frozen?: boolean;
  readonly buttonCell?: boolean;
  readonly energyMarked?: boolean;
  readonly madeOn?: string;
  readonly typeTested?: TypeTested;
  /** Label fields with two values in the record: no figure of them is evidence. */
  readonly disputed?: readonly string[];
  /** What the record says besides, of facts in dispute: none of it opens a route, all of it may close one. */
  readonly rivals?: readonly Omit<ShippingFacts, 'rivals'>[];
  /** Contradictions of the pack found on its record, with the digits as printed. */
  readonly contradictions?: readonly Contradiction[];
  /** Odd values that somebody looked at again and confirmed, by name. */
  readonly confirmed?: readonly string[];
  readonly policy?: { readonly innerCellLimit?: boolean; readonly swelling?: 'any' | 'allowance' };
  /** % of rated capacity, the upper end of what is known. */
  readonly stateOfCharge?: number;
  readonly placement?: Placement;
  readonly purpose?: Purpose;
  readonly mass?: number;
  readonly package?: StatedPackage;
  readonly consignment?: {
    readonly packages?: number;
    readonly collectionScheme?: boolean;
    readonly household?: boolean;
    readonly mainPower?: boolean;
    readonly netKgTransportUnit?: number;
  };
}

export interface Route {
  readonly mode?: Mode;
  readonly region?: Region;
  /** Day of dispatch, YYYY-MM-DD; picks the edition. */
  readonly on: string;
}

export type Outcome = 'allowed' | 'split' | 'hold' | 'approval' | 'forbidden';

export const PROVISIONS = [
  'PI965-IA',
  'PI965-IB',
  'PI966-I',
  'PI966-II',
  'PI967-I',
  'PI967-II',
  'PI968-IA',
  'PI968-IB',
  'PI969-I',
  'PI969-II',
  'PI970-I',
  'PI970-II',
  'SP188',
  'P903',
  'SP376-P908',
  'SP376-P911',
  'SP377-P909',
  'SP636',
  'SP670a',
  'SP670b',
  '173.185(b)',
  '173.185(c)',
  '173.185(c)(1)(iv)',
  '173.185(d)',
  '173.185(f)',
  '173.21(c)',
  'A154',
  'A183',
  'A331',
  'none',
] as const;
export type Provision = (typeof PROVISIONS)[number];

/** How severe an outcome is: the most severe of everything that applies is reported. */
export const SEVERITY: Record<Outcome, number> = { allowed: 0, split: 1, hold: 2, approval: 3, forbidden: 4 };
