import { findingOf } from '../condition/findings';
import { RANK } from '../condition/ladder';
import type { Condition } from '../logbook/entry';
import type { Limit } from '../quantity/limit';

/** The smallest change of one reading that makes the ruling worse. */
export interface Flip {
  readonly limit: Limit;
  /** Change of the reading in the instrument's unit; positive is more, negative less. */
  readonly change: number;
  readonly unit: string;
  readonly becomes: Condition | string;
}

const CLASS_CONDITION: Record<string, Condition> = {
  reacting: 'critical',
  unstable: 'critical',
  hard: 'damaged',
  recall: 'damaged',
  soft: 'damaged',
  unproven: 'unproven',
  spent: 'spent',
};

/** The condition that lies beyond a limit. */
export const conditionBeyond = (l: Limit): Condition => CLASS_CONDITION[findingOf(l.beyond)?.class ?? 'unproven'] ?? 'unproven';

/** What lies beyond a limit, in words. */
export const beyondWords = (l: Limit): string => findingOf(l.beyond)?.words ?? l.beyond;

/**
 * Of all limits the one with the smallest way to a worse ruling, measured in its own uncertainty. A pack that is still vouched for
 * flips at the inner edge of the undecided zone (to unproven), any other at its outer edge. Towards milder no number is given.
 */
export function nearestFlip(condition: Condition, limits: readonly Limit[]): Flip | null {
  let best: { flip: Flip; size: number } | null = null;
  for (const l of limits) {
    const beyond = conditionBeyond(l);
    const sign = l.side === 'max' ? 1 : -1;
    const choice = l.nature === 'choice';
    const inner = !choice && RANK[condition] < RANK.unproven;
    if (!choice && !inner && RANK[beyond] <= RANK[condition]) continue;
    const border = inner || choice ? l.limit - sign * l.u : l.limit + sign * l.u;
    const way = sign * (border - l.value);
    if (way < 0) continue;
    const becomes = choice ? l.beyond : inner ? (RANK[beyond] < RANK.unproven ? beyond : 'unproven') : beyond;
    // What turns the pack itself worse comes before what closes a route.
    const size = way / Math.max(l.u, 1e-6 * Math.abs(l.limit), 1e-9) + (choice ? 1e9 : 0);
    if (best === null || size < best.size) {
      best = { flip: { limit: l, change: sign * way * l.perReading, unit: l.readingUnit, becomes }, size };
    }
  }
  return best?.flip ?? null;
}

/** "0.31 mm more at centre: unproven". */
export function flipWords(f: Flip): string {
  const way = Math.abs(f.change);
  const digits = way.toFixed(f.limit.decimals);
  const direction = f.change >= 0 ? 'more' : 'less';
  const where =
    f.limit.point && f.limit.point !== 'mean' ? ` at ${f.limit.id.startsWith('cell') ? 'cell ' : ''}${f.limit.point}` : '';
  return `${digits} ${f.unit} ${direction}${where}: ${f.becomes}`;
}
