import { setTimeout as sleep } from 'node:timers/promises';
import type { BenchTestResponse } from '@gavrel/contract';
import { isPrivate } from '@gavrel/contract/schemas';
import { type InstrumentAddress, SILENT } from '@gavrel/core';
import { BENCH, type BenchEnd, type BenchRow, isDrawn, runBenchTest, switchOff } from '@gavrel/core/discharge';
import { type BenchStore, type KeptTest, NotBegun } from './bench-store';
import { FOREIGN, openWire } from './instrument';

/** How a test is kept, ms. */
export interface BenchPace {
  /** Nobody's screen has shown it for so long: then nobody stands beside it. */
  readonly watchedMs: number;
  /** Between two looks at what is known of the pack. */
  readonly askMs: number;
  /** Between two rows. */
  readonly everyMs: number;
  /** Between two writings of what it told. */
  readonly noteMs: number;
  /** Nothing was written for so long: its server is gone. More than the load's own time-out, which ends it. */
  readonly lostMs: number;
  /** The server that runs it is given so long to say that it is off; then whoever was asked switches it off. */
  readonly stopMs: number;
}
export const BENCH_PACE: BenchPace = {
  watchedMs: 5 * 60_000,
  askMs: 5000,
  everyMs: BENCH.everyMs,
  noteMs: 2000,
  lostMs: (BENCH.loadWaits + 10) * 1000,
  stopMs: 6000,
};

/** A test that runs here. */
export interface BenchTest extends Omit<KeptTest, 'end'> {
  readonly load: string;
  readonly rows: BenchRow[];
  end: BenchEnd | null;
  /** Rows that are written down. */
  kept: number;
  /** Why to stop, once there is a reason. */
  stop: string | null;
  /** When a screen last showed it, ms of this process. */
  watched: number;
  done: Promise<void>;
}

/** Longest wait for the current, and between two looks, ms: an app asks no longer. */
const DRAWS = { longest: 12_000, look: 50 } as const;
/** Rows of a test told at once: an app that was away asks again for the rest. */
const ROWS = 5000;
const STOPS = 'Stopped: the server stops.';

const told = (t: KeptTest, from: number, rows: readonly BenchRow[]): BenchTestResponse => ({
  pack: t.pack,
  amperes: t.order.amperes,
  cutOff: t.order.cutOff,
  by: t.by,
  began: t.began,
  rows,
  next: from + rows.length,
  end: t.end,
});

/**
 * Discharge tests under way, one a load. The connection to the load lives in this process; what it says is written down as it comes, so
 * that any server tells of it and the rows outlive this one. Where this process ends, the load's own time-out switches it off. Nothing of
 * it goes into the log by itself.
 */
export class BenchTests {
  /** Those that run here, and those whose end could not be written down yet. */
  private readonly tests = new Map<string, BenchTest>();
  private closing = false;

  /** @param refusals why no current may be drawn from a pack as it is known now; asked again and again while one runs. */
  constructor(
    private readonly refusals: (pack: string) => Promise<readonly string[]>,
    private readonly store: BenchStore,
    private readonly pace: BenchPace = BENCH_PACE,
  ) {}

  /** The last test of a load, from a row on; whoever asks is taken to watch it. */
  async watch(load: string, from: number): Promise<BenchTestResponse | null> {
    const mine = this.tests.get(load);
    if (mine) {
      mine.watched = performance.now();
      return this.tell(mine, from);
    }
    const last = await this.store.last(load, true);
    return last && told(last, from, await this.store.rows(load, from, ROWS));
  }

  /** A test that runs here, from a row on. */
  tell(test: BenchTest, from = 0): BenchTestResponse {
    return told(test, from, test.rows.slice(from, from + ROWS));
  }

  /**
   * Begins a test. The pack was asked about already.
   * @throws NotBegun where the load or the pack is in one, or the address is none of ours.
   */
  async begin(
    load: string,
    address: InstrumentAddress,
    { pack, order, by }: Pick<KeptTest, 'pack' | 'order'> & { readonly by: { readonly id: string; readonly name: string } },
  ): Promise<BenchTest> {
    if (!isPrivate(address.host)) throw new NotBegun(FOREIGN);
    const began = new Date().toISOString();
    await this.store.begin(load, { pack, order, by: by.id }, began);
    const test: BenchTest = {
      load,
      pack,
      order,
      by: by.name,
      began,
      rows: [],
      kept: 0,
      end: null,
      stop: this.closing ? STOPS : null,
      watched: performance.now(),
      done: Promise.resolve(),
    };
    this.tests.set(load, test);
    test.done = this.run(test, address);
    return test;
  }

