import type { LabelBody, PackFacts, Ruling } from '@gavrel/core';
import type { Draft } from '../device/write';
import type { NumberTask } from './number-task';

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

/** What a sheet that says something of a label is given. */
export interface LabelSheetProps {
  readonly facts: PackFacts;
  readonly label: LabelBody;
  readonly onKeep: Keep;
  readonly onClose: () => void;
}
