import { BY_DANGER, provisionWords } from '@gavrel/core';
import { type Ruled, wordOfRow } from '@gavrel/core/batch';
import { View } from 'react-native';
import type { GridColumn } from '../../ui/grid/columns';
import { Grid } from '../../ui/grid/lazy';
import { ConditionShape } from '../../ui/shape';
import { Words } from '../../ui/words';
import { problemWords, troubleOf, waitsFor, wordOf } from './words';

const trouble = (r: Ruled) => {
  const p = troubleOf(r);
  return p ? problemWords(p) : null;
};

const COLUMNS: readonly GridColumn<Ruled>[] = [
  { id: 'tag', title: 'Tag', width: 130, figures: true, value: (r) => r.tag || null },
  { id: 'line', title: 'Line', width: 70, figures: true, value: (r) => r.line },
  {
    id: 'condition',
    title: 'Condition',
    width: 140,
    value: (r) => r.condition,
    rank: (r) => (r.condition ? BY_DANGER.indexOf(r.condition) : BY_DANGER.length),
    show: (r) =>
      r.condition ? (
        <View style={{ flexDirection: 'row', gap: 8, alignItems: 'center' }}>
          <ConditionShape condition={r.condition} size={20} />
          <Words size={15}>{r.condition}</Words>
        </View>
      ) : null,
  },
  { id: 'outcome', title: 'Outcome', width: 140, value: wordOfRow, show: (r) => <Words bold>{wordOf(r)}</Words> },
  { id: 'why', title: 'Waits for, or does not add up', width: 260, value: (r) => trouble(r) ?? (waitsFor(r) || null) },
  { id: 'provision', title: 'Provision', width: 140, value: (r) => (r.provision ? provisionWords(r.provision) : null) },
  { id: 'un', title: 'UN', width: 100, value: (r) => r.un ?? null },
  { id: 'packages', title: 'Packages', width: 110, figures: true, value: (r) => r.packages },
];

/** The rulings of a table, on a wide screen. */
export function RulingsGrid({ rows, onOpen }: { rows: readonly Ruled[]; onOpen: (r: Ruled) => void }) {
  return (
    <Grid
      label="Rulings"
      columns={COLUMNS}
      rows={rows}
      keyOf={(r) => String(r.line)}
      rowTestID={(r) => `row-${r.line}`}
      onOpen={onOpen}
      empty="Nothing ruled on yet: load a file, or paste a table."
    />
  );
}
