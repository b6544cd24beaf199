const HOUR = 3_600_000;

/** Entries that are no danger which one person may write in an hour, through one server. Many times what hands can do. */
export const PER_HOUR = 6000;

/** Requests an address may make in a minute, of any kind. */
export const PER_MINUTE = 3000;

/** Counts what each person writes in the present hour. */
export class Quota {
  private hour = 0;
  private readonly used = new Map<string, number>();

  constructor(private readonly most: number) {}

  /** May this person write so many more now? Those that may are counted. */
  take(person: string, entries: number, now = Date.now()): boolean {
    const hour = Math.floor(now / HOUR);
    if (hour !== this.hour) this.used.clear();
    this.hour = hour;
    const sum = (this.used.get(person) ?? 0) + entries;
    if (sum > this.most) return false;
    this.used.set(person, sum);
    return true;
  }
}
