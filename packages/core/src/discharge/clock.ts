import { figureOf, type Moment, momentOf, numberOf } from './cells';
import { secondsIn } from './clock-form';
import type { Column } from './columns';

/** A clock that says less than this after more than that went past midnight, s. */
const MIDNIGHT = { before: 23 * 3600, after: 3600 };
const DAY = 86_400;
/** Seconds that no instrument counts: since 1970, and the same in milliseconds. */
const SINCE_1970 = { seconds: 1e9, milliseconds: 1e11 };

/** Tells times of a log in one order, whatever its clock shows. */
export class Clock {
  private last: Moment | null = null;
  private days = 0;
  dated = false;
  /** Are its times numbers without a unit of their own? */
  isCounted = false;
  /** Days went by of which nobody knows how many lie between them. */
  guessed = false;

  constructor(private readonly column: Column) {}

  /** Seconds of a cell; NaN where it is no time. @param day of a column of its own. */
  at(cell: string, day: string | undefined): number {
    const x = figureOf(cell, 'time', this.column);
    if (!Number.isNaN(x)) {
      this.isCounted ||= !Number.isNaN(numberOf(cell));
      const seconds = this.column.factor === 1 && x > SINCE_1970.milliseconds ? x / 1000 : x;
      this.dated ||= seconds > SINCE_1970.seconds;
      return seconds;
    }
    const m = day === undefined ? this.momentAt(cell) : momentOf(`${day.trim()} ${cell.trim()}`);
    if (m === null) return NaN;
    this.dated ||= m.of === 'date';
    const { last } = this;
    const past = m.day === undefined && m.seconds < MIDNIGHT.after && (last?.seconds ?? 0) > MIDNIGHT.before;
    if (m.of === 'day' && last?.of === 'day' && (past || m.day !== last.day)) {
      this.days += 1;
      this.guessed ||= m.day !== undefined;
    }
    this.last = m;
    return m.of === 'day' ? this.days * DAY + m.seconds : m.seconds;
  }

  /** A moment as the heading says that it is written, or as any other is. */
  private momentAt(cell: string): Moment | null {
    const { form } = this.column;
    const seconds = form ? secondsIn(form, cell) : NaN;
    if (Number.isNaN(seconds)) return momentOf(cell);
    return { seconds, of: form?.[0] === 'h' && seconds < DAY ? 'day' : 'count' };
  }
}
