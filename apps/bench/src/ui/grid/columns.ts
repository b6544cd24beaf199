import type { ReactNode } from 'react';
import { inNaturalOrder } from '../../state/natural';

/** One column of a grid. It is sorted, filtered and copied by its value; what is shown may be more. */
export interface GridColumn<T> {
  readonly id: string;
  readonly title: string;
  /** Width, px. */
  readonly width: number;
  readonly value: (row: T) => string | number | null;
  /** What it is sorted by where that is not its value. */
  readonly rank?: (row: T) => number;
  readonly show?: (row: T) => ReactNode;
  /** Figures stand in the monospaced face and at the right. */
  readonly figures?: boolean;
  /** Not shown until it is chosen. */
  readonly hidden?: boolean;
}

/** Natural order; what is not known last, whichever way it is sorted. @returns below zero when a comes first. */
export function compareValues(a: string | number, b: string | number): number {
  return typeof a === 'number' && typeof b === 'number' ? a - b : inNaturalOrder(String(a), String(b));
}

/**
 * Rows as a spreadsheet takes them from the clipboard: a line of headings, tabs between, no tab or line break inside a cell, and no cell
 * that a spreadsheet would take for a formula.
 */
export function tableText<T>(columns: readonly GridColumn<T>[], rows: readonly T[]): string {
  const cell = (x: string | number | null) => {
    const text = String(x ?? '').replace(/[\t\r\n]+/g, ' ');
    return typeof x === 'string' && /^[=+\-@]/.test(text) ? `'${text}` : text;
  };
  return [columns.map((c) => cell(c.title)), ...rows.map((r) => columns.map((c) => cell(c.value(r))))]
    .map((line) => line.join('\t'))
    .join('\n');
}

/**
 * The rows between two, both with them: what Shift and a tap select.
 * @param keys of all rows in the order shown.
 */
export function between(keys: readonly string[], from: string | null, to: string): readonly string[] {
  const [a, b] = [from === null ? -1 : keys.indexOf(from), keys.indexOf(to)];
  if (b < 0) return [];
  return a < 0 ? [to] : keys.slice(Math.min(a, b), Math.max(a, b) + 1);
}
