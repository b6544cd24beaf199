import { mappingOf, readRows, readTable, type Ruled, ruleRow, type Table } from '@gavrel/core/batch';
import { MOST_STOCK } from './limits';
import type { StockLine } from './stock';

export interface Order {
  readonly text: string;
  /** What headings nobody knew mean, by their index. */
  readonly more: Readonly<Record<number, string>>;
  readonly today: string;
}

export type Answer =
  | {
      readonly kind: 'headings';
      readonly headings: Table['headings'];
      readonly mapping: Readonly<Record<number, string>>;
      readonly rows: number;
    }
  | { readonly kind: 'progress'; readonly done: number; readonly of: number }
  | { readonly kind: 'done'; readonly ruled: readonly Ruled[]; readonly stock: readonly StockLine[] }
  | { readonly kind: 'trouble'; readonly words: string };

/** Rows ruled on between two words of progress. */
const TURN = 500;

/** Reads and rules on a table off the interface's thread. */
function work({ text, more, today }: Order, say: (a: Answer) => void): void {
  const table = readTable(text);
  const mapping = { ...mappingOf(table.headings), ...more };
  say({ kind: 'headings', headings: table.headings, mapping, rows: table.rows.length });
  const rows = readRows(table, mapping, today);
  const ruled: Ruled[] = [];
  for (const row of rows) {
    ruled.push(ruleRow(row));
    if (ruled.length % TURN === 0) say({ kind: 'progress', done: ruled.length, of: rows.length });
  }
  const stock = rows
    .slice(0, MOST_STOCK)
    .map(({ line, tag, facts, printed, problems }) => ({ line, tag, facts, printed, bad: problems.length > 0 }));
  say({ kind: 'done', ruled, stock });
}

self.onmessage = (e: MessageEvent<Order>) => {
  try {
    work(e.data, (a) => self.postMessage(a));
  } catch (error) {
    self.postMessage({ kind: 'trouble', words: error instanceof Error ? error.message : String(error) } satisfies Answer);
  }
};
