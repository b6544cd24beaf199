import { LONGEST, type PackRow } from '@gavrel/contract';
import { BY_DANGER, type Condition, normalTag, taggedId } from '@gavrel/core';
import { router } from 'expo-router';
import { memo, useMemo, useState } from 'react';
import { FlatList, Pressable, View } from 'react-native';
import { draft } from '../../device/write';
import { useAppSelector } from '../../state';
import { useActions } from '../../state/context';
import { useMay } from '../../state/may';
import { usePackLines } from '../../state/rulings';
import { ScanField } from '../../entry/scan-field';
import { find, type Found } from '../../stock/find';
import { SPACE, useTokens, useWide } from '../../theme';
import { Field } from '../../ui/field';
import { Button } from '../../ui/buttons';
import { ConditionShape } from '../../ui/shape';
import { Sheet } from '../../ui/sheet';
import { useOnce } from '../../ui/use-once';
import { Figures, Heading, Words } from '../../ui/words';
import { AtServer } from '../../stock/at-server';
import { PacksTable } from './packs-table';

/** A pack without a notebook: over the counter, by post, from a drawer. */
export function AddPack({ onClose }: { onClose: () => void }) {
  const actions = useActions();
  const workshop = useAppSelector((s) => s.session.session?.workshop.id ?? '');
  const [tag, setTag] = useState('');
  const id = tag.trim() === '' ? null : taggedId(workshop, 'pack', tag);
  const taken = useAppSelector((s) => (id === null ? undefined : s.logbook.packs[id]));
  const add = useOnce(async () => {
    if (id === null) return;
    // A tag of a pack that is not held here may be taken all the same; without the server nobody knows.
    const onRecord = await actions.packsOnRecord([id]);
    if (!taken && !onRecord?.[id])
      await actions.write(
        [draft('pack-added', [`pack:${id}`], { tag: normalTag(tag), use: 'removed' })],
        `pack ${normalTag(tag)} added`,
      );
    onClose();
    router.push(`/pack/${id}`);
  });
  return (
    <Sheet
      title="Add a pack"
      onClose={onClose}
      footer={
        <Button
          label={taken ? 'Open the pack with this tag' : 'Add'}
          tone="next"
          height={64}
          disabled={id === null}
          onPress={() => add()}
          testID="add-pack-now"
        />
      }
    >
      <ScanField
        label="Tag"
        value={tag}
        onChange={setTag}
        onScan={setTag}
        asTag
        onEnter={() => void add()}
        longest={LONGEST.tag}
        testID="pack-tag"
      />
      {taken ? <Words>A tag is used once: this one is a pack already.</Words> : null}
    </Sheet>
  );
}

const Line = memo(function Line({ line, here }: { line: Found; here: boolean }) {
  const t = useTokens();
  const { facts, condition, columns, place, forgave } = line;
  return (
    <Pressable
      role="link"
      onPress={() => router.push(`/pack/${facts.id}`)}
      testID={`pack-${facts.tag}`}
      style={{
        flexDirection: 'row',
        alignItems: 'center',
        gap: 10,
        minHeight: 64,
        paddingHorizontal: SPACE,
        borderBottomWidth: 1,
        borderColor: t.wash,
        backgroundColor: here ? t.wash : 'transparent',
      }}
    >
      <ConditionShape condition={condition} size={26} />
      <View style={{ flex: 1 }}>
        <View style={{ flexDirection: 'row', justifyContent: 'space-between', gap: 8 }}>
          <Figures bold size={17}>
            {facts.tag}
          </Figures>
          <Words size={15}>{condition}</Words>
        </View>
        <View style={{ flexDirection: 'row', justifyContent: 'space-between', gap: 8 }}>
          <Figures size={14} soft lines={1}>
            {columns.code || 'no type code'}
          </Figures>
          <Words size={14} soft lines={1}>
            {place || 'not placed'}
          </Words>
        </View>
        {forgave.length > 0 ? <Words size={14}>{forgave.join(', ')}</Words> : null}
      </View>
    </Pressable>
  );
});

const open = ({ id }: PackRow) => router.push(`/pack/${id}`);

/** Find a pack: search, conditions with their counts, one line a pack. */
export function Packs({ current }: { current?: string }) {
  const t = useTokens();
  const lines = usePackLines();
  const [search, setSearch] = useState('');
  const [condition, setCondition] = useState<Condition | null>(null);
  const [adding, setAdding] = useState(false);
  const mayAdd = useMay('pack-added');
  const table = useWide() && current === undefined;
  const found = useMemo(() => find(lines, search, condition), [lines, search, condition]);
  const count = (c: Condition) => lines.filter((l) => l.condition === c).length;
  return (
    <View style={{ flex: 1 }}>
      <View style={{ padding: SPACE, gap: 8 }}>
        {current === undefined ? (
          <Heading level={1} size={26}>
            Packs
          </Heading>
        ) : null}
        <View style={{ flexDirection: 'row', gap: 8, alignItems: 'flex-end' }}>
          <View style={{ flex: 1 }}>
            <Field label="Tag, code or number" value={search} onChange={setSearch} testID="search" />
          </View>
          {mayAdd ? <Button label="Add" tone="next" height={52} onPress={() => setAdding(true)} testID="add-pack" /> : null}
        </View>
        <View role="group" aria-label="Conditions" style={{ flexDirection: 'row', gap: 4 }}>
          {BY_DANGER.map((c) => (
            <Button
              key={c}
              label={`${c}, ${count(c)}`}
              sign
              selected={condition === c}
              onPress={() => setCondition(condition === c ? null : c)}
              style={{ flex: 1, paddingHorizontal: 2 }}
              testID={`filter-${c}`}
            >
              <ConditionShape condition={c} size={20} color={condition === c ? t.ground : undefined} />
              <Figures size={14} color={condition === c ? t.ground : t.ink}>
                {count(c)}
              </Figures>
            </Button>
          ))}
        </View>
      </View>
      {table ? (
        <View style={{ flex: 1, paddingHorizontal: SPACE }}>
          <PacksTable found={found} none={lines.length === 0} />
          <AtServer search={search} onOpen={open} />
        </View>
      ) : (
        <FlatList
          data={found}
          keyExtractor={(l) => l.facts.id}
          renderItem={({ item }) => <Line line={item} here={item.facts.id === current} />}
          initialNumToRender={14}
          windowSize={9}
          tabIndex={0}
          contentContainerStyle={{ paddingBottom: 90 }}
          ListFooterComponent={<AtServer search={search} onOpen={open} />}
          ListEmptyComponent={
            <Words style={{ padding: SPACE }}>
              {lines.length === 0 ? 'No packs yet: add one.' : 'Nothing fits. Try fewer characters.'}
            </Words>
          }
        />
      )}
      {adding ? <AddPack onClose={() => setAdding(false)} /> : null}
    </View>
  );
}
