import type { Figure, Instrument, InstrumentBody, Limit } from '@gavrel/core';
import type { Draft } from '../device/write';

/** What the keypad knows beside the number. */
export interface Extra {
  readonly restMinutes?: number;
  readonly confirmedOdd?: boolean;
  readonly instrument?: Instrument;
}

/** One number to take: what it is, its units, and what it becomes when it is kept. */
export interface NumberTask {
  /** The pack it is about, where a screen shows more than one. */
  readonly packId?: string;
  readonly title: string;
  readonly units: readonly string[];
  readonly unit: string;
  readonly last?: string;
  /** Quantity for the plausibility question; label figures have none. */
  readonly quantity?: string;
  readonly series: number | null;
  readonly instrument?: string;
  /** Which of the shift's instruments takes it. */
  readonly measures?: InstrumentBody['measures'];
  /** Which limit of the ruling the scale shows. */
  readonly limits?: readonly string[];
  readonly point?: string;
  /** A scale of its own, for figures that are compared exactly. */
  readonly ownLimit?: (x: number) => Limit;
  readonly askRest?: boolean;
  readonly signed?: boolean;
  readonly draft: (figure: Figure, extra: Extra) => Draft;
  /** What comes next on the path; its title is on the key. */
  readonly next?: () => NumberTask | null;
}
