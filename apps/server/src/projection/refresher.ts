import type { Knex } from 'knex';
import { Piscina } from 'piscina';
import type { PolicyLog } from '../log/policy';
import { runnable } from '../runnable';
import { inWorkshop } from '../store/db';
import type { RefreshOrder } from './refresh-worker';
import { staleCount } from './refresh';
import { basisOf } from './rows';

const WORKER = runnable('apps/server/src/projection/refresh-worker.ts');

/** How often it is looked whether packs became stale, ms. */
const EVERY_MS = 60_000;
/** How long a count of stale packs is good, ms: while some are, and while none is. */
const COUNT_MS = 2_000;
const NONE_MS = 50_000;
/** Longest wait after news until it is looked whether the policy changed, ms. */
const SOON_MS = 1_000;

/**
 * Keeps what depends on the day up to date: looks whether packs are stale, and has a thread judge them anew. Whoever reads never waits
 * for it, whoever appends neither. Several servers may do it at once: each batch takes what it finds.
 */
export class Refresher {
  private readonly pool: Piscina<RefreshOrder, void>;
  private running: Promise<void> | null = null;
  private timer: NodeJS.Timeout | null = null;
  private pending: NodeJS.Timeout | null = null;
  private known = { basis: '', left: 0, at: 0 };

  constructor(
    private readonly db: Knex,
    private readonly policy: PolicyLog,
    private readonly order: RefreshOrder,
  ) {
    this.pool = new Piscina<RefreshOrder, void>({
      filename: WORKER.file,
      execArgv: WORKER.execArgv,
      minThreads: 0,
      maxThreads: 1,
    });
  }

  start(): void {
    this.look();
    this.timer = setInterval(() => this.look(), EVERY_MS).unref();
  }

  /** Something was appended: it may have been a policy. Many at once are looked at once. */
  soon(): void {
    this.pending ??= setTimeout(() => {
      this.pending = null;
      this.look();
    }, SOON_MS).unref();
  }

  private look(): void {
    void inWorkshop(this.db, this.order.workshop, (trx) => this.left(trx)).catch(() => undefined);
  }

  /** How many packs have to be judged anew, counted now and then. Begins the work where there are any. */
  async left(trx: Knex.Transaction): Promise<number> {
    const { workshop } = this.order;
    const basis = basisOf(await this.policy.of(trx));
    const { known } = this;
    if (known.basis === basis && Date.now() - known.at < (known.left === 0 ? NONE_MS : COUNT_MS)) return known.left;
    const left = await staleCount(trx, workshop, basis, new Date());
    this.known = { basis, left, at: Date.now() };
    if (left > 0) this.refresh();
    return left;
  }

  /** One run at a time; one that fails is begun again by whoever looks next. */
  private refresh(): void {
    this.running ??= this.pool
      .run(this.order)
      .catch(() => undefined)
      .finally(() => (this.running = null));
  }

  async stop(): Promise<void> {
    if (this.timer) clearInterval(this.timer);
    if (this.pending) clearTimeout(this.pending);
    await this.pool.destroy();
  }
}
