import { LONGEST } from '@gavrel/contract';
import { LET_GO, type Mounting, MOUNTINGS, type PackRemovedBody, type ScrewCount, show, THREADS } from '@gavrel/core';
import { useState } from 'react';
import { View } from 'react-native';
import { draft } from '../../device/write';
import { useActions } from '../../state/context';
import { useWords } from '../../entry/use-words';
import { Field } from '../../ui/field';
import { Card, Row } from '../../ui/frame';
import { Choice, Button } from '../../ui/buttons';
import { RulingStrip } from '../../ui/ruling-strip';
import { Figures, Words } from '../../ui/words';
import { MetricLengths } from '../../ui/display';
import { Keypad } from '../../entry/keypad';
import type { NumberTask } from '../../entry/number-task';
import { PlaceCard } from '../../entry/place-card';
import { TagCard } from '../../paper/tag-card';
import { Ask, Caution } from '../../entry/ask';
import { FormCard } from './form-card';
import { SheetOffer } from './sheet-offer';
import type { JobView, RuledPack } from './view';

const LENGTHS = ['3', '4', '5', '6', '8', '10'] as const;
const screwsWords = (s: readonly ScrewCount[]) =>
  s.map((x) => `${x.count} × ${x.thread ?? '?'}${x.length ? ` × ${x.length.digits} mm` : ''}`).join(', ');

/** n x size in three taps. */
function PackScrews({ now, onSay }: { now: readonly ScrewCount[] | undefined; onSay: (s: readonly ScrewCount[]) => void }) {
  const first = now?.[0];
  const set = (part: Partial<ScrewCount>) =>
    onSay([{ thread: 'M2', length: { digits: '4', unit: 'mm' }, count: 4, ...first, ...part }]);
  return (
    <View style={{ gap: 6 }}>
      <Words size={15} soft={first !== undefined}>
        Its screws
      </Words>
      <Choice
        label="How many"
        options={['1', '2', '3', '4', '5', '6', '8'] as const}
        value={first ? (String(first.count) as '1') : null}
        onChange={(n) => set({ count: Number(n) })}
      />
      <Choice label="Thread" options={THREADS} value={first?.thread ?? null} onChange={(thread) => set({ thread })} />
      <Choice
        label="Length"
        options={LENGTHS}
        value={(first?.length?.digits as '4' | undefined) ?? null}
        onChange={(d) => set({ length: { digits: d, unit: 'mm' } })}
        words={Object.fromEntries(LENGTHS.map((l) => [l, `${l} mm`]))}
      />
      {first ? <Figures size={15}>{screwsWords(now!)}</Figures> : null}
    </View>
  );
}

type BaySide = 'length' | 'width' | 'depth';
const BAY: readonly BaySide[] = ['length', 'width', 'depth'];

type Say = (body: PackRemovedBody, words: string) => void;

/** What holds it, each with how it lets go. */
function HeldBy({ b, onSay }: { b: PackRemovedBody; onSay: Say }) {
  const toggle = (m: Mounting) => {
    const now = b.mounting ?? [];
    onSay({ mounting: now.includes(m) ? now.filter((x) => x !== m) : [...now, m] }, m);
  };
  return (
    <>
      <Words size={15} soft={b.mounting !== undefined}>
        Held by
      </Words>
      <Row gap={6}>
        {MOUNTINGS.map((m) => (
          <Button
            key={m}
            label={m}
            role="checkbox"
            selected={b.mounting?.includes(m) ?? false}
            height={52}
            onPress={() => toggle(m)}
            testID={`mounting-${m.replace(/ /g, '-')}`}
          />
        ))}
      </Row>
      {(b.mounting ?? []).map((m) => (
        <Words key={m} size={15}>{`${m}: ${LET_GO[m]}`}</Words>
      ))}
    </>
  );
}

/** Its cables, and whether it let go. */
function CablesAsked({ b, onSay: say }: { b: PackRemovedBody; onSay: Say }) {
  return (
    <>
      <Ask
        label="Speaker and antenna cables"
        options={['routed on it', 'free'] as const}
        value={b.cables}
        onSay={(cables) => say({ cables }, `cables ${cables}`)}
      />
      <Ask
        label="Cable of the pack"
        options={['keep it', 'part of the pack'] as const}
        value={b.cable}
        onSay={(cable) => say({ cable }, `cable: ${cable}`)}
      />
      {b.cable === 'keep it' ? <Caution>Keep the cable with the machine: the new pack may come without one.</Caution> : null}
      <Ask
        label="Did it let go"
        options={['no', 'let go slowly', 'stopped'] as const}
        words={{ no: 'at once' }}
        value={b.stuck}
        onSay={(stuck) => say({ stuck }, stuck === 'no' ? 'let go at once' : stuck)}
      />
    </>
  );
}

