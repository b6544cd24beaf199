import type { Kind, LoggedEntry } from '@gavrel/core';
import { createContext, useContext } from 'react';

/** A record that stands apart from the log: of a pack that does not exist. */
interface Apart {
  readonly entries: readonly LoggedEntry[];
  /** What instruments, label and eyes show of it, in words; the quantity where it is a reading. */
  readonly shown: readonly { readonly kind: Kind; readonly quantity?: string; readonly words: string }[];
}

/**
 * Above the cards of a pack that does not exist: what they ask of its record they are told from here, no instrument or camera of the workshop
 * has part in it, and the keypad shows no ruling. Null: the pack is one of the log.
 */
export const ApartContext = createContext<Apart | null>(null);

/** The record that stands apart; null where the pack is one of the log. */
export const useApart = (): Apart | null => useContext(ApartContext);
