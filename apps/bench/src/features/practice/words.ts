import { counted } from '@gavrel/core';
import type { Practised } from '@gavrel/contract';
import { ACTIONS, type StagedBet, type Way } from '@gavrel/core/practice';
import type { Calibration } from './record';

/** "10 min", "4 h 10 min", "12 days": what it takes, as people say it. */
export function durationWords(minutes: number): string {
  if (minutes >= 24 * 60) {
    const days = Math.round(minutes / (24 * 60));
    return counted(days, 'day');
  }
  const [h, m] = [Math.floor(minutes / 60), minutes % 60];
  return [h > 0 ? `${h} h` : '', m > 0 || h === 0 ? `${m} min` : ''].filter(Boolean).join(' ');
}

/** How a scenario went, harm before anything else. */
export const playedWords = (p: Practised | undefined): string =>
  p === undefined
    ? 'not tried'
    : p.harm > 0
      ? `unsafe: ${p.harm}`
      : p.full
        ? 'all right'
        : p.found
          ? 'found, with something to mend'
          : 'not found';

/** "Read the label, Weigh it: 2 min". */
export const wayWords = (w: Way): string =>
  `${w.acts.map((a) => ACTIONS[a].words.toLowerCase()).join(', then ')}: ${durationWords(w.minutes)}`;

/** What was said of it, and how it came. */
export const stagedBetWords = (bet: StagedBet | null, ruled: string): string =>
  bet === null
    ? 'No bet was placed.'
    : `You said “${bet.word}”, ${Math.round(bet.sure * 100)} % sure: ${bet.word === ruled ? 'so it came' : `it is “${ruled}”`}.`;

/** "When you said 90 %, 7 of 9 came so". */
export const calibrationWords = (c: Calibration): string =>
  `When you said ${Math.round(c.sure * 100)} %, ${c.right} of ${c.bets} came so.`;
