import { type Due, localDay } from '@gavrel/core';
import { router } from 'expo-router';
import { View } from 'react-native';
import { useDues, useZone } from '../../state/rulings';
import { SPACE, useWide } from '../../theme';
import { Column } from '../../ui/frame';
import type { GridColumn } from '../../ui/grid/columns';
import { Grid } from '../../ui/grid/lazy';
import { dueWords, exactWords, withDays } from '../../ui/say';
import { Heading, Words } from '../../ui/words';
import { DueGroups, dueTarget } from './dues';

/** What kind of thing it is, in a word. */
const KIND_WORDS: Readonly<Record<Due['what'], string>> = {
  look: 'look',
  proof: 'proof',
  return: 'return',
  clock: 'collection',
  stay: 'decision',
  discharge: 'discharge',
  dispatch: 'dispatch',
  receipt: 'receipt',
  'second person': 'signature',
};

const columnsFor = (today: string, now: string): readonly GridColumn<Due>[] => [
  {
    id: 'title',
    title: 'What',
    width: 310,
    value: (d) => d.title,
    show: (d) => (
      <Words bold lines={2}>
        {d.title}
      </Words>
    ),
  },
  {
    id: 'on',
    title: 'When',
    width: 215,
    value: (d) => d.at ?? d.on,
    show: (d) => (
      <Words size={15} bold={d.at === undefined ? d.on < today : d.at < now}>
        {d.at ? exactWords(d.at) : dueWords(d.on, today)}
      </Words>
    ),
  },
  {
    id: 'note',
    title: 'Note',
    width: 345,
    value: (d) => withDays(d.note) || null,
    show: (d) => (
      <Words size={15} lines={2}>
        {withDays(d.note)}
      </Words>
    ),
  },
  { id: 'kind', title: 'Kind', width: 105, value: (d) => KIND_WORDS[d.what] ?? d.what },
  { id: 'set', title: 'Follows from', width: 110, value: (d) => (d.derived ? 'what it is' : 'a person') },
];

/** Everything that is due: on a wide screen as a table, else under the headings of the Bench. */
export function DuesPage() {
  const wide = useWide();
  const dues = useDues();
  const today = localDay(useZone(), new Date());
  if (!wide) {
    return (
      <Column>
        <Heading level={1} size={26}>
          Due
        </Heading>
        <DueGroups dues={dues} today={today} />
        {dues.length === 0 ? <Words>Nothing is due.</Words> : null}
      </Column>
    );
  }
  return (
    <View style={{ flex: 1, padding: SPACE, gap: 8 }}>
      <Heading level={1} size={26}>
        Due
      </Heading>
      <Grid
        label="Due"
        columns={columnsFor(today, new Date().toISOString())}
        rows={dues}
        keyOf={(d) => d.id}
        rowTestID={(d) => `due-${d.id}`}
        onOpen={(d) => router.push(dueTarget(d))}
        empty="Nothing is due."
        testID="dues-grid"
      />
    </View>
  );
}
