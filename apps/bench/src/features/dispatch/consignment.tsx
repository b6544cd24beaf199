import type { Subject } from '@gavrel/core';
import { isUnderWay, STAGES } from '@gavrel/core/consignment';
import { router } from 'expo-router';
import { useState } from 'react';
import { View } from 'react-native';
import { draft } from '../../device/write';
import { useOwner } from '../../entry/use-owner';
import { useActions } from '../../state/context';
import { useMay } from '../../state/may';
import { conditionOf } from '../../state/rulings';
import { useAppSelector } from '../../state';
import { inParts } from '../../stock/parts';
import { ChooseSheet } from '../../stock/choose';
import { Unheld } from '../../stock/unheld';
import { useTokens, useWide } from '../../theme';
import { Button } from '../../ui/buttons';
import { Card, Column, Row } from '../../ui/frame';
import { ConditionShape } from '../../ui/shape';
import { Figures, Heading, Words } from '../../ui/words';
import { DescribeSheet } from './describe-sheet';
import { LeaveCard } from './leave-card';
import { OwnWaysCard } from './own-ways-card';
import { PackagesCard } from './packages-card';
import { PapersCard } from './papers-card';
import { ReturnCard } from './return-card';
import { useConsignment } from './use-consignment';
import { type ConsignmentView } from './view';
import { isWaste } from './waste';
import { WasteCard } from './waste-card';
import { WaysCard } from './ways-card';
import { DESTINATION_WORDS, nameOf, packsWord, STAGE_WORDS, wayWords } from './words';
import { dayWords } from '../../ui/say';

/** The five stages it passes on its way, the one it is in filled. */
function StageStrip({ v }: { v: ConsignmentView }) {
  const t = useTokens();
  const steps = STAGES.slice(0, 5);
  const { stage } = v.state;
  const at = (steps as readonly string[]).indexOf(stage);
  return (
    <View style={{ gap: 4 }}>
      <View aria-hidden style={{ flexDirection: 'row', gap: 3 }}>
        {steps.map((s, i) => (
          <View
            key={s}
            style={{ flex: 1, height: 8, borderWidth: 1, borderColor: t.ink, backgroundColor: i <= at ? t.ink : 'transparent' }}
          />
        ))}
      </View>
      <Words bold testID="stage">
        {STAGE_WORDS[stage]}
      </Words>
    </View>
  );
}

const SHOWN = 24;

/** Which packs go: added, taken off, and what is odd about them. */
function PacksCard({ v }: { v: ConsignmentView }) {
  const actions = useActions();
  const policy = useAppSelector((s) => s.logbook.policy);
  const [choosing, setChoosing] = useState(false);
  const [all, setAll] = useState(false);
  const may = useMay('consigned') && v.facts.sent === null && v.facts.ended === null;
  const c: Subject = `consignment:${v.facts.id}`;
  const drafts = (kind: 'consigned' | 'withdrawn', ids: readonly string[]) =>
    inParts(ids).map((part) => draft(kind, [c, ...part.map((id): Subject => `pack:${id}`)], {}));
  /** What is added and what is taken off is one act: one undo takes both back. */
  const keep = (ids: readonly string[]) => {
    setChoosing(false);
    const now = new Set(v.state.packs);
    const next = new Set(ids);
    const on = ids.filter((id) => !now.has(id));
    const off = v.state.packs.filter((id) => !next.has(id));
    if (on.length + off.length === 0) return;
    const words = [on.length > 0 && `${packsWord(on.length)} added`, off.length > 0 && `${packsWord(off.length)} taken off`];
    void actions.write([...drafts('consigned', on), ...drafts('withdrawn', off)], words.filter(Boolean).join(', '));
  };
  const suspect = v.members.filter((f) => !['sound', 'spent'].includes(conditionOf(f, policy).condition));
  const back = v.facts.destination === 'seller' || v.facts.destination === 'recall';
  const shown = all ? v.state.packs : v.state.packs.slice(0, SHOWN);
  return (
    <Card title={packsWord(v.state.packs.length)} testID="card-packs">
      <Row gap={10}>
        {shown.map((id) => {
          const f = v.members.find((m) => m.id === id);
          return (
            <Row key={id} gap={4}>
              {f ? <ConditionShape condition={conditionOf(f, policy).condition} size={16} /> : null}
              <Figures size={15}>{v.sendings.get(id)?.tag ?? '?'}</Figures>
            </Row>
          );
        })}
      </Row>
      {v.state.packs.length > shown.length ? <Button label={`All ${v.state.packs.length}`} onPress={() => setAll(true)} /> : null}
      {v.state.elsewhere.length > 0 ? (
        <Words bold>{`${packsWord(v.state.elsewhere.length)} planned here went elsewhere.`}</Words>
      ) : null}
      {suspect.length > 0 && back && v.facts.sent === null ? (
        <Words bold testID="suspect-return">
          Suspect packs go back by road or sea only, in the kit the maker sends. Never with an air label that lies in a box.
        </Words>
      ) : null}
      {may ? <Button label="Choose packs" height={56} onPress={() => setChoosing(true)} testID="consign-packs" /> : null}
      {choosing ? <ChooseSheet before={v.state.packs} onKeep={keep} onClose={() => setChoosing(false)} /> : null}
    </Card>
  );
}

