import { TextInput, View } from 'react-native';
import { useTokens, WORDS } from '../../theme';
import { Button } from '../buttons';
import { Figures } from '../words';
import { CHECK, pinned } from './look';
import type { GridState } from './use-grid';

const SORT = { asc: 'ascending', desc: 'descending' } as const;
const ARROW = { asc: ' ▲', desc: ' ▼' } as const;

/** The headings: each sorts, and where it is asked for, each filters. */
export function GridHead<T>({ grid, filtering }: { grid: GridState<T>; filtering: boolean }) {
  const t = useTokens();
  const all = grid.chosen.length > 0 && grid.chosen.length === grid.shown.length;
  return (
    <View
      role="row"
      aria-rowindex={1}
      style={{ flexDirection: 'row', zIndex: 2, backgroundColor: t.card, ...({ position: 'sticky', top: 0 } as object) }}
    >
      <View role="columnheader" style={{ width: CHECK, ...pinned(0, t.card) }}>
        <Button
          label="Select all"
          sign
          tone="quiet"
          role="checkbox"
          selected={all}
          onPress={() => (all ? grid.selectNone() : grid.selectAll())}
          testID="grid-all"
        >
          <Figures bold color={all ? t.ground : t.ink}>
            {all ? '☑' : '☐'}
          </Figures>
        </Button>
      </View>
      {grid.cols.map((c, i) => {
        const sort = grid.sortOf(c.id);
        return (
          <View
            key={c.id}
            role="columnheader"
            aria-sort={sort ? SORT[sort] : 'none'}
            style={{ width: c.width, ...(i === 0 && pinned(CHECK, t.card)) }}
          >
            <Button
              label={`${c.title}${sort ? ARROW[sort] : ''}`}
              tone="quiet"
              size={15}
              style={{ alignItems: c.figures && i > 0 ? 'flex-end' : 'flex-start' }}
              onPress={() => grid.sortBy(c.id)}
              testID={`sort-${c.id}`}
            />
            {filtering ? (
              <TextInput
                aria-label={`filter ${c.title}`}
                value={grid.filterOf(c.id)}
                onChangeText={(typed) => grid.setFilter(c.id, typed)}
                style={{
                  fontFamily: WORDS,
                  fontSize: 16,
                  minHeight: 48,
                  marginHorizontal: 4,
                  paddingHorizontal: 6,
                  borderWidth: 1,
                  borderColor: t.line,
                  color: t.ink,
                }}
                testID={`column-filter-${c.id}`}
              />
            ) : null}
          </View>
        );
      })}
    </View>
  );
}
