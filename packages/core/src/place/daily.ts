import { assessed } from '../condition/condition';
import { type Assessed, type ConditionThen, conditionThen } from '../condition/over-time';
import { type Condition, CONDITIONS } from '../logbook/entry';
import type { PackFacts, PolicyFacts } from '../logbook/fold';
import { canonical } from '../logbook/ids';
import { type Due, duesOf, type OwingPack } from '../ruling/due';
import { dangerFoundAt, type WatchedPack, watchedPack } from './watch';
import { DAY_MS } from '../quantity/day';

/** What a pack owes: all that the list of dues needs of it. */
export interface PackOwed {
  readonly id: string;
  readonly tag: string;
  /** Where it lies; null where nobody put it anywhere, or it left. */
  readonly place: string | null;
  /** Since when it lies there as a dangerous one and when its container is looked at next; null where nothing is watched. */
  readonly watch: Pick<WatchedPack, 'since' | 'next'> | null;
  /** Local day of a look that only grew old where the pack was rightly put; null: its look is as its dues say. */
  readonly agedLook: string | null;
  readonly wasteSince: string | null;
  readonly dues: readonly Due[];
  /** How many more packs owe the same look at the same place on the same day, and nothing else: it stands for them. */
  readonly alike?: number;
}

/** All of a pack that its condition and its dues on any day follow from: small, where its facts grow with every entry. */
export interface DailyInputs {
  readonly assessed: Assessed;
  readonly owing: OwingPack;
}

const newest = (all: readonly { readonly at: string }[]): { readonly at: string }[] => {
  const at = all.map((l) => l.at).sort();
  return at.slice(-1).map((last) => ({ at: last }));
};

/** @param policy of which only what facts are assessed by is asked: the inputs hold under any other policy that agrees in it. */
export function dailyInputs(facts: PackFacts, policy: Pick<PolicyFacts, 'swelling'>): DailyInputs {
  const { id, tag, left, place, placedAt, cameBack, lastAt, wasteSince, dues, waiting, discharge, looks, containers } = facts;
  return {
    assessed: assessed(facts, policy),
    owing: {
      id,
      tag,
      left,
      place,
      placedAt,
      lastAt,
      wasteSince,
      dues,
      waiting,
      looks: newest(looks),
      containers: newest(containers),
      foundAt: dangerFoundAt(facts),
      ...(cameBack !== undefined && { cameBack }),
      ...(discharge && { discharge }),
    },
  };
}

/**
 * Looks, proofs, clocks and confirmations of one pack.
 * @param then its condition now. @param day the local day of an ISO moment.
 */
export function packOwed(
  { assessed: a, owing }: DailyInputs,
  then: Pick<ConditionThen, 'condition' | 'kind'>,
  policy: PolicyFacts,
  day: (iso: string) => string,
): PackOwed {
  const here = owing.left === null ? owing.place : null;
  const { placedAt } = owing;
  const watched = here === null ? null : watchedPack({ condition: then.condition, placedAt }, owing, policy);
  // A look grows old where the pack lies, the pack does not: what it was when it was put there, by everything known today.
  const grewOld = here !== null && placedAt !== null && then.condition === 'unproven';
  const placedAs = grewOld ? conditionThen(a, policy, new Date(placedAt)).condition : then.condition;
  const aged = grewOld && (placedAs === 'sound' || placedAs === 'spent');
  const last = owing.looks[0]?.at ?? owing.lastAt;
  return {
    id: owing.id,
    tag: owing.tag,
    place: here,
    watch: watched && { since: watched.since, next: watched.next },
    agedLook: aged ? day(new Date(Date.parse(last) + policy.lookDays * DAY_MS).toISOString()) : null,
    wasteSince: owing.wasteSince,
    dues: duesOf(owing, then, day),
  };
}

/** Does it owe nothing, and does no clock run for it? */
export const owesNothing = (o: PackOwed): boolean => o.dues.length === 0 && o.watch === null && o.wasteSince === null;

/** Papers, cards, who may do what, and how figures are shown: no pack is judged by them. */
const BESIDE: readonly (keyof PolicyFacts)[] = [
  'siteCard',
  'checked',
  'summaries',
  'wasteProducer',
  'assessAfterPractice',
  'lengths',
  'temperatures',
  'decimalMark',
  'days',
];

/**
 * The part of a policy that the condition and the dues of a pack depend on, in one form: what was judged by another one is judged
 * anew.
 */
export const judgedBy = (policy: PolicyFacts): string =>
  canonical(Object.fromEntries(Object.entries(policy).filter(([k]) => !BESIDE.includes(k as keyof PolicyFacts))));

/** The most dangerous first: the order in which packs are judged anew. */
export const BY_DANGER: readonly Condition[] = [...CONDITIONS].reverse();
