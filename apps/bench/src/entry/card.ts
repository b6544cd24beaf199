import type { PackFacts, Ruling } from '@gavrel/core';
import type { Draft } from '../device/write';
import type { NumberTask } from './keypad';

/** Writes one entry; the words stand on the Undo bar. */
export type Keep = (d: Draft, words: string) => Promise<unknown>;

/** What every card of the slip is given. */
export interface CardProps {
  readonly facts: PackFacts;
  readonly ruling: Ruling;
  readonly onKeep: Keep;
}

/** A card that also opens the keypad. */
export interface NumberCardProps extends CardProps {
  readonly onTask: (t: NumberTask) => void;
}
