import type { Judgement } from '../condition/condition';
import { type Condition, CONDITIONS } from '../logbook/entry';
import type { PackFacts, PolicyFacts } from '../logbook/fold';
import { canonical } from '../logbook/ids';
import { type Due, duesOf } from '../ruling/due';
import { storedOf } from './stored';
import { type WatchedPack, watchedPack } from './watch';
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

/** Looks, proofs, clocks and confirmations of one pack. @param day the local day of an ISO moment. */
export function packOwed(facts: PackFacts, judgement: Judgement, policy: PolicyFacts, day: (iso: string) => string): PackOwed {
  const here = facts.left === null ? facts.place : null;
  const item = here === null ? null : storedOf(facts, judgement, policy);
  const watched = item && watchedPack(item, facts, policy);
  const last =
    facts.looks
      .map((l) => l.at)
      .sort()
      .pop() ?? facts.lastAt;
  const aged = judgement.condition === 'unproven' && (item?.placedAs === 'sound' || item?.placedAs === 'spent');
  return {
    id: facts.id,
    tag: facts.tag,
    place: here,
    watch: watched && { since: watched.since, next: watched.next },
    agedLook: aged ? day(new Date(Date.parse(last) + policy.lookDays * DAY_MS).toISOString()) : null,
    wasteSince: facts.wasteSince,
    dues: duesOf(facts, judgement, day),
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
