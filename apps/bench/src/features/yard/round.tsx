import { isContainer, localDay, type RoundFacts, SWEEP_NOT, SWEEP_POINTS, type SweepPoint, type SWEEPS } from '@gavrel/core';
import { router } from 'expo-router';
import { useState } from 'react';
import { v7 } from 'uuid';
import { draft } from '../../device/write';
import { useAppSelector } from '../../state';
import { useActions } from '../../state/context';
import { useZone } from '../../state/rulings';
import { Card, Column, Row } from '../../ui/frame';
import { Choice, Button } from '../../ui/buttons';
import { agoWords } from '../../ui/say';
import { Heading, Words } from '../../ui/words';
import { alarmsOfPlace } from '../../stock/alarm-words';
import { CountSheet } from './count-sheet';
import { FireKey } from './fire-key';
import { ALL_QUIET, lookDrafts, LookSheet, QUIET_WORDS } from './look-sheet';
import { RoundScan } from './round-scan';
import { useYard } from '../../stock/use-yard';
import { lookWords, packsWord, troubleOf } from '../../stock/place-words';

/** The opening check or the closing sweep: five points, each said yes or no. */
function Sweep({ sweep, done }: { sweep: (typeof SWEEPS)[number]; done: RoundFacts | undefined }) {
  const actions = useActions();
  const [points, setPoints] = useState<{ [P in SweepPoint]?: 'yes' | 'no' }>({});
  const [again, setAgain] = useState(false);
  const title = sweep === 'opening' ? 'Opening check' : 'Closing sweep';
  const left = SWEEP_POINTS.filter((p) => points[p] === undefined);
  const keep = async () => {
    await actions.write([draft('sweep-walked', [`round:${v7()}`], { sweep, points })], title.toLowerCase());
    setPoints({});
    setAgain(false);
  };
  if (done && !again) {
    const bad = SWEEP_POINTS.filter((p) => done.points[p] === 'no');
    const unsaid = SWEEP_POINTS.filter((p) => done.points[p] === undefined);
    return (
      <Card title={title} testID={`sweep-${sweep}`} right={<Words soft>{agoWords(done.at)}</Words>}>
        <Words bold={bad.length > 0}>
          {[
            bad.length > 0 && `not in order: ${bad.map((p) => SWEEP_NOT[p]).join(', ')}`,
            unsaid.length > 0 && `not looked at: ${unsaid.join(', ')}`,
          ]
            .filter(Boolean)
            .join('; ') || 'all five in order'}
        </Words>
        <Button label="Walk it again" tone="quiet" onPress={() => setAgain(true)} />
      </Card>
    );
  }
  return (
    <Card title={title} testID={`sweep-${sweep}`}>
      {SWEEP_POINTS.map((p) => (
        <Row key={p} style={{ justifyContent: 'space-between' }}>
          <Words style={{ flex: 1 }}>{p}</Words>
          <Choice
            label={p}
            options={['yes', 'no'] as const}
            value={points[p] ?? null}
            onChange={(v) => setPoints({ ...points, [p]: v })}
            height={56}
          />
        </Row>
      ))}
      <Button
        label={
          left.length === 0
            ? 'Keep'
            : left.length === SWEEP_POINTS.length
              ? 'Say each point'
              : `Keep, ${left.length} not looked at`
        }
        tone={left.length === 0 ? 'next' : 'plain'}
        height={56}
        disabled={left.length === SWEEP_POINTS.length}
        onPress={() => keep()}
        testID={`keep-${sweep}`}
      />
    </Card>
  );
}

/** Today's way through the yard: check, every container that wants a look, every other place, sweep. */
export function Round() {
  const actions = useActions();
  const yard = useYard();
  const rounds = useAppSelector((s) => s.logbook.rounds);
  const zone = useZone();
  const [looking, setLooking] = useState<string | null>(null);
  const now = new Date();
  const today = localDay(zone, now);
  const walked = (sweep: (typeof SWEEPS)[number]) =>
    Object.values(rounds)
      .filter((r) => r.sweep === sweep && localDay(zone, new Date(r.at)) === today)
      .sort((a, b) => (a.at < b.at ? 1 : -1))[0];
  const containers = yard.places.filter((p) => isContainer(p.place) && (p.items.length > 0 || alarmsOfPlace(p.place).length > 0));
  const others = yard.places.filter((p) => !isContainer(p.place));
  const [counting, setCounting] = useState<string | null>(null);
  // A look is for every container, an empty one scanned on the way too.
  const open = yard.places.find((c) => c.place.id === looking);
  const counted = yard.places.find((p) => p.place.id === counting);
  return (
    <Column style={{ width: '100%', maxWidth: 760, alignSelf: 'center' }}>
      <Heading level={1} size={26}>
        Round
      </Heading>
      <RoundScan yard={yard} paused={open !== undefined || counted !== undefined} onLook={setLooking} onCount={setCounting} />
      <Sweep sweep="opening" done={walked('opening')} />
      {containers.map((c) => {
        const next = yard.watches.get(c.place.id)?.next ?? null;
        const due = next !== null && localDay(zone, new Date(next)) <= today;
        const packs = c.items.map((i) => i.id);
        return (
          <Card
            key={c.place.id}
            title={c.place.name}
            testID={`round-${c.place.name.replace(/\W+/g, '-')}`}
            right={<Words bold={due}>{next ? lookWords(next, now) : 'nothing watched'}</Words>}
          >
            <Words bold={alarmsOfPlace(c.place).length > 0}>{[packsWord(c.items.length), ...troubleOf(c)].join('; ')}</Words>
            <Row>
              <Button
                label="All quiet"
                hint={`${c.place.name}: ${QUIET_WORDS}`}
                tone={due ? 'next' : 'plain'}
                height={64}
                style={{ flexGrow: 1 }}
                onPress={() => actions.write(lookDrafts(c.place.id, packs, ALL_QUIET), `${c.place.name}: all quiet`)}
                testID={`quiet-${c.place.name.replace(/\W+/g, '-')}`}
              />
              <Button
                label="Look closer"
                hint={c.place.name}
                height={64}
                style={{ flexGrow: 1 }}
                onPress={() => setLooking(c.place.id)}
              />
              <Button label="Open" hint={c.place.name} height={64} onPress={() => router.push(`/place/${c.place.id}`)} />
            </Row>
          </Card>
        );
      })}
      <Words size={15} soft>{`All quiet says: ${QUIET_WORDS}.`}</Words>
      <Card title="Other places">
        {others.map((p) => (
          <Row key={p.place.id} style={{ justifyContent: 'space-between' }}>
            <Words style={{ flex: 1 }}>{[`${p.place.name}, ${packsWord(p.items.length)}`, ...troubleOf(p)].join('; ')}</Words>
            <Button label="Open" hint={p.place.name} onPress={() => router.push(`/place/${p.place.id}`)} />
          </Row>
        ))}
      </Card>
      <Sweep sweep="closing" done={walked('closing')} />
      <FireKey yard={yard} label="Print tonight’s sheet for the fire service" />
      {open ? (
        <LookSheet
          place={open.place.id}
          name={open.place.name}
          packs={open.items.map((i) => i.id)}
          onClose={() => setLooking(null)}
        />
      ) : null}
      {counted ? <CountSheet state={counted} onClose={() => setCounting(null)} /> : null}
    </Column>
  );
}
