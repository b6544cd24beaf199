import { BY_DANGER, type Figure, type PolicyFacts, value } from '@gavrel/core';
import { router } from 'expo-router';
import { useMemo } from 'react';
import { View } from 'react-native';
import { useAppDispatch, useAppSelector } from '../../state';
import { conditionOf } from '../../state/rulings';
import { packsChosen } from '../../state/view';
import type { Found } from '../../stock/find';
import { Button } from '../../ui/buttons';
import type { GridColumn } from '../../ui/grid/columns';
import { Grid } from '../../ui/grid/lazy';
import { clockWords } from '../../ui/say';
import { ConditionShape } from '../../ui/shape';
import { Words } from '../../ui/words';

const read = (f: Figure | undefined): number | null => (f === undefined ? null : value(f));

/** What the table of packs shows; conditions sort by danger, not by their letters. */
function columnsFor(policy: PolicyFacts): readonly GridColumn<Found>[] {
  const label = (l: Found) => conditionOf(l.facts, policy).label.all;
  return [
    { id: 'tag', title: 'Tag', width: 130, value: (l) => l.facts.tag, figures: true },
    {
      id: 'condition',
      title: 'Condition',
      width: 150,
      value: (l) => l.condition,
      rank: (l) => BY_DANGER.indexOf(l.condition),
      show: (l) => (
        <View style={{ flexDirection: 'row', gap: 8, alignItems: 'center' }}>
          <ConditionShape condition={l.condition} size={20} />
          <Words size={15}>{l.condition}</Words>
        </View>
      ),
    },
    { id: 'place', title: 'Place', width: 190, value: (l) => l.place || null },
    {
      id: 'code',
      title: 'Type code',
      width: 180,
      value: (l) => [l.columns.code, ...l.forgave].filter(Boolean).join(', ') || null,
    },
    { id: 'volts', title: 'Volts', width: 90, figures: true, value: (l) => read(label(l).nominalVoltage) },
    { id: 'energy', title: 'Watt-hours', width: 120, figures: true, value: (l) => read(label(l).ratedEnergy) },
    { id: 'chemistry', title: 'Chemistry', width: 120, value: (l) => label(l).chemistry ?? null },
    { id: 'use', title: 'Use', width: 120, value: (l) => l.facts.use },
    { id: 'slot', title: 'Where it sat', width: 130, hidden: true, value: (l) => l.facts.slot },
    { id: 'serial', title: 'Serial', width: 160, hidden: true, value: (l) => label(l).serial ?? null },
    {
      id: 'lastAt',
      title: 'Last noted',
      width: 130,
      value: (l) => l.facts.lastAt,
      show: (l) => <Words size={15}>{clockWords(l.facts.lastAt)}</Words>,
    },
  ];
}

/** Packs as a table, on a wide screen. */
export function PacksTable({ found, none }: { found: readonly Found[]; none: boolean }) {
  const dispatch = useAppDispatch();
  const policy = useAppSelector((s) => s.logbook.policy);
  const columns = useMemo(() => columnsFor(policy), [policy]);
  return (
    <Grid
      label="Packs"
      columns={columns}
      rows={found}
      keyOf={(l) => l.facts.id}
      rowTestID={(l) => `pack-${l.facts.tag}`}
      onOpen={(l) => router.push(`/pack/${l.facts.id}`)}
      actions={(selected) => (
        <Button
          label="To dispatch"
          hint="see how the selected packs may travel"
          tone="next"
          onPress={() => {
            dispatch(packsChosen(selected.filter((l) => l.facts.left === null).map((l) => l.facts.id)));
            router.navigate('/dispatch');
          }}
          testID="grid-dispatch"
        />
      )}
      empty={none ? 'No packs yet: add one.' : 'Nothing fits. Try fewer characters.'}
    />
  );
}
