import { value } from '../quantity/figure';
import type { Interval } from '../quantity/interval';
import { meanWatts, runtimeHours } from '../pack/electric';
import type { Ruling } from '../ruling/ruling';

/** Part of its energy that a machine draws before it hibernates. Common practice, no source. */
const USABLE: Interval = { lo: 0.93, hi: 0.97 };
/** What a whole notebook usually draws, W. Common practice, no source. */
export const DRAWS = [
  { what: 'idle or writing', watts: { lo: 3, hi: 8 } },
  { what: 'web and video', watts: { lo: 6, hi: 15 } },
  { what: 'under load', watts: { lo: 20, hi: 60 } },
] as const;
/** More than a notebook draws from its pack, W. Common practice, no source. */
const MOST_WATTS = 100;

/** Watt-hours that a full charge gives a machine; null where its energy is in dispute or unknown, or no gauge that can be trusted says its health. */
export function usableEnergy({ judgement, electrical }: Ruling): Interval | null {
  const rated = judgement.label.sure.ratedEnergy;
  const { health } = electrical;
  if (!rated || !health?.trusted) return null;
  const wh = value(rated);
  return { lo: wh * health.range.lo * USABLE.lo, hi: wh * health.range.hi * USABLE.hi };
}

/** Hours that so much energy lasts at a draw between two, W. */
export const hoursAt = (energy: Interval, watts: Interval): Interval => ({
  lo: runtimeHours(energy.lo, 1, watts.hi, 1),
  hi: runtimeHours(energy.hi, 1, watts.lo, 1),
});

export interface Lasted {
  /** Mean draw if the pack gave all it should, W. */
  readonly watts: Interval;
  /** `short`: no notebook draws so much, so the pack gave less than it says. `load`: only one under load does. `long`: less than any draws that is on. */
  readonly verdict: 'short' | 'load' | 'fits' | 'long';
}

/** What it means that a full charge lasted so long. @param hours more than 0. @throws RangeError without a time. */
export function whatLasted(energy: Interval, hours: number): Lasted {
  const watts = { lo: meanWatts(energy.lo, hours), hi: meanWatts(energy.hi, hours) };
  const [idle, usual] = DRAWS;
  if (watts.lo > MOST_WATTS) return { watts, verdict: 'short' };
  if (watts.lo > usual.watts.hi) return { watts, verdict: 'load' };
  return { watts, verdict: watts.hi < idle.watts.lo / 2 ? 'long' : 'fits' };
}

/** A duration as people say it, h: "160", "2:40", "2 h 40 min", "2,5 h"; a number alone is minutes. Null for anything else, and for nothing. */
export function durationOf(said: string): number | null {
  const text = said.trim().toLowerCase().replace(',', '.');
  const clock = /^(\d{1,3}):([0-5]\d)$/.exec(text);
  const words = /^(?:(\d{1,3}(?:\.\d+)?) ?h(?:ours?)?)? ?(?:(\d{1,4}(?:\.\d+)?) ?(?:m|min|minutes?)?)?$/.exec(text);
  const hours = clock
    ? Number(clock[1]) + Number(clock[2]) / 60
    : words && text !== ''
      ? Number(words[1] ?? 0) + Number(words[2] ?? 0) / 60
      : 0;
  return hours > 0 && hours <= 100 ? hours : null;
}
