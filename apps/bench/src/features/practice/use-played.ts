import type { OwnEntry } from '@gavrel/core/practice';
import { useMemo } from 'react';
import { useDraft } from '../../state/use-draft';
import { type Ended, type PracticeRecord, withSession } from './record';
import { useRecord } from './use-record';

/** What of a session is kept: all else follows from it. */
interface Played {
  readonly actions: readonly string[];
  readonly bet: object | null;
  /** What the learner wrote down; absent: the bench writes. */
  readonly own?: readonly OwnEntry[];
}

interface Kept<S extends Played> {
  readonly scenario: string;
  readonly begun: string;
  readonly played: Pick<S, 'actions' | 'bet' | 'own'>;
}

/** Under which it is remembered on the device who writes. */
const BY_HAND = 'practice by hand';

interface Session<S> {
  readonly session: S;
  readonly record: PracticeRecord | null;
  /** Goes on. Several may come before the next drawing: each from the one before. */
  readonly to: (by: (s: S) => S) => void;
  /** Who writes it down, said before anything is done. */
  readonly choose: (byHand: boolean) => void;
  readonly again: () => void;
}

/**
 * A session of a scenario on this device: it outlives a reload, the last one only, since real work comes first.
 * @param writes can it be written down by hand? @param of the session of what is kept, and `endOf` how it ended, null where it goes on; both stay
 * the same from drawing to drawing.
 */
export function usePlayed<S extends Played>(
  scenario: string,
  writes: boolean,
  of: (played: Kept<S>['played']) => S,
  endOf: (s: S) => Ended | null,
): Session<S> {
  const [kept, setKept] = useDraft<Kept<S> | null>('practice', null);
  const [byHand, setByHand] = useDraft(BY_HAND, false);
  const [record, change] = useRecord();
  const empty = { actions: [], bet: null, ...(byHand && writes && { own: [] }) } as unknown as Kept<S>['played'];
  const mineOf = (k: Kept<S> | null): Kept<S> =>
    k?.scenario === scenario && k.played ? k : { scenario, begun: new Date().toISOString(), played: empty };
  const session = useMemo(() => of(mineOf(kept).played), [kept, scenario, byHand, writes, of]);
  const to = (by: (s: S) => S) =>
    setKept((before) => {
      const was = mineOf(before);
      const next = by(of(was.played));
      const ended = endOf(next);
      if (ended) change((r) => withSession(r, ended, was.begun, new Date()));
      const { actions, bet, own } = next;
      return { ...was, played: { actions, bet, ...(own && { own }) } as Kept<S>['played'] };
    });
  const choose = (hand: boolean) => {
    setByHand(hand);
    to((s) => of({ actions: s.actions, bet: s.bet, ...(hand && { own: [] }) } as unknown as Kept<S>['played']));
  };
  return { session, record, to, choose, again: () => setKept(null) };
}
