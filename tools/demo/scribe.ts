import { type Bodies, type Entry, isHazard, type Kind, type Subject } from '@gavrel/core';
import { v7 } from 'uuid';

/** Writes demo entries as a device would: one after another, each a little later than the one before. */
export class Scribe {
  readonly entries: Entry[] = [];
  private clock = 0;

  constructor(
    private readonly workshop: string,
    private readonly random: () => number,
  ) {}

  /** Sets the moment from which the next entries follow, a minute apart. */
  from(at: Date): this {
    this.clock = at.getTime();
    return this;
  }

  /** Lets some minutes pass, as work does. */
  after(minutes: number): this {
    this.clock += (minutes - 1) * 60_000;
    return this;
  }

  write<K extends Kind>(
    by: string,
    kind: K,
    subjects: readonly Subject[],
    body: Bodies[K],
    more: { replaces?: string } = {},
  ): string {
    const at = new Date(this.clock);
    this.clock += 60_000;
    const bytes = Uint8Array.from({ length: 16 }, () => Math.floor(this.random() * 256));
    const id = v7({ msecs: at.getTime(), random: bytes });
    const entry = {
      id,
      v: 1,
      workshop: this.workshop,
      subjects,
      kind,
      at: at.toISOString(),
      tz: 'Atlantic/Faroe',
      by,
      device: 'bench-1',
      hazard: isHazard(kind),
      body,
      ...more,
    };
    this.entries.push(entry as unknown as Entry);
    return id;
  }
}
