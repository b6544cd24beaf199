import { distanceLines, distancesOf, energyByRoom, type PlaceState, volumeLines } from '@gavrel/core/place';
import { router } from 'expo-router';
import { useState } from 'react';
import { Pressable, View } from 'react-native';
import { isShort } from '../../device/held';
import { useAppSelector } from '../../state';
import { useMay } from '../../state/may';
import { SPACE, useRoomy, useTokens, useWide } from '../../theme';
import { Card, Column, Row, Side } from '../../ui/frame';
import { Button } from '../../ui/buttons';
import { Figures, Heading, Words } from '../../ui/words';
import { AssignSheet } from './assign-sheet';
import { BurnSheet } from './burn-sheet';
import { AddPlace } from './describe-sheet';
import { FireKey } from './fire-key';
import { incidentWords, SORT_WORDS } from '../../stock/incident-words';
import { RoomDrawing } from './place-drawing';
import { ScanSheet } from './scan-sheet';
import { ShelfSheet } from './shelf-sheet';
import { useYard } from '../../stock/use-yard';
import { apartWords, energyWords, lookWords, packsWord, troubleOf } from '../../stock/place-words';

/** How full, as a bar against its tightest limit; past the end where it is over. */
function FillBar({ fill }: { fill: number | null }) {
  const t = useTokens();
  if (fill === null) return null;
  return (
    <View style={{ height: 8, backgroundColor: t.wash, width: '100%' }}>
      <View style={{ height: 8, width: `${Math.min(100, fill * 100)}%`, backgroundColor: t.ink }} />
    </View>
  );
}

/** @param burning what is not over there, in words. */
function PlaceLine({
  state,
  look,
  late,
  burning,
}: {
  state: PlaceState;
  look: string | null;
  late: boolean;
  burning: readonly string[];
}) {
  const t = useTokens();
  const { place, items, load } = state;
  const limit = place.limits?.packs;
  const trouble = troubleOf(state);
  return (
    <Pressable
      role="link"
      onPress={() => router.push(`/place/${place.id}`)}
      testID={`place-${place.name.replace(/\W+/g, '-')}`}
      style={{ paddingVertical: 10, gap: 4, minHeight: 64, borderTopWidth: 1, borderColor: t.wash }}
    >
      <View style={{ flexDirection: 'row', justifyContent: 'space-between', gap: 8 }}>
        <Words bold size={17} style={{ flex: 1 }}>
          {place.name}
        </Words>
        <Figures>{limit === undefined ? String(items.length) : `${items.length}/${limit}`}</Figures>
      </View>
      <FillBar fill={state.fill} />
      <View style={{ flexDirection: 'row', justifyContent: 'space-between', gap: 8 }}>
        <Words size={14} soft>
          {`${place.kind}, ${energyWords(load.wattHours, load.unknown.wattHours)}`}
        </Words>
        {look ? (
          <Words size={14} bold={late}>
            {look}
          </Words>
        ) : null}
      </View>
      {[...burning, ...trouble].map((w) => (
        <Words key={w} size={15} bold>
          {w}
        </Words>
      ))}
    </Pressable>
  );
}

const LIST_WIDE = 350;

