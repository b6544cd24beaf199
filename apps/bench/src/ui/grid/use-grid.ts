import {
  type ColumnDef,
  getCoreRowModel,
  getFilteredRowModel,
  getSortedRowModel,
  type Row as TableRow,
  type SortingState,
  useReactTable,
  type VisibilityState,
} from '@tanstack/react-table';
import { useMemo, useRef, useState } from 'react';
import { between, compareValues, type GridColumn } from './columns';

/** How far a key moves the row that has the keyboard. */
const STEPS: Readonly<Record<string, number>> = {
  ArrowDown: 1,
  ArrowUp: -1,
  PageDown: 10,
  PageUp: -10,
  Home: -Infinity,
  End: Infinity,
};

/** Where a key leads from a row; null when it moves nothing. */
export function stepTo(key: string, at: number, count: number): number | null {
  const step = STEPS[key];
  return step === undefined || count === 0 ? null : Math.max(0, Math.min(count - 1, at + step));
}

/** Sorting, filters, columns and selection of a grid, over a headless table. */
export function useGrid<T>(
  columns: readonly GridColumn<T>[],
  rows: readonly T[],
  keyOf: (row: T) => string,
  sorted: SortingState,
) {
  const [sorting, setSorting] = useState<SortingState>(sorted);
  const [filters, setFilters] = useState<{ id: string; value: string }[]>([]);
  const [visible, setVisible] = useState<VisibilityState>(() =>
    Object.fromEntries(columns.filter((c) => c.hidden).map((c) => [c.id, false])),
  );
  const [selected, setSelected] = useState<ReadonlySet<string>>(new Set());
  const [at, setAt] = useState(0);
  /** Where a selection with Shift begins. */
  const from = useRef<string | null>(null);
  const defs = useMemo(
    () =>
      columns.map((c): ColumnDef<T> => ({
        id: c.id,
        accessorFn: (r) => c.value(r) ?? undefined,
        sortUndefined: 'last',
        sortingFn: (a, b) =>
          c.rank ? c.rank(a.original) - c.rank(b.original) : compareValues(a.getValue<string>(c.id), b.getValue<string>(c.id)),
        filterFn: (r, id, typed: string) =>
          String(r.getValue(id) ?? '')
            .toLowerCase()
            .includes(typed.trim().toLowerCase()),
      })),
    [columns],
  );
  const table = useReactTable<T>({
    data: rows as T[],
    columns: defs,
    state: { sorting, columnFilters: filters, columnVisibility: visible },
    getRowId: keyOf,
    // There are no pages; going back to the first one would draw it all again, and again.
    autoResetAll: false,
    onSortingChange: setSorting,
    getCoreRowModel: getCoreRowModel(),
    getSortedRowModel: getSortedRowModel(),
    getFilteredRowModel: getFilteredRowModel(),
  });
  const shown: readonly TableRow<T>[] = table.getRowModel().rows;
  const keys = useMemo(() => shown.map((r) => r.id), [shown]);
  const isShown = (id: string) => visible[id] !== false;
  return {
    shown,
    at,
    setAt,
    selected,
    cols: columns.filter((c) => isShown(c.id)),
    isShown,
    // Nothing out of sight is acted upon: only rows that are still there and shown count.
    chosen: shown.filter((r) => selected.has(r.id)).map((r) => r.original),
    filterOf: (id: string) => filters.find((f) => f.id === id)?.value ?? '',
    clearFilters: () => setFilters([]),
    setFilter: (id: string, value: string) =>
      setFilters((f) => [...f.filter((x) => x.id !== id), ...(value === '' ? [] : [{ id, value }])]),
    sortOf: (id: string) => table.getColumn(id)?.getIsSorted() ?? false,
    sortBy: (id: string) => table.getColumn(id)?.toggleSorting(),
    toggleColumn: (id: string) => setVisible((s) => ({ ...s, [id]: s[id] === false })),
    selectAll: () => setSelected(new Set(keys)),
    selectNone: () => setSelected(new Set()),
    /** One row more or less, or with Shift all from the last one to it. */
    toggle: (id: string, extend: boolean) => {
      const range = between(keys, from.current, id);
      setSelected((s) => {
        if (extend) return new Set([...s, ...range]);
        const next = new Set(s);
        if (!next.delete(id)) next.add(id);
        return next;
      });
      from.current = id;
    },
    extendTo: (index: number) => setSelected((s) => new Set([...s, ...between(keys, keys[at] ?? null, keys[index] ?? '')])),
  };
}

export type GridState<T> = ReturnType<typeof useGrid<T>>;
