import { type Condition, LOOK_GROUPS, type LookGroup } from '../logbook/entry';
import type { PolicyFacts } from '../logbook/fold';
import { DAY_MS } from '../quantity/day';
import { RANK } from './ladder';

/** When each group was looked at, ISO 8601 UTC; null where it was not. */
export type Looked = Readonly<Record<LookGroup, string | null>>;

/** The condition at a moment. */
export interface ConditionThen {
  readonly condition: Condition;
  /** Last moment, ISO 8601 UTC, at which the condition is still this one if nobody writes anything; null: time alone changes nothing. */
  readonly until: string | null;
  readonly kind: 'reacting' | 'unstable' | null;
}

/** All of a pack's facts that its condition over time depends on, already judged. */
export interface Assessed extends Omit<ConditionThen, 'until'> {
  /** Something stands against calling it sound or spent, however fresh its looks. */
  readonly doubted: boolean;
  /** The newest look of each group that counts. */
  readonly looked: Looked;
  /** The same of the record before the correction that waits for its second person; null where none waits. */
  readonly before: Assessed | null;
}

/** The looks that are not too old yet. @param days for how many days a look counts. */
export function freshOf(looked: Looked, days: number, now: Date): Looked {
  const oldest = now.getTime() - days * DAY_MS;
  const fresh = (at: string | null) => (at !== null && Date.parse(at) >= oldest ? at : null);
  return Object.fromEntries(LOOK_GROUPS.map((g) => [g, fresh(looked[g])])) as unknown as Looked;
}

/** When the first of the looks that count grows too old. */
function agesAt(looked: Looked, days: number): string {
  const first = Math.min(...LOOK_GROUPS.map((g) => Date.parse(looked[g]!)));
  return new Date(first + days * DAY_MS).toISOString();
}

/** What is mild is vouched for only without doubts and with every group looked at. @param looked the looks that are not too old. */
export function vouchedFor(
  { condition, kind, doubted, looked }: Omit<Assessed, 'before'>,
  notLooked: readonly LookGroup[],
  days: number,
): ConditionThen {
  const mild = condition === 'sound' || condition === 'spent';
  const unproven = mild && (doubted || notLooked.length > 0);
  // Only what is vouched for has something to lose by waiting.
  return { condition: unproven ? 'unproven' : condition, until: mild && !unproven ? agesAt(looked, days) : null, kind };
}

/** The worse of two readings of a record, for as long as both vouch for the pack. */
export function worseOf(a: ConditionThen, b: ConditionThen): ConditionThen {
  const until = a.until === null || b.until === null ? null : a.until < b.until ? a.until : b.until;
  const { condition, kind } = RANK[b.condition] <= RANK[a.condition] ? a : b;
  return { condition, until, kind };
}

/** The condition of a pack at a moment, without its facts. It is what `condition` says of them. */
export function conditionThen(a: Assessed, policy: Pick<PolicyFacts, 'lookDays'>, now: Date): ConditionThen {
  const looked = freshOf(a.looked, policy.lookDays, now);
  const notLooked = LOOK_GROUPS.filter((g) => looked[g] === null);
  const then = vouchedFor({ ...a, looked }, notLooked, policy.lookDays);
  return a.before ? worseOf(then, conditionThen(a.before, policy, now)) : then;
}
