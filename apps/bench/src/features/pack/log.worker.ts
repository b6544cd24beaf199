import {
  decodeLog,
  type Cells,
  type LogPhases,
  type LogResult,
  measureLog,
  phasesOf,
  type Point,
  type Rated,
  readLog,
  thinned,
} from '@gavrel/core/discharge';

export interface Order {
  readonly bytes: Uint8Array;
  readonly rated: Rated;
  /** Null: how many are in series is not known. */
  readonly cells: Cells | null;
}

export type Answer =
  | { readonly kind: 'progress'; readonly rows: number }
  | { readonly kind: 'done'; readonly result: LogResult; readonly phases: LogPhases; readonly curve: readonly Point[] }
  | { readonly kind: 'trouble'; readonly words: string };

/** Points of the drawing. */
const POINTS = 40;

function work({ bytes, rated, cells }: Order, say: (a: Answer) => void): void {
  const log = readLog(decodeLog(bytes), (rows) => say({ kind: 'progress', rows }));
  const result = measureLog(log, rated, cells?.series);
  const from = log.seconds[0]!;
  const curve = thinned(log.seconds, log.volts, POINTS).map((p) => ({ x: (p.x - from) / 3600, y: p.y }));
  say({ kind: 'done', result, phases: phasesOf(log, result, cells), curve });
}

self.onmessage = (e: MessageEvent<Order>) => {
  try {
    work(e.data, (a) => self.postMessage(a));
  } catch (error) {
    const words = error instanceof Error ? error.message : String(error);
    self.postMessage({ kind: 'trouble', words } satisfies Answer);
  }
};