/** Where packs lie: by room, how full, what is not in order, and when somebody must look. */
export function Yard({ current }: { current?: string }) {
  const yard = useYard();
  const school = useAppSelector((s) => s.logbook.policy.distances);
  const [sheet, setSheet] = useState<'scan' | 'assign' | 'add' | 'burn' | 'shelf' | null>(null);
  const places = useAppSelector((s) => s.logbook.places);
  const mayAdd = useMay('place-added');
  const partly = useAppSelector((s) => isShort(s.logbook.holds));
  const incidents = Object.values(useAppSelector((s) => s.logbook.incidents)).sort((a, b) => (a.at < b.at ? 1 : -1));
  const frozen = new Set(
    Object.values(yard.facts).flatMap((f) => f.incidents.flatMap((i) => (i.body.frozen ? [i.body.incident] : []))),
  );
  const open = incidents.filter((i) => i.closed === null || frozen.has(i.id));
  const past = incidents.filter((i) => !open.includes(i));
  const now = new Date();
  const moment = now.toISOString();
  const rooms = energyByRoom(yard.places);
  const short = distanceLines(
    yard.places.map((p) => p.place),
    school,
  );
  const volumes = school === 'fire code' ? volumeLines(yard.places) : [];
  const nameOf = new Map(yard.places.map((p) => [p.place.id, p.place.name]));
  const inRoom = (room: string) => yard.places.filter((p) => (p.place.room ?? p.place.name) === room);
  const wide = useWide();
  // List, plan and the open place stand side by side where there is room for all three.
  const roomy = useRoomy();
  const plan = rooms.map((r) => (
    <Card key={r.room} title={r.room}>
      <RoomDrawing
        room={r.room}
        places={inRoom(r.room)}
        tall={current ? 420 : 560}
        across={current ? 340 : 720}
        current={current}
        onOpen={(id) => router.push(`/place/${id}`)}
      />
    </Card>
  ));
  const aside = (
    <>
      <Card title="In machines and in hand" testID="card-apart">
        <Words>{apartWords(yard.apart, yard.unseen)}</Words>
      </Card>
      <Card title="Distances" testID="card-distances" right={<Words soft>{school}</Words>}>
        {short.map((l) => (
          <Words key={`${l.place} ${l.what} ${l.words}`}>
            <Words bold>{nameOf.get(l.place) ?? ''}</Words>
            {`: ${l.words}`}
          </Words>
        ))}
        {volumes.map((v) => (
          <Words key={v} bold>
            {v}
          </Words>
        ))}
        {short.length === 0 ? <Words>None is shorter than these figures ask.</Words> : null}
        <Words size={14} soft>{`${distancesOf(school).source}; from memory. The local code decides.`}</Words>
      </Card>
      {past.length > 0 ? (
        <Card title="Past incidents" testID="card-past-incidents">
          {past.map((i) => (
            <Button key={i.id} label={incidentWords(i, places)} onPress={() => router.push(`/incident/${i.id}`)} />
          ))}
        </Card>
      ) : null}
      <Button label="Top-up plan" onPress={() => setSheet('shelf')} testID="open-shelf" />
      <Button label="One pack burning" onPress={() => setSheet('burn')} testID="open-burn" />
      <FireKey yard={yard} label="Sheet for the fire service" />
      {mayAdd ? (
        <Button label="Add a place" onPress={() => setSheet('add')} style={{ marginBottom: SPACE }} testID="add-place" />
      ) : null}
    </>
  );
  const list = (
    <>
      <Heading level={1} size={26}>
        Yard
      </Heading>
      <Row>
        <Button
          label="Walk round"
          tone={current ? 'plain' : 'next'}
          height={56}
          onPress={() => router.push('/round')}
          testID="open-round"
        />
        <Button label="Move by scan" height={56} onPress={() => setSheet('scan')} testID="open-scan" />
        <Button
          label="Where to put many"
          height={56}
          // It counts what lies everywhere; a device that does not know may not.
          disabled={partly}
          onPress={() => setSheet('assign')}
          testID="open-assign"
        />
      </Row>
      {open.map((i) => (
        <Button
          key={i.id}
          label={`Not over: ${incidentWords(i, places)}`}
          tone="critical"
          height={56}
          onPress={() => router.push(`/incident/${i.id}`)}
          testID="open-incidents"
        />
      ))}
      {rooms.map((r) => {
        const places = inRoom(r.room);
        return (
          <Card
            key={r.room}
            title={r.room}
            right={<Words soft>{`${packsWord(r.packs)}, ${energyWords(r.wattHours, r.unknown)}`}</Words>}
          >
            {wide ? null : <RoomDrawing room={r.room} places={places} />}
            {places.map((p) => {
              const next = yard.watches.get(p.place.id)?.next ?? null;
              return (
                <PlaceLine
                  key={p.place.id}
                  state={p}
                  look={next ? lookWords(next, now) : null}
                  late={next !== null && next < moment}
                  burning={open
                    .filter((i) => i.places.includes(p.place.id))
                    .map((i) => `not over: ${i.what.map((w) => SORT_WORDS[w]).join(', ')}`)}
                />
              );
            })}
          </Card>
        );
      })}
      {wide ? null : aside}
    </>
  );
  return (
    <View style={{ flex: 1, flexDirection: 'row' }}>
      {wide ? <Side width={LIST_WIDE}>{list}</Side> : <Column>{list}</Column>}
      {wide && (roomy || !current) ? (
        <Column>
          {plan}
          {current ? null : aside}
        </Column>
      ) : null}
      {sheet === 'scan' ? <ScanSheet onClose={() => setSheet(null)} /> : null}
      {sheet === 'assign' ? <AssignSheet onClose={() => setSheet(null)} /> : null}
      {sheet === 'burn' ? <BurnSheet onClose={() => setSheet(null)} /> : null}
      {sheet === 'shelf' ? <ShelfSheet onClose={() => setSheet(null)} /> : null}
      {sheet === 'add' ? <AddPlace onClose={() => setSheet(null)} /> : null}
    </View>
  );
}