  /** Waits until a test draws its current or is over: whoever began it hears which. */
  async drawn(test: BenchTest): Promise<void> {
    const until = performance.now() + DRAWS.longest;
    while (test.end === null && !isDrawn(test.rows, test.order) && performance.now() < until) await sleep(DRAWS.look);
  }

  /** Writes down what is new of a test and hears what other servers were told. @returns whether all of it is written down. */
  private async note(test: BenchTest): Promise<boolean> {
    const { load, began, end, kept: first } = test;
    const rows = test.rows.slice(first);
    try {
      const heard = await this.store.note(load, began, { first, rows, end });
      test.kept = first + rows.length;
      if (heard === null) test.stop ??= 'Stopped: another test was begun on this load.';
      else {
        if (heard.stop !== null) test.stop ??= heard.stop;
        test.watched = Math.max(test.watched, performance.now() - heard.unwatchedMs);
      }
      return true;
    } catch {
      // The database is away: the next time.
      return false;
    }
  }

  /** Looks after a test again and again until it is over: is its pack still one that may be tested, and what is new of it? */
  private async lookAfter(test: BenchTest): Promise<void> {
    let asked = performance.now();
    while (test.end === null) {
      await this.note(test);
      if (performance.now() - asked >= this.pace.askMs) {
        asked = performance.now();
        // A danger recorded meanwhile ends it: by anybody, on any device. Where the database is away, what was known holds.
        const [why] = await this.refusals(test.pack).catch(() => []);
        if (why !== undefined) test.stop ??= `Stopped: ${why}`;
      }
      await sleep(Math.min(this.pace.noteMs, this.pace.askMs));
    }
  }

  private async run(test: BenchTest, address: InstrumentAddress): Promise<void> {
    const stop = () => {
      if (performance.now() - test.watched > this.pace.watchedMs)
        test.stop ??= 'Stopped: nobody’s screen showed it any more, so nobody stood beside it.';
      return test.stop;
    };
    const lookedAfter = this.lookAfter(test);
    test.end = await this.draw(test, address, stop);
    await lookedAfter;
    // Where its end cannot be written down it is told from here until it can.
    while (!(await this.note(test)) && !this.closing) await sleep(this.pace.noteMs);
    // Another may have been begun on the load while the database was away.
    if (this.tests.get(test.load) === test) this.tests.delete(test.load);
  }

  private async draw(test: BenchTest, address: InstrumentAddress, stop: () => string | null): Promise<BenchEnd> {
    try {
      const wire = await openWire(address);
      if (!wire) return { whole: false, off: true, words: `Not started: ${SILENT}.` };
      try {
        return await runBenchTest(wire, test.order, (r) => test.rows.push(r), stop, this.pace.everyMs);
      } finally {
        wire.close();
      }
    } catch {
      return { whole: false, off: false, words: 'Stopped by a fault of the server: look that the load is off.' };
    }
  }

  /**
   * Stops what runs on a load, here or on another server, and switches it off also where it is not known who switched it on.
   * @param words why, as they are told. @returns whether the load says that it is off.
   */
  async stop(load: string, address: InstrumentAddress, words: string): Promise<boolean> {
    const mine = this.tests.get(load);
    if (mine && mine.end === null) {
      mine.stop ??= words;
      while (mine.end === null) await sleep(DRAWS.look);
      return (mine.end as BenchEnd).off;
    }
    if (!mine && (await this.store.askStop(load, words))) {
      const until = performance.now() + this.pace.stopMs;
      while (performance.now() < until) {
        const last = await this.store.last(load, false);
        if (last?.end) return last.end.off;
        await sleep(DRAWS.look * 4);
      }
    }
    const wire = isPrivate(address.host) ? await openWire(address) : null;
    if (!wire) return false;
    try {
      return await switchOff(wire);
    } finally {
      wire.close();
    }
  }

  /** Stops them all and waits until each load is off. */
  async close(): Promise<void> {
    this.closing = true;
    for (const t of this.tests.values()) t.stop ??= STOPS;
    await Promise.all([...this.tests.values()].map((t) => t.done));
  }
}
