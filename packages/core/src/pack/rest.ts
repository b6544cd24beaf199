/** Rest before a terminal voltage may be called rest voltage. Text-book and gauge application notes, from memory. */
export type Flow = 'charge' | 'discharge' | 'unknown';

export interface RestVerdict {
  readonly rested: boolean;
  /** Standard uncertainty left by relaxation, volts per cell. */
  readonly u: number;
  /** Which way a too-early reading errs: after discharge it reads too low, after charge too high. */
  readonly bias: 'too low' | 'too high' | null;
  /** Minutes still to wait for the first step, 0 when rested. */
  readonly wait: number;
}

/**
 * @param minutes rest in minutes, undefined when nobody said.
 * A voltage taken before 30 minutes is kept but is not a rest voltage; unknown rest is not a rest voltage either.
 */
export function restOf(minutes: number | undefined, flow: Flow = 'unknown'): RestVerdict {
  const bias = flow === 'discharge' ? 'too low' : flow === 'charge' ? 'too high' : null;
  if (minutes === undefined || minutes < 30) return { rested: false, u: 0.03, bias, wait: 30 - (minutes ?? 0) };
  const u = minutes < 120 ? 0.02 : minutes < 300 ? 0.01 : 0.005;
  return { rested: true, u: u / 2, bias: null, wait: 0 };
}

/** Two readings half an hour apart that differ by less than 2 mV per cell show rest; a coarser display is not able to. */
export function settled(first: number, second: number, cells: number, displayStep: number): 'rested' | 'moving' | 'not able' {
  const allowed = 0.002 * cells;
  if (displayStep > allowed) return 'not able';
  return Math.abs(first - second) < allowed ? 'rested' : 'moving';
}
