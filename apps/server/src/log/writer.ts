import type { EntryResult } from '@gavrel/contract';
import { MAX_BATCH } from '@gavrel/contract';
import type { Knex } from 'knex';
import { append, type Batch } from './append';

interface Pending {
  readonly batch: Batch;
  readonly done: (r: EntryResult[]) => void;
  readonly failed: (e: unknown) => void;
}

/**
 * Gathers what arrives within 5 ms, up to 500 entries, into one transaction: one wait for the disk serves all of them. One
 * transaction runs at a time, since the workshop's lock would serialise them anyway; what arrives meanwhile forms the next.
 */
export class Writer {
  private waiting: Pending[] = [];
  private running = false;
  private timer: NodeJS.Timeout | null = null;

  constructor(
    private readonly db: Knex,
    private readonly context: { readonly workshop: string; readonly zone: string },
    private readonly gatherMs = 5,
  ) {}

  append(batch: Batch): Promise<EntryResult[]> {
    return new Promise((done, failed) => {
      this.waiting.push({ batch, done, failed });
      this.schedule();
    });
  }

  private schedule(): void {
    if (this.running || this.timer !== null || this.waiting.length === 0) return;
    this.timer = setTimeout(() => {
      this.timer = null;
      void this.flush();
    }, this.gatherMs);
  }

  private take(): Pending[] {
    let count = 0;
    const fits = this.waiting.findIndex((p) => (count += p.batch.entries.length) > MAX_BATCH);
    return this.waiting.splice(0, fits === -1 ? this.waiting.length : Math.max(1, fits));
  }

  private async flush(): Promise<void> {
    this.running = true;
    const group = this.take();
    try {
      const results = await append(
        this.db,
        this.context,
        group.map((p) => p.batch),
      );
      group.forEach((p, i) => p.done(results[i]!));
    } catch (e) {
      for (const p of group) p.failed(e);
    } finally {
      this.running = false;
      this.schedule();
    }
  }
}
