import { isPrivate } from '@gavrel/contract/schemas';
import { type InstrumentAddress, SILENT } from '@gavrel/core';
import { BENCH, type BenchEnd, type BenchOrder, type BenchRow, isDrawn, runBenchTest, switchOff } from '@gavrel/core/discharge';
import { FOREIGN, openWire } from './instrument';

/** How a test is kept, ms. */
export interface BenchPace {
  /** Nobody's screen has shown it for so long: then nobody stands beside it. */
  readonly watchedMs: number;
  /** Between two looks at what is known of the pack. */
  readonly askMs: number;
  /** Between two rows. */
  readonly everyMs: number;
}
const PACE: BenchPace = { watchedMs: 5 * 60_000, askMs: 5000, everyMs: BENCH.everyMs };

/** A test as it stands. */
export interface BenchTest {
  readonly pack: string;
  readonly order: BenchOrder;
  /** Name of who began it. */
  readonly by: string;
  /** ISO 8601 UTC. */
  readonly began: string;
  readonly rows: readonly BenchRow[];
  /** null while it runs. */
  readonly end: BenchEnd | null;
}

interface Running extends BenchTest {
  readonly rows: BenchRow[];
  end: BenchEnd | null;
  /** Why to stop, once there is a reason. */
  stop: string | null;
  /** When a screen last showed it, ms of this process. */
  watched: number;
  done: Promise<void>;
}

/** Longest wait for the current, and between two looks, ms: an app asks no longer. */
const DRAWS = { longest: 12_000, look: 50 } as const;

/** Why a test is not begun, in words. */
export class NotBegun extends Error {}

/**
 * Discharge tests under way, one a load. They live with the connection to their load, in this process: where it ends, the load's own time-out
 * switches it off. What a load says is only told; nothing of it goes into the log by itself.
 */
export class BenchTests {
  private readonly tests = new Map<string, Running>();

  /** @param refusals why no current may be drawn from a pack as it is known now; asked again and again while one runs. */
  constructor(
    private readonly refusals: (pack: string) => Promise<readonly string[]>,
    private readonly pace: BenchPace = PACE,
  ) {}

  /** The last test of a load; whoever asks is taken to watch it. */
  watch(load: string): BenchTest | null {
    const t = this.tests.get(load);
    if (t) t.watched = performance.now();
    return t ?? null;
  }

  /**
   * Begins a test. The pack was asked about already.
   * @throws NotBegun where the load or the pack is in one, or the address is none of ours.
   */
  begin(load: string, address: InstrumentAddress, about: Pick<BenchTest, 'pack' | 'order' | 'by'>): BenchTest {
    if (!isPrivate(address.host)) throw new NotBegun(FOREIGN);
    for (const [id, t] of this.tests) {
      if (t.end !== null) continue;
      if (id === load) throw new NotBegun('A test runs on it: stop it, or wait for its end.');
      if (t.pack === about.pack) throw new NotBegun('This pack is in a test on another load.');
    }
    const test: Running = {
      ...about,
      began: new Date().toISOString(),
      rows: [],
      end: null,
      stop: null,
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
    while (test.end === null && !isDrawn(test.rows, test.order) && performance.now() < until)
      await new Promise((r) => setTimeout(r, DRAWS.look));
  }

  private async run(test: Running, address: InstrumentAddress): Promise<void> {
    // A danger recorded meanwhile ends it: by anybody, on any device.
    const asking = setInterval(() => {
      this.refusals(test.pack).then(
        ([why]) => why !== undefined && (test.stop ??= `Stopped: ${why}`),
        // The database is away: what was known holds, and its next answer counts.
        () => undefined,
      );
    }, this.pace.askMs);
    const stop = () => {
      if (performance.now() - test.watched > this.pace.watchedMs)
        test.stop ??= 'Stopped: nobody’s screen showed it any more, so nobody stood beside it.';
      return test.stop;
    };
    try {
      const wire = await openWire(address);
      if (!wire) {
        test.end = { whole: false, off: true, words: `Not started: ${SILENT}.` };
        return;
      }
      try {
        test.end = await runBenchTest(wire, test.order, (r) => test.rows.push(r), stop, this.pace.everyMs);
      } finally {
        wire.close();
      }
    } catch {
      test.end = { whole: false, off: false, words: 'Stopped by a fault of the server: look that the load is off.' };
    } finally {
      clearInterval(asking);
    }
  }

  /**
   * Stops what runs on a load, and switches it off also where it is not known here who switched it on.
   * @param words why, as they are told. @returns whether the load says that it is off.
   */
  async stop(load: string, address: InstrumentAddress, words: string): Promise<boolean> {
    const t = this.tests.get(load);
    if (t && t.end === null) {
      t.stop ??= words;
      await t.done;
      return t.end!.off;
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
    for (const t of this.tests.values()) t.stop ??= 'Stopped: the server stops.';
    await Promise.all([...this.tests.values()].map((t) => t.done));
  }
}
