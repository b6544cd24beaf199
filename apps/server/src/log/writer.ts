import type { EntryResult } from '@gavrel/contract';
import { MAX_BATCH } from '@gavrel/contract';
import type { Knex } from 'knex';
import { isAway } from '../store/db';
import { append, type Batch } from './append';
import { PolicyLog } from './policy';

interface Pending {
  readonly batch: Batch;
  readonly done: (r: EntryResult[]) => void;
  readonly failed: (e: unknown) => void;
}

/**
 * One transaction runs at a time, since the workshop's lock would serialise them anyway; what arrives while it runs, up to 500
 * entries, forms the next: one wait for the disk serves all of them, and a lone entry waits for nobody.
 */
export class Writer {
  private waiting: Pending[] = [];
  private running = false;
  /** What every entry is judged by; whoever reads asks it too. */
  readonly policy: PolicyLog;
  private readonly context: Parameters<typeof append>[1];

  constructor(
    private readonly db: Knex,
    where: { readonly workshop: string; readonly zone: string },
  ) {
    this.policy = new PolicyLog(where.workshop);
    this.context = { ...where, policy: this.policy };
  }

  append(batch: Batch): Promise<EntryResult[]> {
    return new Promise((done, failed) => {
      this.waiting.push({ batch, done, failed });
      this.schedule();
    });
  }

  private schedule(): void {
    if (this.running || this.waiting.length === 0) return;
    this.running = true;
    // What the same turn of the loop brings goes along.
    setImmediate(() => void this.flush());
  }

  private take(): Pending[] {
    let count = 0;
    const fits = this.waiting.findIndex((p) => (count += p.batch.entries.length) > MAX_BATCH);
    return this.waiting.splice(0, fits === -1 ? this.waiting.length : Math.max(1, fits));
  }

  private async store(group: readonly Pending[]): Promise<void> {
    try {
      const results = await append(
        this.db,
        this.context,
        group.map((p) => p.batch),
      );
      group.forEach((p, i) => p.done(results[i]!));
    } catch (e) {
      // What one of them brought must not stop the others; where the database is away all of them wait.
      if (group.length > 1 && !isAway(e)) for (const p of group) await this.store([p]);
      else for (const p of group) p.failed(e);
    }
  }

  private async flush(): Promise<void> {
    try {
      await this.store(this.take());
    } finally {
      this.running = false;
      this.schedule();
    }
  }
}
