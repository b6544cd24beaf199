import type { SortingState } from '@tanstack/react-table';
import { useVirtualizer } from '@tanstack/react-virtual';
import { type ReactNode, useRef, useState } from 'react';
import { View } from 'react-native';
import { useTokens } from '../../theme';
import { Button } from '../buttons';
import { Row } from '../frame';
import { Sheet } from '../sheet';
import { Words } from '../words';
import { type GridColumn, tableText } from './columns';
import { GridHead } from './grid-head';
import { GridRow } from './grid-row';
import { CHECK, ROW } from './look';
import { type GridState, stepTo, useGrid } from './use-grid';

export interface GridProps<T> {
  /** What the table is of: its accessible name. */
  readonly label: string;
  readonly columns: readonly GridColumn<T>[];
  readonly rows: readonly T[];
  readonly keyOf: (row: T) => string;
  readonly onOpen: (row: T) => void;
  readonly rowTestID?: (row: T) => string;
  /** What can be done with the rows that are selected. */
  readonly actions?: (selected: readonly T[]) => ReactNode;
  readonly empty: string;
  readonly sorted?: SortingState;
  readonly testID?: string;
}

/** Which columns are shown; the first always is. */
function ColumnSheet<T>({
  columns,
  grid,
  onClose,
}: {
  columns: readonly GridColumn<T>[];
  grid: GridState<T>;
  onClose: () => void;
}) {
  return (
    <Sheet title="Columns" onClose={onClose}>
      {columns.slice(1).map((c) => (
        <Button
          key={c.id}
          label={c.title}
          role="checkbox"
          selected={grid.isShown(c.id)}
          height={52}
          onPress={() => grid.toggleColumn(c.id)}
          testID={`column-${c.id}`}
        />
      ))}
    </Sheet>
  );
}

/** Puts rows on the clipboard; says what was done. */
function useCopy<T>(grid: GridState<T>) {
  const [copied, setCopied] = useState('');
  const copy = () => {
    const list = grid.chosen.length > 0 ? grid.chosen : grid.shown.map((r) => r.original);
    navigator.clipboard.writeText(tableText(grid.cols, list)).then(
      () => setCopied(`${list.length} rows copied, with headings`),
      () => setCopied('The browser lets nothing be copied here.'),
    );
  };
  return { copied, copy };
}

/**
 * A table of many rows: headings sort, each column filters, several rows are selected with Shift, the first column stays, rows are drawn
 * only where they are seen, and what is selected is copied to a spreadsheet. Arrows move, Enter opens, Space selects, Ctrl A selects all,
 * Ctrl C copies.
 */
export function Grid<T>({ label, columns, rows, keyOf, rowTestID, onOpen, actions, empty, sorted = [], testID }: GridProps<T>) {
  const t = useTokens();
  const grid = useGrid(columns, rows, keyOf, sorted);
  const [filtering, setFiltering] = useState(false);
  const [choosing, setChoosing] = useState(false);
  const body = useRef<View>(null);
  const element = () => body.current as unknown as HTMLElement | null;
  const virtual = useVirtualizer({ count: grid.shown.length, getScrollElement: element, estimateSize: () => ROW, overscan: 12 });
  const { copied, copy } = useCopy(grid);
  const move = (index: number, extend: boolean) => {
    if (extend) grid.extendTo(index);
    grid.setAt(index);
    virtual.scrollToIndex(index);
    // The row is drawn first, then it can have the focus.
    setTimeout(() => element()?.querySelector<HTMLElement>(`[data-index="${index}"]`)?.focus(), 30);
  };
  const onKeyDown = (e: KeyboardEvent) => {
    const onRow = e.target instanceof Element && e.target.getAttribute('role') === 'row';
    if (!onRow) return;
    const command = e.ctrlKey || e.metaKey;
    const to = command ? null : stepTo(e.key, grid.at, grid.shown.length);
    const row = grid.shown[grid.at];
    if (to !== null) move(to, e.shiftKey);
    else if (e.key === 'Enter' && row) onOpen(row.original);
    else if (e.key === ' ' && row) grid.toggle(row.id, e.shiftKey);
    else if (command && e.key === 'c') copy();
    else if (command && e.key === 'a') grid.selectAll();
    else return;
    e.preventDefault();
  };
  const { chosen, shown } = grid;
  return (
    <View style={{ flex: 1, minHeight: 240 }} testID={testID}>
      <Row gap={6}>
        <Words style={{ flex: 1 }} live>
          {copied || (chosen.length > 0 ? `${chosen.length} of ${shown.length} selected` : `${shown.length} rows`)}
        </Words>
        {chosen.length > 0 ? <Button label="Select none" onPress={grid.selectNone} testID="grid-none" /> : null}
        {chosen.length > 0 ? actions?.(chosen) : null}
        <Button
          label="Filter"
          selected={filtering}
          onPress={() => {
            setFiltering(!filtering);
            grid.clearFilters();
          }}
          testID="grid-filter"
        />
        <Button label="Columns" onPress={() => setChoosing(true)} testID="grid-columns" />
        <Button label="Copy" hint="to a spreadsheet" onPress={copy} testID="grid-copy" />
      </Row>
      <View
        ref={body}
        {...({ onKeyDown } as object)}
        style={{ flex: 1, borderTopWidth: 2, borderColor: t.ink, marginTop: 6, ...({ overflow: 'auto' } as object) }}
      >
        <View
          {...({ role: 'grid', 'aria-multiselectable': true } as object)}
          aria-label={label}
          aria-rowcount={shown.length + 1}
          style={{ width: CHECK + grid.cols.reduce((sum, c) => sum + c.width, 0), minWidth: '100%' }}
        >
          <GridHead grid={grid} filtering={filtering} />
          <View role="rowgroup" style={{ height: virtual.getTotalSize() }}>
            {virtual.getVirtualItems().map((v) => (
              <GridRow
                key={shown[v.index]!.id}
                grid={grid}
                index={v.index}
                top={v.start}
                onOpen={onOpen}
                testID={rowTestID?.(shown[v.index]!.original)}
              />
            ))}
          </View>
        </View>
        {shown.length === 0 ? <Words style={{ padding: 12 }}>{empty}</Words> : null}
      </View>
      {choosing ? <ColumnSheet columns={columns} grid={grid} onClose={() => setChoosing(false)} /> : null}
    </View>
  );
}
