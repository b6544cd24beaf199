import type { IncidentFacts } from '@gavrel/core';
import { distanceLines, distancesOf, energyByRoom, type PlaceState, volumeLines } from '@gavrel/core/place';
import { router } from 'expo-router';
import { type ReactNode, useState } from 'react';
import { View } from 'react-native';
import { isShort } from '../../device/on-device';
import { useAppSelector } from '../../state';
import { useMay } from '../../state/may';
import { SPACE, useRoomy, useWide } from '../../theme';
import { Card, Column, Row, Side } from '../../ui/frame';
import { Button } from '../../ui/buttons';
import { Heading, Words } from '../../ui/words';
import { AssignSheet } from './assign-sheet';
import { BurnSheet } from './burn-sheet';
import { AddPlace } from './describe-sheet';
import { FireKey } from './fire-key';
import { incidentWords, SORT_WORDS } from '../../stock/incident-words';
import { RoomDrawing } from './place-drawing';
import { PlaceLine } from './place-line';
import { ScanSheet } from './scan-sheet';
import { ShelfSheet } from './shelf-sheet';
import { useYard } from '../../stock/use-yard';
import { apartWords, energyWords, lookWords, packsWord } from '../../stock/place-words';

const LIST_WIDE = 350;

type SheetName = 'scan' | 'assign' | 'add' | 'burn' | 'shelf';
type Incidents = readonly IncidentFacts[];

/** Incidents in progress, those with packs still frozen too, and those that are past; newest first. */
function useIncidents(): { readonly open: Incidents; readonly past: Incidents } {
  const all = useAppSelector((s) => s.logbook.incidents);
  const { facts } = useYard();
  const frozen = new Set(
    Object.values(facts).flatMap((f) => f.incidents.flatMap((i) => (i.body.frozen ? [i.body.incident] : []))),
  );
  const sorted = Object.values(all).sort((a, b) => (a.at < b.at ? 1 : -1));
  const isOpen = (i: IncidentFacts) => i.closed === null || frozen.has(i.id);
  return { open: sorted.filter(isOpen), past: sorted.filter((i) => !isOpen(i)) };
}

/** Distances and volumes that are shorter or larger than the school of this workshop asks. */
function DistancesCard() {
  const { places } = useYard();
  const school = useAppSelector((s) => s.logbook.policy.distances);
  const short = distanceLines(
    places.map((p) => p.place),
    school,
  );
  const volumes = school === 'fire code' ? volumeLines(places) : [];
  const nameOf = new Map(places.map((p) => [p.place.id, p.place.name]));
  return (
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
  );
}

/** What stands beside the list: what lies nowhere, distances, the past, and the plans. */
function Aside({ past, onOpen }: { past: Incidents; onOpen: (sheet: SheetName) => void }) {
  const yard = useYard();
  const places = useAppSelector((s) => s.logbook.places);
  const mayAdd = useMay('place-added');
  return (
    <>
      <Card title="In machines and in hand" testID="card-apart">
        <Words>{apartWords(yard.apart, yard.unseen)}</Words>
      </Card>
      <DistancesCard />
      {past.length > 0 ? (
        <Card title="Past incidents" testID="card-past-incidents">
          {past.map((i) => (
            <Button key={i.id} label={incidentWords(i, places)} onPress={() => router.push(`/incident/${i.id}`)} />
          ))}
        </Card>
      ) : null}
      <Button label="Top-up plan" onPress={() => onOpen('shelf')} testID="open-shelf" />
      <Button label="One pack burning" onPress={() => onOpen('burn')} testID="open-burn" />
      <FireKey yard={yard} label="Sheet for the fire service" />
      {mayAdd ? (
        <Button label="Add a place" onPress={() => onOpen('add')} style={{ marginBottom: SPACE }} testID="add-place" />
      ) : null}
    </>
  );
}

/** Room by room: how much lies there, and each place. */
function RoomCards({ open, drawn }: { open: Incidents; drawn: boolean }) {
  const yard = useYard();
  const now = new Date();
  const moment = now.toISOString();
  return (
    <>
      {energyByRoom(yard.places).map((r) => {
        const places = yard.places.filter((p) => roomOf(p) === r.room);
        return (
          <Card
            key={r.room}
            title={r.room}
            right={<Words soft>{`${packsWord(r.packs)}, ${energyWords(r.wattHours, r.unknown)}`}</Words>}
          >
            {drawn ? <RoomDrawing room={r.room} places={places} /> : null}
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
    </>
  );
}

const roomOf = ({ place }: PlaceState): string => place.room ?? place.name;

/** Each room drawn, with the open place marked. */
function Plan({ current }: { current: string | undefined }) {
  const { places } = useYard();
  return (
    <>
      {energyByRoom(places).map((r) => (
        <Card key={r.room} title={r.room}>
          <RoomDrawing
            room={r.room}
            places={places.filter((p) => roomOf(p) === r.room)}
            tall={current ? 420 : 560}
            across={current ? 340 : 720}
            current={current}
            onOpen={(id) => router.push(`/place/${id}`)}
          />
        </Card>
      ))}
    </>
  );
}

const SHEETS: Readonly<Record<SheetName, (p: { onClose: () => void }) => ReactNode>> = {
  scan: ScanSheet,
  assign: AssignSheet,
  burn: BurnSheet,
  shelf: ShelfSheet,
  add: AddPlace,
};

/** Where packs lie: by room, how full, what is not in order, and when somebody must look. */
export function Yard({ current }: { current?: string }) {
  const [sheet, setSheet] = useState<SheetName | null>(null);
  const places = useAppSelector((s) => s.logbook.places);
  const partly = useAppSelector((s) => isShort(s.logbook.holds));
  const { open, past } = useIncidents();
  const wide = useWide();
  // List, plan and the open place stand side by side where there is room for all three.
  const roomy = useRoomy();
  const aside = <Aside past={past} onOpen={setSheet} />;
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
      <RoomCards open={open} drawn={!wide} />
      {wide ? null : aside}
    </>
  );
  const Open = sheet === null ? null : SHEETS[sheet];
  return (
    <View style={{ flex: 1, flexDirection: 'row' }}>
      {wide ? <Side width={LIST_WIDE}>{list}</Side> : <Column>{list}</Column>}
      {wide && (roomy || !current) ? (
        <Column>
          <Plan current={current} />
          {current ? null : aside}
        </Column>
      ) : null}
      {Open ? <Open onClose={() => setSheet(null)} /> : null}
    </View>
  );
}
