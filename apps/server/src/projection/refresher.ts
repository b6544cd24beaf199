import { join } from 'node:path';
import { localDay } from '@gavrel/core';
import type { Knex } from 'knex';
import { Piscina } from 'piscina';
import type { PolicyLog } from '../log/policy';
import { inWorkshop } from '../store/db';
import type { RefreshOrder } from './refresh-worker';
import { staleCount } from './refresh';
import { basisOf } from './rows';

/** How often it is looked whether the day or the policy changed, ms. */
const EVERY_MS = 60_000;
/** How long a count of stale packs is good while some are, ms. */
const COUNT_MS = 2_000;

/**
 * Keeps what depends on the day up to date: looks whether packs are stale, and has a thread judge them anew. Whoever reads never waits
 * for it, whoever appends neither. Several servers may do it at once: each batch takes what it finds.
 */
export class Refresher {
  private readonly pool: Piscina<RefreshOrder, void>;
  private running: Promise<void> | null = null;
  private timer: NodeJS.Timeout | null = null;
  private known = { key: '', left: 0, at: 0 };

  constructor(
    private readonly db: Knex,
    private readonly policy: PolicyLog,
    private readonly order: RefreshOrder,
  ) {
    this.pool = new Piscina<RefreshOrder, void>({
      filename: join(process.cwd(), 'apps/server/src/projection/refresh-worker.ts'),
      execArgv: ['--import', 'tsx'],
      minThreads: 0,
      maxThreads: 1,
    });
  }

  start(): void {
    const look = () => void inWorkshop(this.db, this.order.workshop, (trx) => this.left(trx)).catch(() => undefined);
    look();
    this.timer = setInterval(look, EVERY_MS).unref();
  }

  /** How many packs are still of another day or policy; none is counted again for as long as day and policy stay. Begins the work. */
  async left(trx: Knex.Transaction): Promise<number> {
    const { workshop, zone } = this.order;
    const basis = basisOf(await this.policy.of(trx));
    const today = localDay(zone, new Date());
    const key = `${today} ${basis}`;
    const { known } = this;
    if (known.key === key && (known.left === 0 || Date.now() - known.at < COUNT_MS)) return known.left;
    const left = await staleCount(trx, workshop, basis, today);
    this.known = { key, left, at: Date.now() };
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
    await this.pool.destroy();
  }
}
