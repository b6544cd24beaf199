import { router } from 'expo-router';
import { View } from 'react-native';
import type { GridColumn } from '../../ui/grid/columns';
import { Grid } from '../../ui/grid/lazy';
import { dayWords } from '../../ui/say';
import { Words } from '../../ui/words';
import type { ManifestLine } from './drum-paper';

const number = (text: string): number | null => (text === '' || !Number.isFinite(Number(text)) ? null : Number(text));

const COLUMNS: readonly GridColumn<ManifestLine>[] = [
  { id: 'tag', title: 'Tag', width: 105, figures: true, value: (l) => l.tag },
  { id: 'kg', title: 'kg', width: 115, figures: true, value: (l) => number(l.kg) ?? l.kg },
  {
    id: 'since',
    title: 'Waste since',
    width: 140,
    value: (l) => l.since,
    show: (l) => <Words size={14}>{/^\d{4}-/.test(l.since) ? dayWords(l.since) : l.since}</Words>,
  },
  { id: 'condition', title: 'Condition', width: 120, value: (l) => l.condition },
  { id: 'chemistry', title: 'Chemistry', width: 120, value: (l) => l.chemistry },
  { id: 'code', title: 'Type code', width: 150, value: (l) => l.code || null },
  { id: 'wh', title: 'Watt-hours', width: 120, figures: true, value: (l) => number(l.wattHours) },
];

/** Height of a row and of what stands above them, px. */
const [ROW, HEAD] = [48, 124] as const;

/** What lies in a drum, as its manifest lists it, on a wide screen. */
export function DrumGrid({ rows }: { rows: readonly ManifestLine[] }) {
  return (
    <View style={{ height: Math.min(520, HEAD + ROW * rows.length) }}>
      <Grid
        label="In this drum"
        columns={COLUMNS}
        rows={rows}
        keyOf={(l) => l.id}
        onOpen={(l) => router.push(`/pack/${l.id}`)}
        empty="Nothing lies in it."
        testID="drum-grid"
      />
    </View>
  );
}
