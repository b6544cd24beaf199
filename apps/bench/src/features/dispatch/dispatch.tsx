import { type ConsignmentFacts, type Destination, localDay, type PackFacts, type Subject } from '@gavrel/core';
import { consignmentState, isUnderWay } from '@gavrel/core/consignment';
import { router } from 'expo-router';
import { useMemo, useState } from 'react';
import { View } from 'react-native';
import { draft, newId } from '../../device/write';
import { useAppDispatch, useAppSelector } from '../../state';
import { useActions } from '../../state/context';
import { useMay } from '../../state/may';
import { rulingOf, useZone } from '../../state/rulings';
import { packsChosen } from '../../state/view';
import { inParts } from '../../stock/parts';
import { useTokens, useWide } from '../../theme';
import { Button } from '../../ui/buttons';
import { Card, Column, Row } from '../../ui/frame';
import { dueWords } from '../../ui/say';
import { Heading, Words } from '../../ui/words';
import { ChosenCards } from './chosen-card';
import { CriticalCard } from './critical-card';
import { isWhole } from './view';
import { nameOf, packagesWord, packsWord, STAGE_WORDS } from './words';

interface Line {
  readonly facts: ConsignmentFacts;
  readonly state: ReturnType<typeof consignmentState>;
}

/** Every consignment with what it is now: what is late or came back first, then by day. */
function useConsignments(): readonly Line[] {
  const { consignments, packs } = useAppSelector((s) => s.logbook);
  return useMemo(() => {
    const members = new Map<string, PackFacts[]>();
    for (const f of Object.values(packs)) {
      if (f.consignment !== undefined) members.set(f.consignment, [...(members.get(f.consignment) ?? []), f]);
    }
    const day = (c: ConsignmentFacts) => (c.sent ? `~${c.sent.at}` : (c.on ?? '9999'));
    return Object.values(consignments)
      .map((facts) => ({ facts, state: consignmentState(facts, members.get(facts.id) ?? [], isWhole(packs)) }))
      .sort((a, b) => (day(a.facts) < day(b.facts) ? -1 : 1));
  }, [consignments, packs]);
}

function ConsignmentLine({ line, today }: { line: Line; today: string }) {
  const t = useTokens();
  const { facts, state } = line;
  const late = facts.on !== undefined && facts.on <= today && facts.sent === null;
  const packed = state.packages.filter((p) => p.closed).length;
  const told = facts.sent ? `with ${facts.sent.to}` : facts.on ? `dispatch ${dueWords(facts.on, today)}` : 'no day yet';
  const how = state.packages.length > 0 ? `${packed} of ${packagesWord(state.packages.length)} closed` : '';
  const words = [packsWord(state.packs.length), facts.sent ? '' : how].filter(Boolean).join(', ');
  return (
    <Button
      label={`${nameOf(facts)}: ${STAGE_WORDS[state.stage]}, ${words}, ${told}`}
      height={64}
      onPress={() => router.push(`/consignment/${facts.id}`)}
      testID={`consignment-${nameOf(facts)}`}
      style={{ alignItems: 'stretch', borderLeftWidth: late ? 6 : 1, borderColor: late ? t.ink : t.line }}
    >
      <View style={{ flexDirection: 'row', justifyContent: 'space-between', gap: 8 }}>
        <Words bold style={{ flexShrink: 1 }} lines={1}>
          {nameOf(facts)}
        </Words>
        <Words bold={late}>{STAGE_WORDS[state.stage]}</Words>
      </View>
      <View style={{ flexDirection: 'row', justifyContent: 'space-between', gap: 8 }}>
        <Words size={15} soft>
          {words}
        </Words>
        <Words size={15} bold={late}>
          {told}
        </Words>
      </View>
    </Button>
  );
}

