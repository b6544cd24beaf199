import { type PersonDetail, type Training, TRAININGS } from '@gavrel/contract';
import { View } from 'react-native';
import type { GridColumn } from '../../ui/grid/columns';
import { Grid } from '../../ui/grid/lazy';
import { dayWords } from '../../ui/say';
import { Words } from '../../ui/words';

/** Whether somebody is let in, or signs. */
export const letIn = (p: PersonDetail): string =>
  p.disabled ? (p.role === 'outside' ? 'signs no longer' : 'not let in') : p.role === 'outside' ? 'signs by code' : 'yes';

/** Trained for what, until when. */
const UNTIL: Readonly<Record<Training['kind'], string>> = {
  assess: 'Assesses until',
  air: 'Air until',
  us: 'US until',
  adr: 'ADR until',
  sea: 'Sea until',
};

const columnsFor = (today: string): readonly GridColumn<PersonDetail>[] => {
  const until = (p: PersonDetail, kind: Training['kind']) => p.trainings?.find((t) => t.kind === kind)?.until ?? null;
  return [
    { id: 'name', title: 'Name', width: 160, value: (p) => p.name, show: (p) => <Words bold>{p.name}</Words> },
    { id: 'role', title: 'Role', width: 105, value: (p) => p.role },
    { id: 'in', title: 'Let in', width: 115, value: letIn },
    ...TRAININGS.map((kind) => ({
      id: kind,
      title: UNTIL[kind],
      width: 126,
      value: (p: PersonDetail) => until(p, kind),
      show: (p: PersonDetail) => {
        const day = until(p, kind);
        return day === null ? null : (
          <Words size={14} bold={day < today}>
            {day < today ? `over, ${dayWords(day)}` : dayWords(day)}
          </Words>
        );
      },
    })),
    { id: 'pin', title: 'PIN', width: 64, value: (p) => (p.pin ? 'set' : null) },
  ];
};

/** Height of a row and of what stands above them, px. */
const [ROW, HEAD] = [48, 124] as const;

/** Everybody with their trainings, on a wide screen. */
export function PeopleGrid({
  all,
  today,
  onOpen,
}: {
  all: readonly PersonDetail[];
  today: string;
  onOpen: (p: PersonDetail) => void;
}) {
  return (
    <View style={{ height: Math.min(600, HEAD + ROW * all.length) }}>
      <Grid
        label="People"
        columns={columnsFor(today)}
        rows={all}
        keyOf={(p) => p.id}
        rowTestID={(p) => `person-${p.name.split(' ')[0]}`}
        onOpen={onOpen}
        empty="Nobody yet."
      />
    </View>
  );
}
