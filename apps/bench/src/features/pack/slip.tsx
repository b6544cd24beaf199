import { type NextReading, NOT_ADDING_UP, type Ruling } from '@gavrel/core';
import { useCallback, useEffect, useState } from 'react';
import { ScrollView, View } from 'react-native';
import { errorMessage } from '../../device/api';
import { entriesOfPack } from '../../device/store';
import type { Draft } from '../../device/write';
import { useAppSelector } from '../../state';
import { useActions } from '../../state/context';
import { rulingOf, useZone } from '../../state/rulings';
import { SPACE, useTokens, useWide } from '../../theme';
import { Card } from '../../ui/frame';
import { Button } from '../../ui/buttons';
import { RulingStrip } from '../../ui/ruling-strip';
import { Sheet } from '../../ui/sheet';
import { Words } from '../../ui/words';
import { History } from '../../entry/history';
import { Pictures } from '../../entry/pictures';
import { TagCard } from '../../paper/tag-card';
import { WaitingCard } from '../../entry/waiting-card';
import { AddUpCard } from '../../entry/add-up-card';
import { CareCard } from './care-card';
import { RuntimeCard } from '../../entry/runtime-card';
import { TypeCard } from '../../entry/type-card';
import { LogCard } from './log-card';
import { TwiceCard } from './twice-card';
import { Keypad } from '../../entry/keypad';
import type { NumberTask } from '../../entry/number-task';
import { LabelCard } from '../../entry/label-card';
import { LookCard } from '../../entry/look-card';
import { MeasureCard } from '../../entry/measure-card';
import { PlaceCard } from '../../entry/place-card';
import { Reasons } from '../../entry/reasons';
import { RoutesCard } from '../../entry/routes-card';
import { SwellingCard } from '../../entry/swelling-card';
import { readingTask } from '../../entry/tasks';

/** What to find out next, most consequential first. */
function NextCard({ next: all, onPick }: { next: readonly NextReading[]; onPick: (n: NextReading) => void }) {
  // What does not add up heads them, in a card of its own.
  const next = all.filter((n) => n.decides !== NOT_ADDING_UP);
  if (next.length === 0) return null;
  return (
    <Card title="Worth taking next" testID="card-next">
      {next.slice(0, 4).map((n, i) => (
        <Button
          key={n.words}
          label={`${n.words}, decides ${n.decides}`}
          tone={i === 0 ? 'next' : 'plain'}
          height={i === 0 ? 64 : 52}
          onPress={() => onPick(n)}
          testID={`next-${n.card}`}
        >
          <NextWords n={n} first={i === 0} />
        </Button>
      ))}
    </Card>
  );
}

function NextWords({ n, first }: { n: NextReading; first: boolean }) {
  const t = useTokens();
  const ink = first ? t.onAccent : t.ink;
  return (
    <View style={{ width: '100%' }}>
      <Words bold color={ink}>
        {n.words}
      </Words>
      <Words size={14} color={ink}>{`decides: ${n.decides}`}</Words>
    </View>
  );
}

/** A pack that this device does not hold is asked for at the server. */
function NotHere({ id }: { id: string }) {
  const actions = useActions();
  const [trouble, setTrouble] = useState<string | null>(null);
  useEffect(() => {
    let current = true;
    actions.fetchLog(`pack:${id}`).then(
      () => current && setTrouble('No such pack is on record.'),
      (e: unknown) => current && setTrouble(`This pack is not on this device. ${errorMessage(e)}`),
    );
    return () => {
      current = false;
    };
  }, [actions, id]);
  return <Words>{trouble ?? 'Asking the server for this pack.'}</Words>;
}

/** The card on which a reading is taken. */
function cardOf(n: NextReading, ruling: Ruling): string {
  const CARDS: Readonly<Partial<Record<NextReading['card'], string>>> = {
    look: 'look',
    label: 'label',
    gauge: 'measure',
    cells: 'measure',
    thickness: 'swelling',
    settle: ruling.judgement.open.some((o) => /growth|thickness/.test(o)) ? 'swelling' : 'measure',
    evidence: 'routes',
  };
  return CARDS[n.card] ?? '';
}

