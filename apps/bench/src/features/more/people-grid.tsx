import { type PersonDetail, type Training, TRAININGS } from '@gavrel/contract';
import { View } from 'react-native';
import type { GridColumn } from '../../ui/grid/columns';
import { Grid } from '../../ui/grid/lazy';
import { dayWords } from '../../ui/say';
import { TRAINED_FOR } from '../../ui/training-words';
import { Words } from '../../ui/words';

/** Whether somebody is let in, or signs. */
export const letIn = (p: PersonDetail): string =>
  p.disabled ? (p.role === 'outside' ? 'signs no longer' : 'not let in') : p.role === 'outside' ? 'signs by code' : 'yes';

const columnsFor = (today: string): readonly GridColumn<PersonDetail>[] => {
  const until = (p: PersonDetail, kind: Training['kind']) => p.trainings?.find((t) => t.kind === kind)?.until ?? null;
  return [
    { id: 'name', title: 'Name', width: 200, value: (p) => p.name, show: (p) => <Words bold>{p.name}</Words> },
    { id: 'role', title: 'Role', width: 130, value: (p) => p.role },
    { id: 'in', title: 'Let in', width: 150, value: letIn },
    ...TRAININGS.map((kind) => ({
      id: kind,
      title: `${TRAINED_FOR[kind][0]!.toUpperCase()}${TRAINED_FOR[kind].slice(1)}`,
      width: 190,
      value: (p: PersonDetail) => until(p, kind),
      show: (p: PersonDetail) => {
        const day = until(p, kind);
        return day === null ? null : (
          <Words size={15} bold={day < today}>
            {day < today ? `ran out ${dayWords(day)}` : `until ${dayWords(day)}`}
          </Words>
        );
      },
    })),
    { id: 'pin', title: 'PIN', width: 90, value: (p) => (p.pin ? 'set' : null) },
  ];
};

/** Height of a row and of what stands above them, px. */
const [ROW, HEAD] = [48, 120] as const;

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
    <View style={{ height: Math.min(600, HEAD + ROW * (all.length + 1)) }}>
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