function One({ v, p }: { v: JobView; p: RuledPack }) {
  const actions = useActions();
  const [task, setTask] = useState<NumberTask | null>(null);
  const b: PackRemovedBody = p.facts.removed?.body ?? {};
  const about = [
    `pack:${p.facts.id}` as const,
    `job:${v.job.id}` as const,
    ...(v.notebook ? [`notebook:${v.notebook.id}` as const] : []),
  ];
  const write = (body: PackRemovedBody, said: string) => v.write([draft('pack-removed', about, body)], said);
  const say: Say = (body, said) => void write(body, said);
  const words = useWords(`removed ${p.facts.id}`, { note: b.note ?? '' }, LONGEST.note, (_, note) => write({ note }, 'note'));
  const onKeep = (d: ReturnType<typeof draft>, words: string) => actions.write([d], words);
  const bayTask = (side: BaySide): NumberTask => {
    const next = BAY[BAY.indexOf(side) + 1];
    return {
      title: `Bay, ${side}`,
      units: ['mm'],
      unit: 'mm',
      series: null,
      draft: (f) => draft('pack-removed', about, { bay: { [side]: f } }),
      ...(next && b.bay?.[next] === undefined && { next: () => bayTask(next) }),
    };
  };
  const offer = p.facts.removed ? null : v.sheet?.removal;
  const damaged = p.judgement.condition === 'damaged' || p.judgement.condition === 'critical';
  return (
    <>
      <RulingStrip ruling={p.ruling} tag={p.facts.tag} />
      <Card title={`How ${p.facts.tag} came out`} testID={`card-remove-${p.facts.tag}`}>
        {offer ? (
          <SheetOffer
            what={[
              offer.value.mounting?.join(', '),
              offer.value.screws && screwsWords(offer.value.screws),
              offer.value.cables && `cables ${offer.value.cables}`,
              offer.value.cable && `cable: ${offer.value.cable}`,
            ]
              .filter(Boolean)
              .join('; ')}
            by={offer.by}
            times={offer.times}
            onTake={() => say(offer.value, 'taken out')}
            testID="take-removal"
          />
        ) : null}
        <HeldBy b={b} onSay={say} />
        {damaged ? (
          <Caution>Damaged: no solvent, no heat, no metal, no bending. Will not let go: stop, leave it in, ask the lead.</Caution>
        ) : null}
        {b.mounting?.some((m) => m.includes('screws')) ? (
          <MetricLengths>
            <PackScrews now={b.screws} onSay={(screws) => say({ screws }, screwsWords(screws))} />
          </MetricLengths>
        ) : null}
        <CablesAsked b={b} onSay={say} />
        <Row gap={6}>
          <Button
            label={b.bay ? `Bay ${BAY.flatMap((s) => (b.bay?.[s] ? show(b.bay[s]!) : [])).join(' × ')}` : 'Measure the bay'}
            onPress={() => setTask(bayTask('length'))}
            testID={`bay-${p.facts.tag}`}
          />
        </Row>
        <Field label="A few words" {...words('note')} testID={`note-${p.facts.tag}`} />
      </Card>
      <FormCard facts={p.facts} title="Its outline" onTask={setTask} onKeep={onKeep} />
      <TagCard facts={p.facts} ruling={p.ruling} />
      <PlaceCard facts={p.facts} onKeep={onKeep} allowed={p.ruling.storage.places} />
      {task ? <Keypad key={task.title} packId={p.facts.id} first={task} onKeep={onKeep} onClose={() => setTask(null)} /> : null}
    </>
  );
}

/** Each pack out of the machine: how it was held, its tag, where it went. */
export function RemoveStation({ v }: { v: JobView }) {
  const [at, setAt] = useState(0);
  const p = v.inside[Math.min(at, v.inside.length - 1)];
  if (!p) return <Words>No pack yet. Tag it, then add it.</Words>;
  return (
    <>
      {v.inside.length > 1 ? (
        <Row gap={6}>
          {v.inside.map((x, i) => (
            <Button key={x.facts.id} label={x.facts.tag} role="radio" selected={p === x} onPress={() => setAt(i)} />
          ))}
        </Row>
      ) : null}
      <One key={p.facts.id} v={v} p={p} />
    </>
  );
}