/** The pack slip: the ruling always in sight, everything else below it. On a wide screen the reasons stand beside it. */
export function Slip({ id }: { id: string }) {
  const t = useTokens();
  const wide = useWide();
  const actions = useActions();
  const facts = useAppSelector((s) => s.logbook.packs[id]);
  const policy = useAppSelector((s) => s.logbook.policy);
  const ready = useAppSelector((s) => s.logbook.ready);
  const zone = useZone();
  const [task, setTask] = useState<NumberTask | null>(null);
  const [why, setWhy] = useState(false);
  const onKeep = useCallback((d: Draft, words: string) => actions.write([d], words), [actions]);
  const close = useCallback(() => setTask(null), []);
  const [scroll, setScroll] = useState<ScrollView | null>(null);
  const [tops, setTops] = useState<Readonly<Record<string, number>>>({});
  if (!facts) return <View style={{ padding: SPACE }}>{ready ? <NotHere id={id} /> : null}</View>;
  const ruling = rulingOf(facts, policy, zone);
  const at = (card: string) => (e: { nativeEvent: { layout: { y: number } } }) =>
    setTops((s) => ({ ...s, [card]: e.nativeEvent.layout.y }));
  const pick = (n: NextReading) => {
    if (n.card === 'volts') return setTask(readingTask(facts, ruling.judgement.nature.series, 'volts'));
    if (n.card === 'mass') return setTask(readingTask(facts, null, 'mass'));
    const card = cardOf(n, ruling);
    scroll?.scrollTo({ y: tops[card] ?? 0, animated: false });
  };
  const shared = { facts, ruling, onTask: setTask, onKeep };
  return (
    <View style={{ flex: 1, flexDirection: wide ? 'row' : 'column' }}>
      <View style={{ flex: 1 }}>
        <View style={{ padding: wide ? SPACE : 0, paddingBottom: 0 }}>
          <RulingStrip ruling={ruling} tag={facts.tag} {...(!wide && { onWhy: () => setWhy(true) })} />
        </View>
        <ScrollView
          ref={setScroll}
          tabIndex={0}
          style={{ flex: 1 }}
          contentContainerStyle={{ padding: SPACE, gap: SPACE, paddingBottom: 90 }}
        >
          <TwiceCard facts={facts} />
          <AddUpCard {...shared} />
          <WaitingCard
            waiting={facts.waiting}
            packs={[facts]}
            load={async () => {
              const all = await entriesOfPack(id);
              return { all, packs: new Map([[id, all]]) };
            }}
          />
          <NextCard next={ruling.next} onPick={pick} />
          <View onLayout={at('look')}>
            <LookCard facts={facts} ruling={ruling} onKeep={onKeep} />
          </View>
          <View onLayout={at('label')}>
            <LabelCard {...shared} />
          </View>
          <View onLayout={at('measure')}>
            <MeasureCard {...shared} />
          </View>
          <View onLayout={at('swelling')}>
            <SwellingCard {...shared} />
          </View>
          <View onLayout={at('routes')}>
            <RoutesCard facts={facts} ruling={ruling} onKeep={onKeep} />
          </View>
          <CareCard facts={facts} ruling={ruling} onKeep={onKeep} />
          <RuntimeCard ruling={ruling} />
          <TypeCard code={ruling.judgement.label.sure.typeCode ?? ''} />
          <LogCard facts={facts} ruling={ruling} />
          <PlaceCard facts={facts} onKeep={onKeep} allowed={ruling.storage.places} />
          <TagCard facts={facts} ruling={ruling} />
          <Card title="Pictures" testID="card-pictures">
            {(['label', 'swelling', 'damage'] as const).map((of) => (
              <Pictures key={of} of={of} on={[`pack:${id}`]} photos={facts.photos} label={`Picture of the ${of}`} />
            ))}
          </Card>
          <History load={() => entriesOfPack(id)} of={id} waiting={facts.waiting} pack={facts} />
        </ScrollView>
      </View>
      {wide ? (
        <ScrollView
          tabIndex={0}
          style={{ width: 340, flexGrow: 0, borderLeftWidth: 1, borderColor: t.line }}
          contentContainerStyle={{ padding: SPACE }}
        >
          <Reasons ruling={ruling} />
        </ScrollView>
      ) : null}
      {why ? (
        <Sheet title="Why" onClose={() => setWhy(false)}>
          <Reasons ruling={ruling} />
        </Sheet>
      ) : null}
      {task ? <Keypad key={task.title} packId={id} first={task} onKeep={onKeep} onClose={close} /> : null}
    </View>
  );
}
