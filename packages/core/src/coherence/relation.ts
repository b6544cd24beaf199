import type { StatedFacts } from './stated';

/** Where a relation is kept to. */
export type RelationId =
  | 'label-energy'
  | 'label-series'
  | 'label-designation'
  | 'label-limit'
  | 'chemistry-volts'
  | 'meter-series'
  | 'set-series'
  | 'meter-family-unknown'
  | 'pack-is-not-cell'
  | 'no-limit-known'
  | 'one-set'
  | 'rest-unsaid'
  | 'heat-unsaid'
  | 'charge-time'
  | 'charge-agree'
  | 'gauge-units'
  | 'gauge-health'
  | 'gauge-error'
  | 'instrument-unsaid'
  | 'mass-energy'
  | 'zero'
  | 'fraction'
  | 'calendar'
  | 'list'
  | 'look-finding'
  | 'count-fitted'
  | 'count-whole'
  | 'net-count'
  | 'gross-net'
  | 'swelling-school'
  | 'cleared-what';

/**
 * What a broken relation does.
 * `size`: routes that depend on size or count of cells are held. `hold`: every route is held. `asked`: a person is asked once, a row is
 * refused until it is confirmed. `refused`: no value at all. `judged`: the judgement takes the more cautious of what may be true.
 * `remark`: said, changes nothing by itself.
 */
export type Effect = 'size' | 'hold' | 'asked' | 'refused' | 'judged' | 'remark';

/** One contradiction: both facts, and what to look at again, in one sentence. */
export interface Contradiction {
  readonly relation: RelationId;
  /** Names of the facts, as in a table; the first is the one to look at again. */
  readonly fields: readonly string[];
  readonly sentence: string;
}

/** A relation between facts that must hold, written once. */
export interface Relation {
  readonly id: RelationId;
  /** Facts it ties. */
  readonly ties: readonly string[];
  readonly must: string;
  readonly tolerance: string;
  /** Why that tolerance. */
  readonly reason: string;
  /** Certain, or practice. */
  readonly certainty: 'certain' | 'practice';
  readonly effect: Effect;
  /** Of the pack itself, or of the package it lies in: then it is asked anew for every package. */
  readonly of: 'pack' | 'package';
  /** What breaks it among stated facts; absent where the judgement of readings keeps to it by itself. */
  readonly check?: (f: StatedFacts) => readonly Contradiction[];
}

/** One contradiction. */
export const one = (relation: RelationId, fields: readonly string[], sentence: string): Contradiction[] => [
  { relation, fields, sentence },
];
