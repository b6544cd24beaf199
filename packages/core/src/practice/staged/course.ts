import type { NotebookFacts } from '../../logbook/fold';
import type { JobFacts } from '../../logbook/fold-job';
import type { OwnEntry, Writing } from '../by-hand';

/** Something that can be done, in words, with the minutes it takes. */
export interface Doable {
  readonly words: string;
  readonly minutes: number;
}

/** An action that can hurt somebody, and why. */
export interface Hurting<A extends string = string> {
  readonly action: A;
  /** It ends there. */
  readonly ends: boolean;
  readonly why: string;
}

/** What a record says, and why. */
export interface Ruled<W extends string = string> {
  readonly word: W;
  readonly reasons: readonly string[];
}

/**
 * Something that is practised in two parts: what is found out before the ruling, and, where the ruling lets it go on, what is then done in an
 * order. One thing as it truly is, with all that follows from it.
 */
export interface Course<A extends string = string, W extends string = string> {
  readonly actions: Readonly<Record<string, Doable>>;
  readonly before: readonly A[];
  readonly after: readonly A[];
  /** What the ruling may be. */
  readonly words: readonly W[];
  /** After which ruling it goes on. */
  readonly goesOn: readonly W[];
  /** What ends it. */
  readonly ends: readonly A[];
  /** Two ways to the same: one of them is done. */
  readonly rivals: readonly (readonly A[])[];
  /** What stands over the second part. */
  readonly title: string;
  /** What was true of it that matters, in words; empty: nothing was odd. */
  readonly truth: readonly string[];
  /** The way through it that somebody trained takes. */
  readonly way: { readonly before: readonly A[]; readonly after: readonly A[] };
  /** By the rules of the workshop, on what these actions found. @param own what the learner wrote down instead of the bench. */
  ruled(done: readonly A[], own?: readonly OwnEntry[]): Ruled<W>;
  /** Where what is found out can be written down by hand. */
  readonly byHand?: {
    /** What was written against what was there. */
    compare(done: readonly A[], own: readonly OwnEntry[]): Writing;
    /** What stands on the cards. */
    record(done: readonly A[], own: readonly OwnEntry[]): { readonly job: JobFacts; readonly notebook: NotebookFacts };
  };
  harm(action: A, done: readonly A[]): Hurting<A> | null;
  /** What broke or was left out in the second part, in words. @param done all of both parts. */
  slips(after: readonly A[], done: readonly A[]): readonly string[];
  /** What an action shows. @param done before it. */
  shows(action: A, done: readonly A[]): readonly string[];
  /** Is it possible at all after these? */
  possible(action: A, done: readonly A[]): boolean;
  /** The second part reached its end as it should. */
  finished(done: readonly A[]): boolean;
  /** Rightly ended before any bet, by leaving. */
  called(done: readonly A[]): boolean;
}
