import type { News } from './news';

/** Lines one session may hold open: its tabs. One more asks every few seconds instead. */
const PER_SESSION = 8;
const BEAT_MS = 15_000;
/** News of several batches go out together, ms. */
const TOGETHER_MS = 100;
/** Lines written to before others get their turn. */
const AT_ONCE = 250;

interface Line {
  readonly session: string;
  readonly write: (text: string) => unknown;
  readonly end: () => void;
}

/**
 * The lines on which devices wait for news: one listener for all of them, one text for all of them, and each ends with its session.
 * @param running which of these sessions, by the hashes of their tokens, are not over.
 */
export class Streams {
  private readonly lines = new Set<Line>();
  private latest: number | null = null;
  private sending = false;
  private beat: ReturnType<typeof setInterval> | null = null;
  private silence: (() => void) | null = null;

  constructor(private readonly running: (sessions: readonly string[]) => Promise<ReadonlySet<string>>) {}

  start(news: News): void {
    this.silence = news.subscribe((seq) => this.tell(seq));
    // A sign of life keeps proxies from closing the line.
    this.beat = setInterval(() => {
      void this.write('event: alive\ndata: \n\n');
      this.check();
    }, BEAT_MS).unref();
  }

  stop(): void {
    this.silence?.();
    if (this.beat) clearInterval(this.beat);
    for (const line of [...this.lines]) line.end();
  }

  /** @returns how to forget the line again; null when its session holds as many as it may. */
  add(line: Line): (() => void) | null {
    if ([...this.lines].filter((l) => l.session === line.session).length >= PER_SESSION) return null;
    this.lines.add(line);
    return () => void this.lines.delete(line);
  }

  /** Ends the lines whose session is over. */
  check(): void {
    const sessions = [...new Set([...this.lines].map((l) => l.session))];
    if (sessions.length === 0) return;
    this.running(sessions).then(
      (on) => {
        for (const line of [...this.lines]) if (!on.has(line.session)) line.end();
      },
      // The database is away: asked again at the next beat.
      () => undefined,
    );
  }

  private tell(seq: number): void {
    this.latest = Math.max(seq, this.latest ?? 0);
    if (this.sending) return;
    this.sending = true;
    setTimeout(() => {
      this.sending = false;
      const text = `data: ${JSON.stringify({ seq: this.latest })}\n\n`;
      void this.write(text);
    }, TOGETHER_MS);
  }

  /** The same text on every line; appends get their turn between. */
  private async write(text: string): Promise<void> {
    let n = 0;
    for (const line of [...this.lines]) {
      line.write(text);
      if (++n % AT_ONCE === 0) await new Promise((next) => setImmediate(next));
    }
  }
}