/** Packs that lie here and could go, by where they would go. */
function useCouldGo(): readonly { readonly words: string; readonly to: Destination; readonly ids: readonly string[] }[] {
  const { packs, policy, consignments } = useAppSelector((s) => s.logbook);
  const zone = useZone();
  return useMemo(() => {
    const free = (f: PackFacts) => {
      const c = f.consignment === undefined ? undefined : consignments[f.consignment];
      return f.left === null && f.use !== 'fitted' && (c === undefined || c.ended !== null);
    };
    const out = new Map<string, { words: string; to: Destination; ids: string[] }>();
    const add = (words: string, to: Destination, id: string) => {
      const known = out.get(words) ?? { words, to, ids: [] };
      known.ids.push(id);
      out.set(words, known);
    };
    for (const f of Object.values(packs).filter(free)) {
      const { stream } = rulingOf(f, policy, zone).stream;
      if (f.dues.some((d) => d.what === 'return')) add('owed to a seller', 'seller', f.id);
      else if (stream === 'recycle damaged') add('damaged, to recycling', 'recycler', f.id);
      else if (stream === 'recycle') add('spent, to recycling', 'recycler', f.id);
      else if (stream === 'reuse' && f.use === 'spare') add('spares, to customers', 'customer', f.id);
    }
    return [...out.values()].sort((a, b) => b.ids.length - a.ids.length || (a.words < b.words ? -1 : 1));
  }, [packs, policy, consignments, zone]);
}

const PAST = 8;
/** What a consignment is called until somebody names it. */
const BEGUN: Partial<Record<Destination, string>> = { recycler: 'Recycling', seller: 'Return', customer: 'Spares' };

/** What is under way, what could go, and whether packs may travel at all. */
export function Dispatch() {
  const dispatch = useAppDispatch();
  const actions = useActions();
  const wide = useWide();
  const zone = useZone();
  const today = localDay(zone, new Date());
  const ships = useMay('consignment-described');
  const lines = useConsignments();
  const could = useCouldGo();
  const [past, setPast] = useState(false);
  const open = lines.filter((l) => isUnderWay(l.facts));
  const over = lines.filter((l) => !isUnderWay(l.facts)).reverse();
  const start = async (ids: readonly string[], to?: Destination) => {
    const id = newId(Date.now());
    const c: Subject = `consignment:${id}`;
    await actions.write(
      [
        draft('consignment-described', [c], {
          name: `${(to && BEGUN[to]) ?? 'Consignment'} ${today}`,
          ...(to && { destination: to }),
        }),
        ...(ids.length === 0
          ? []
          : inParts(ids).map((part) => draft('consigned', [c, ...part.map((p): Subject => `pack:${p}`)], {}))),
      ],
      'consignment begun',
    );
    dispatch(packsChosen([]));
    router.push(`/consignment/${id}`);
  };
  const left = (
    <>
      <Card title="Under way" right={<Words soft>{String(open.length)}</Words>} testID="card-under-way">
        {open.map((l) => (
          <ConsignmentLine key={l.facts.id} line={l} today={today} />
        ))}
        {open.length === 0 ? <Words>Nothing is on its way.</Words> : null}
        <Row>
          {ships ? <Button label="New consignment" height={56} onPress={() => start([])} testID="new-consignment" /> : null}
          <Button label="Boxes and carriers" height={56} onPress={() => router.push('/means')} testID="open-means" />
          <Button label="Notices of makers" height={56} onPress={() => router.push('/notices')} testID="open-notices" />
        </Row>
      </Card>
      {over.length > 0 ? (
        <Card title="Over" testID="card-over">
          {(past ? over : over.slice(0, PAST)).map((l) => (
            <ConsignmentLine key={l.facts.id} line={l} today={today} />
          ))}
          {over.length > PAST && !past ? <Button label={`All ${over.length}`} onPress={() => setPast(true)} /> : null}
        </Card>
      ) : null}
    </>
  );
  const right = (
    <>
      {ships && could.length > 0 ? (
        <Card title="Could go" testID="card-could-go">
          {could.map((g) => (
            <Button
              key={g.words}
              label={`${packsWord(g.ids.length)}: ${g.words}`}
              hint="begin a consignment"
              height={56}
              onPress={() => start(g.ids, g.to)}
              testID={`could-go-${g.to}`}
            />
          ))}
        </Card>
      ) : null}
      <CriticalCard />
      <ChosenCards onConsign={ships ? (ids) => void start(ids) : null} />
    </>
  );
  return (
    <Column style={{ width: '100%', maxWidth: wide ? 1280 : 900, alignSelf: 'center' }}>
      <Heading level={1} size={26}>
        Dispatch
      </Heading>
      {wide ? (
        <View style={{ flexDirection: 'row', gap: 12, alignItems: 'flex-start' }}>
          <View style={{ flex: 1, gap: 12 }}>{left}</View>
          <View style={{ flex: 1, gap: 12 }}>{right}</View>
        </View>
      ) : (
        <>
          {left}
          {right}
        </>
      )}
    </Column>
  );
}
