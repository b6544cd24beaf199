import type { PackRow } from '@gavrel/contract';
import { type Condition, CONDITIONS } from '@gavrel/core';
import { useMemo, useState } from 'react';
import { FlatList, Pressable, View } from 'react-native';
import { useActions } from '../state/context';
import { LEFT_WORDS, usePackLines } from '../state/rulings';
import { useTokens } from '../theme';
import { Field } from '../ui/field';
import { Row } from '../ui/frame';
import { Button } from '../ui/buttons';
import { ConditionShape } from '../ui/shape';
import { UNANSWERED } from '../ui/say';
import { Sheet } from '../ui/sheet';
import { Figures, Words } from '../ui/words';
import { AtServer } from './at-server';
import { find } from './find';

/** One pack that can be chosen. */
function ChooseLine({
  line: { facts, condition: c, place: at },
  chosen,
  onToggle,
}: {
  line: ReturnType<typeof usePackLines>[number];
  chosen: boolean;
  onToggle: (on: boolean) => void;
}) {
  const t = useTokens();
  return (
    <Pressable
      role="checkbox"
      aria-checked={chosen}
      aria-label={`${facts.tag}, ${c}`}
      onPress={() => onToggle(!chosen)}
      testID={`choose-${facts.tag}`}
      style={{
        flexDirection: 'row',
        alignItems: 'center',
        gap: 10,
        minHeight: 52,
        borderBottomWidth: 1,
        borderColor: t.wash,
      }}
    >
      <View
        style={{
          width: 24,
          height: 24,
          borderWidth: 2,
          borderColor: t.ink,
          alignItems: 'center',
          justifyContent: 'center',
        }}
      >
        {chosen ? <View style={{ width: 14, height: 14, backgroundColor: t.ink }} /> : null}
      </View>
      <ConditionShape condition={c} size={20} />
      <Figures bold>{facts.tag}</Figures>
      <Words size={15} soft lines={1} style={{ flex: 1, textAlign: 'right' }}>
        {at || 'not placed'}
      </Words>
    </Pressable>
  );
}

/** Choose packs that are here: by condition, place, tag or type code; all that are shown with one key. */
export function ChooseSheet({
  before,
  onKeep,
  onClose,
}: {
  /** Ids that are chosen already. */
  before: readonly string[];
  /** Whoever asked closes it. */
  onKeep: (ids: readonly string[]) => void;
  onClose: () => void;
}) {
  const lines = usePackLines();
  const actions = useActions();
  const [trouble, setTrouble] = useState('');
  const [chosen, setChosen] = useState<ReadonlySet<string>>(() => new Set(before));
  const [search, setSearch] = useState('');
  const [condition, setCondition] = useState<Condition | null>(null);
  const [place, setPlace] = useState<string | null>(null);
  const here = useMemo(() => lines.filter((l) => l.facts.left === null && l.facts.use !== 'fitted'), [lines]);
  const places = useMemo(() => [...new Set(here.map((l) => l.place).filter((p) => p !== ''))].sort(), [here]);
  const shown = useMemo(
    () => find(here, search, condition).filter((l) => place === null || l.place === place),
    [here, search, condition, place],
  );
  const all = shown.length > 0 && shown.every((l) => chosen.has(l.facts.id));
  /** A pack that was not on this device: fetched, and chosen where it may be. */
  const fetch = async ({ id, tag }: PackRow) => {
    const pack = (await actions.packsOnRecord([id]))?.[id];
    const gone = pack && (pack.left ? LEFT_WORDS[pack.leftTo ?? 'owner'] : pack.use === 'fitted' ? 'is in a machine' : '');
    setTrouble(!pack ? `${tag}: ${UNANSWERED}` : gone ? `${tag} ${gone}.` : '');
    if (pack && !gone) toggle([id], true);
  };
  const toggle = (ids: readonly string[], on: boolean) =>
    setChosen((before) => {
      const next = new Set(before);
      for (const id of ids) {
        if (on) next.add(id);
        else next.delete(id);
      }
      return next;
    });
  return (
    <Sheet
      title="Choose packs"
      onClose={onClose}
      footer={
        <Button label={`Keep ${chosen.size}`} tone="next" height={64} onPress={() => onKeep([...chosen])} testID="keep-chosen" />
      }
    >
      <Field label="Tag, code or number" value={search} onChange={setSearch} testID="choose-search" />
      <Row gap={6}>
        {CONDITIONS.map((c) => (
          <Button
            key={c}
            label={`${c}, ${here.filter((l) => l.condition === c).length}`}
            selected={condition === c}
            onPress={() => setCondition(condition === c ? null : c)}
            testID={`choose-${c}`}
          />
        ))}
      </Row>
      <Row gap={6}>
        {places.map((p) => (
          <Button key={p} label={p} selected={place === p} onPress={() => setPlace(place === p ? null : p)} />
        ))}
      </Row>
      <Button
        label={all ? `None of these ${shown.length}` : `All ${shown.length} of these`}
        onPress={() =>
          toggle(
            shown.map((l) => l.facts.id),
            !all,
          )
        }
        disabled={shown.length === 0}
        testID="choose-all"
      />
      <FlatList
        data={shown}
        scrollEnabled={false}
        keyExtractor={(l) => l.facts.id}
        initialNumToRender={60}
        renderItem={({ item }) => (
          <ChooseLine line={item} chosen={chosen.has(item.facts.id)} onToggle={(on) => toggle([item.facts.id], on)} />
        )}
      />
      {trouble ? (
        <Words bold live>
          {trouble}
        </Words>
      ) : null}
      <AtServer search={search} onOpen={fetch} />
    </Sheet>
  );
}
