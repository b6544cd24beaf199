import { collectDefaultMetrics, Counter, Gauge, Histogram, Registry } from 'prom-client';

/** What one server process counts of itself, for Prometheus. Nothing in it names a person, a pack or a workshop. */
export class Metrics {
  private readonly registry = new Registry();
  readonly requests = new Histogram({
    name: 'gavrel_request_seconds',
    help: 'Time to answer, by method, address pattern and status',
    labelNames: ['method', 'route', 'status'] as const,
    buckets: [0.005, 0.02, 0.05, 0.1, 0.25, 0.5, 1, 2.5, 10],
    registers: [this.registry],
  });
  readonly entries = new Counter({
    name: 'gavrel_entries_total',
    help: 'Entries by what became of them',
    labelNames: ['status'] as const,
    registers: [this.registry],
  });
  readonly backup = new Gauge({
    name: 'gavrel_backup_age_seconds',
    help: 'Age of the newest backup this server made or knows of; absent while there is none',
    registers: [this.registry],
  });

  constructor() {
    collectDefaultMetrics({ register: this.registry });
  }

  text(): Promise<string> {
    return this.registry.metrics();
  }

  /** Ends the timers of the process's own figures. */
  clear(): void {
    this.registry.clear();
  }
}
