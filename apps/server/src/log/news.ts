import pg from 'pg';

type Listener = (seq: number) => void;

/**
 * Hears from PostgreSQL that some server appended something, and tells whoever listens here. Connects again by itself; what was
 * missed meanwhile is caught up by the clients' polling.
 */
export class News {
  private readonly listeners = new Set<Listener>();
  private client: pg.Client | null = null;
  private stopped = false;

  constructor(
    private readonly url: string,
    private readonly workshop: string,
  ) {}

  async start(): Promise<void> {
    if (this.stopped) return;
    const client = new pg.Client({ connectionString: this.url, keepAlive: true });
    const again = () => {
      if (this.client !== client) return;
      this.client = null;
      client.end().catch(() => undefined);
      if (!this.stopped) setTimeout(() => void this.start(), 1000).unref();
    };
    this.client = client;
    client.on('error', again);
    client.on('end', again);
    client.on('notification', ({ payload }) => {
      const [workshop, seq] = (payload ?? '').split(':');
      if (workshop === this.workshop) for (const l of this.listeners) l(Number(seq));
    });
    try {
      await client.connect();
      await client.query('listen gavrel_news');
    } catch {
      again();
    }
  }

  subscribe(listener: Listener): () => void {
    this.listeners.add(listener);
    return () => this.listeners.delete(listener);
  }

  async stop(): Promise<void> {
    this.stopped = true;
    const { client } = this;
    this.client = null;
    await client?.end().catch(() => undefined);
  }
}