function HeadCard({ v }: { v: ConsignmentView }) {
  const [open, setOpen] = useState(false);
  const may = useMay('consignment-described') && v.facts.sent === null && v.facts.ended === null;
  const owner = useOwner(v.facts.addressee ?? null);
  const carrier = v.means.carriers.find((c) => c.id === v.facts.carrier);
  const late = v.facts.on !== undefined && v.facts.on < v.today && isUnderWay(v.facts) && !v.facts.sent;
  const lines = [
    v.facts.destination ? `To ${DESTINATION_WORDS[v.facts.destination]}` : 'Where to is not said yet',
    owner?.name,
    v.facts.on && `dispatch ${dayWords(v.facts.on)}${late ? ', that day is over' : ''}`,
    wayWords(v.facts, carrier),
  ];
  return (
    <Card>
      <StageStrip v={v} />
      <Words bold={late}>{lines.filter(Boolean).join('; ')}</Words>
      {may ? (
        <Button
          label={v.facts.destination ? 'Change' : 'Say where to'}
          tone={v.facts.destination ? 'plain' : 'next'}
          height={56}
          onPress={() => setOpen(true)}
          testID="describe-consignment"
        />
      ) : null}
      {open ? <DescribeSheet v={v} onClose={() => setOpen(false)} /> : null}
    </Card>
  );
}

/** One consignment, from the heap of packs to the receipt. */
export function Consignment({ id }: { id: string }) {
  const v = useConsignment(id);
  const wide = useWide();
  const plans = useMay('plan-kept');
  if (!v) {
    return (
      <Column>
        <Words>This consignment is not on this device.</Words>
        <Button label="Dispatch" onPress={() => router.push('/dispatch')} />
      </Column>
    );
  }
  const open = v.facts.sent === null && v.facts.ended === null;
  const goesBack = v.facts.destination === 'seller' || v.facts.destination === 'recall';
  const choosing = (
    <>
      <PacksCard v={v} />
      {goesBack ? <ReturnCard v={v} /> : null}
      {open && plans ? <WaysCard v={v} /> : null}
      {open ? <OwnWaysCard v={v} /> : null}
    </>
  );
  const packing = (
    <>
      <PackagesCard v={v} />
      {isWaste(v) ? <WasteCard v={v} /> : null}
      {v.packages.length > 0 ? <PapersCard v={v} /> : null}
      <LeaveCard v={v} />
    </>
  );
  // Once there is a plan, whoever packs needs the packages first.
  const [first, second] = v.packages.length > 0 ? [packing, choosing] : [choosing, packing];
  return (
    <Column style={{ width: '100%', maxWidth: 1280, alignSelf: 'center' }}>
      <Row style={{ justifyContent: 'space-between', flexWrap: 'nowrap' }}>
        <Heading level={1} size={26} style={{ flexShrink: 1 }}>
          {nameOf(v.facts)}
        </Heading>
        <Button label="All" hint="consignments" tone="quiet" onPress={() => router.push('/dispatch')} />
      </Row>
      <Unheld ids={v.state.unheld} />
      {wide ? (
        <View style={{ flexDirection: 'row', gap: 12, alignItems: 'flex-start' }}>
          <View style={{ flex: 1, gap: 12 }}>
            <HeadCard v={v} />
            {choosing}
          </View>
          <View style={{ flex: 1, gap: 12 }}>{packing}</View>
        </View>
      ) : (
        <>
          <HeadCard v={v} />
          {first}
          {second}
        </>
      )}
    </Column>
  );
}
