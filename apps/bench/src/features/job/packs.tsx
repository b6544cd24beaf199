import { useContext, useEffect, useState } from 'react';
import { router } from 'expo-router';
import { View } from 'react-native';
import { useAppSelector } from '../../state';
import { useActions } from '../../state/context';
import { Button } from '../../ui/buttons';
import { RulingStrip } from '../../ui/ruling-strip';
import { Words } from '../../ui/words';
import { draft, type Draft } from '../../device/write';
import { AddUpCard } from '../../entry/add-up-card';
import { Keypad } from '../../entry/keypad';
import type { NumberTask } from '../../entry/number-task';
import { LabelCard } from '../../entry/label-card';
import { typeWords } from '../../entry/label-words';
import { LookCard } from '../../entry/look-card';
import { MeasureCard } from '../../entry/measure-card';
import { RoutesCard } from '../../entry/routes-card';
import { SwellingCard } from '../../entry/swelling-card';
import { PackShown } from '../../entry/ask';
import { SourcesCard } from './isolate';
import { Pictures } from '../../entry/pictures';
import { SheetOffer } from './sheet-offer';
import type { JobView, RuledPack } from './view';

/** The packs of the machine one by one, each with the cards of a station. */
function EachPack({
  v,
  children,
}: {
  v: JobView;
  children: (p: RuledPack, onTask: (t: NumberTask) => void, onKeep: (d: Draft, w: string) => Promise<unknown>) => React.ReactNode;
}) {
  const actions = useActions();
  const shown = useContext(PackShown);
  const [picked, setPicked] = useState<string | null>(null);
  // A pack that was just added is the one that is meant.
  useEffect(() => setPicked(null), [shown]);
  const [task, setTask] = useState<NumberTask | null>(null);
  const p = v.packs.find((x) => x.facts.id === (picked ?? shown)) ?? v.packs[0];
  if (!p) return <Words>No pack yet. Tag it, then add it.</Words>;
  const onKeep = (d: Draft, words: string) => actions.write([d], words);
  return (
    <>
      {v.packs.length > 1 ? (
        <View role="radiogroup" aria-label="Pack" style={{ flexDirection: 'row', flexWrap: 'wrap', gap: 6 }}>
          {v.packs.map((x) => (
            <Button
              key={x.facts.id}
              label={`${x.facts.tag}, ${x.facts.use ?? ''}`}
              role="radio"
              selected={p === x}
              onPress={() => setPicked(x.facts.id)}
              testID={`of-pack-${x.facts.tag}`}
            />
          ))}
        </View>
      ) : null}
      <RulingStrip ruling={p.ruling} tag={p.facts.tag} />
      <AddUpCard facts={p.facts} ruling={p.ruling} onTask={setTask} onKeep={onKeep} />
      {children(p, setTask, onKeep)}
      {task ? <Keypad key={task.title} packId={p.facts.id} first={task} onKeep={onKeep} onClose={() => setTask(null)} /> : null}
    </>
  );
}

export function LabelStation({ v }: { v: JobView }) {
  return (
    <EachPack v={v}>
      {(p, onTask, onKeep) => (
        <>
          {p.facts.labels.length === 0
            ? (v.sheet?.labels ?? [])
                .slice(0, 2)
                .map((l, i) => (
                  <SheetOffer
                    key={i}
                    what={typeWords(l.value)}
                    by={l.by}
                    times={l.times}
                    take="Read line by line: the same"
                    onTake={() => void onKeep(draft('label-read', [`pack:${p.facts.id}`], l.value), 'label read, the same')}
                    testID={`take-label-${i}`}
                  />
                ))
            : null}
          <LabelCard
            facts={p.facts}
            ruling={p.ruling}
            onTask={onTask}
            onKeep={onKeep}
            offers={(v.sheet?.labels ?? []).length === 0}
          />
          <Pictures of="label" on={[`pack:${p.facts.id}`]} photos={p.facts.photos} label="Picture of the label" />
          {v.sheet && v.sheet.codes.length > 0 ? (
            <Words size={15} soft>{`Seen in this model: ${v.sheet.codes.join(', ')}`}</Words>
          ) : null}
        </>
      )}
    </EachPack>
  );
}

export function MeasureStation({ v }: { v: JobView }) {
  const ready = useAppSelector((s) => s.logbook.ready);
  return ready ? (
    <>
      <SourcesCard v={v} />
      <EachPack v={v}>
        {(p, onTask, onKeep) => (
          <>
            <LookCard facts={p.facts} ruling={p.ruling} onKeep={onKeep} />
            <MeasureCard facts={p.facts} ruling={p.ruling} onTask={onTask} onKeep={onKeep} />
            <SwellingCard facts={p.facts} ruling={p.ruling} onTask={onTask} onKeep={onKeep} />
            <Pictures of="swelling" on={[`pack:${p.facts.id}`]} photos={p.facts.photos} label="Picture of the swelling" />
          </>
        )}
      </EachPack>
    </>
  ) : null;
}

/** What each pack is now, and why; its slip holds everything else. */
export function JudgeStation({ v }: { v: JobView }) {
  return (
    <EachPack v={v}>
      {(p, _onTask, onKeep) => (
        <>
          {p.ruling.next.slice(0, 3).map((n) => (
            <Words key={n.words} bold>{`${n.words}: decides ${n.decides}`}</Words>
          ))}
          <RoutesCard facts={p.facts} ruling={p.ruling} onKeep={onKeep} />
          <Button
            label={`Open the slip of ${p.facts.tag}`}
            height={64}
            onPress={() => router.push(`/pack/${p.facts.id}`)}
            testID={`slip-${p.facts.tag}`}
          />
        </>
      )}
    </EachPack>
  );
}
