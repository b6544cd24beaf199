import type { Electrical } from '../condition/charge';
import { condition, type Judgement } from '../condition/condition';
import { RANK } from '../condition/ladder';
import type { PackFacts, PolicyFacts } from '../logbook/fold';
import type { Limit } from '../quantity/limit';
import { judge } from '../quantity/limit';
import { streamOf, type StreamRuling } from '../recycling/stream';
import type { ShippingFacts } from '../shipping/facts';
import { SHIPPING } from '../shipping/rulebook';
import { type StorageOrder, storageOrder } from '../storage/order';
import { type Flip, nearestFlip } from './flip';
import { type Cell, CELL_WORDS, matrix, rulesOf, shippingFacts } from './matrix';
import { type NextReading, nextReadings } from './next';

/** What the rules compute from a pack's facts on a day. Never typed by a person. */
export interface Ruling {
  readonly judgement: Judgement;
  readonly storage: StorageOrder;
  /** What shipping may know of the pack. */
  readonly shipping: ShippingFacts;
  readonly cells: readonly Cell[];
  readonly stream: StreamRuling;
  readonly electrical: Electrical;
  readonly limits: readonly Limit[];
  readonly flip: Flip | null;
  readonly next: readonly NextReading[];
  /** Ids of every rule that decided something. */
  readonly rules: readonly string[];
  /** Day of dispatch it was asked for. */
  readonly on: string;
}

/** The charge limit of the air rules as a scale: a choice, so a number to reach is given. */
function chargeLimit(e: Electrical, day: string, cells: readonly Cell[]): Limit[] {
  const percent = SHIPPING.on('air.965-charge', day)?.figures.percent;
  const loose = cells.find((c) => c.mode === 'air-cargo' && c.placement === 'loose' && c.purpose === 'use');
  if (!e.charge || percent === undefined || !loose || (loose.word !== 'yes' && loose.word !== 'approval')) return [];
  const { lo, hi } = e.charge.ofRated;
  const u = (hi - lo) / 2;
  return [
    {
      id: 'charge.air',
      label: 'charge of rated capacity',
      unit: '%',
      value: hi - u,
      u,
      limit: percent,
      side: 'max',
      verdict: judge(hi - u, u, percent, 'max'),
      beyond: 'does not fly loose',
      between: 'does not fly loose',
      perReading: 1,
      readingUnit: '% charge',
      decimals: 0,
      nature: 'choice',
    },
  ];
}

/**
 * The ruling of one pack. Pure: the clock and the day of dispatch are passed in.
 * @param on local day of dispatch, YYYY-MM-DD.
 */
export function rule(facts: PackFacts, policy: PolicyFacts, now: Date, on: string): Ruling {
  const judgement = condition(facts, policy, now);
  const { electrical: e } = judgement;
  const shipping = shippingFacts(facts, judgement, policy, now);
  const cells = matrix(shipping, on);
  const limits = [...judgement.limits, ...chargeLimit(e, on, cells)];
  const mild = RANK[judgement.condition] < RANK.unproven;
  return {
    judgement,
    storage: storageOrder(judgement.condition, judgement.kind),
    shipping,
    cells,
    stream: streamOf(judgement.condition, facts.purpose, e.cellsSeen),
    electrical: e,
    limits,
    flip: nearestFlip(judgement.condition, mild ? limits : judgement.limits),
    next: nextReadings(facts, judgement, cells),
    rules: rulesOf(cells),
    on,
  };
}

/** Is `after` milder than `before`: in the condition, or in any cell of the matrix? */
export function isMilder(before: Ruling, after: Ruling): boolean {
  if (RANK[after.judgement.condition] < RANK[before.judgement.condition]) return true;
  return before.cells.some((c, i) => CELL_WORDS.indexOf(after.cells[i]!.word) < CELL_WORDS.indexOf(c.word));
}

/**
 * The ruling while a number is still being typed: shown dashed, and never milder than what is committed. A worse condition always
 * shows, even where it opens a route that was held (a swollen pack ships as damaged, an untested one waits).
 */
export function previewRuling(committed: Ruling, typed: Ruling): Ruling {
  const step = RANK[typed.judgement.condition] - RANK[committed.judgement.condition];
  if (step !== 0) return step > 0 ? typed : committed;
  return isMilder(committed, typed) ? committed : typed;
}
