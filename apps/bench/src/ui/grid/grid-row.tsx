import { View } from 'react-native';
import { useTokens } from '../../theme';
import { Figures, Words } from '../words';
import type { GridColumn } from './columns';
import { CHECK, pinned, ROW } from './look';
import type { GridState } from './use-grid';

/** React Native knows no such role; the web does. */
const CELL = { role: 'gridcell' } as object;

interface Click {
  readonly shiftKey: boolean;
  readonly ctrlKey: boolean;
  readonly metaKey: boolean;
  readonly stopPropagation: () => void;
}

function Cell<T>({ column: c, row, first }: { column: GridColumn<T>; row: T; first: boolean }) {
  if (c.show) return c.show(row);
  const words = String(c.value(row) ?? '');
  return c.figures ? (
    <Figures size={15} bold={first} lines={1} style={{ textAlign: first ? 'left' : 'right' }}>
      {words}
    </Figures>
  ) : (
    <Words size={15} bold={first} lines={1}>
      {words}
    </Words>
  );
}

/** One row: a tap opens it, with Shift or Ctrl selects. */
export function GridRow<T>({
  grid,
  index,
  top,
  onOpen,
  testID,
}: {
  grid: GridState<T>;
  index: number;
  top: number;
  onOpen: (row: T) => void;
  testID: string | undefined;
}) {
  const t = useTokens();
  const row = grid.shown[index]!;
  const on = grid.selected.has(row.id);
  const ground = on ? t.wash : t.ground;
  const web = {
    dataSet: { index },
    onFocus: () => grid.setAt(index),
    onClick: (e: Click) => {
      grid.setAt(index);
      if (e.shiftKey || e.ctrlKey || e.metaKey) grid.toggle(row.id, e.shiftKey);
      else onOpen(row.original);
    },
  } as object;
  const check = {
    onClick: (e: Click) => {
      e.stopPropagation();
      grid.toggle(row.id, e.shiftKey);
    },
  } as object;
  return (
    <View
      role="row"
      aria-rowindex={index + 2}
      aria-selected={on}
      tabIndex={index === grid.at ? 0 : -1}
      {...web}
      style={{
        position: 'absolute',
        top,
        height: ROW,
        width: '100%',
        flexDirection: 'row',
        alignItems: 'center',
        backgroundColor: ground,
        borderBottomWidth: 1,
        borderColor: t.wash,
        ...({ cursor: 'pointer', outlineColor: t.accent, outlineOffset: -3, userSelect: 'none' } as object),
      }}
      testID={testID}
    >
      <View
        {...CELL}
        {...check}
        style={{ width: CHECK, height: ROW - 1, alignItems: 'center', justifyContent: 'center', ...pinned(0, ground) }}
        testID={`select-${index}`}
      >
        <Figures bold>{on ? '☑' : '☐'}</Figures>
      </View>
      {grid.cols.map((c, i) => (
        <View
          key={c.id}
          {...CELL}
          style={{
            width: c.width,
            height: ROW - 1,
            justifyContent: 'center',
            paddingHorizontal: 12,
            ...(i === 0 && pinned(CHECK, ground)),
          }}
        >
          <Cell column={c} row={row.original} first={i === 0} />
        </View>
      ))}
    </View>
  );
}
