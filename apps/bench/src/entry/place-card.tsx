import type { PackFacts } from '@gavrel/core';
import { type Candidate, makeRoom, rankPlaces } from '@gavrel/core/place';
import { router } from 'expo-router';
import { useState } from 'react';
import { View } from 'react-native';
import { draft } from '../device/write';
import { useAppSelector } from '../state';
import { LEFT_WORDS } from '../state/rulings';
import { Card, Row } from '../ui/frame';
import { Field } from '../ui/field';
import { Button } from '../ui/buttons';
import { Sheet } from '../ui/sheet';
import { Words } from '../ui/words';
import { useYard } from '../stock/use-yard';
import type { Keep } from './card';

/** Every place for it, best first; where something speaks against one, a reason puts it there all the same, flagged. */
function MoveSheet({
  facts,
  ranked,
  room,
  onKeep,
  onClose,
}: {
  facts: PackFacts;
  ranked: readonly Candidate[];
  room: readonly string[];
  onKeep: Keep;
  onClose: () => void;
}) {
  const [against, setAgainst] = useState<Candidate | null>(null);
  const [reason, setReason] = useState('');
  const put = (c: Candidate, despite?: string) =>
    onKeep(
      draft('moved', [`pack:${facts.id}`, `place:${c.place.id}`], { ...(despite && { despite }) }),
      `moved to ${c.place.name}`,
    ).then(onClose);
  if (against) {
    return (
      <Sheet
        title={against.place.name}
        onClose={onClose}
        footer={
          <Button
            label="Put it there, flagged"
            height={64}
            disabled={reason.trim().length < 3}
            onPress={() => put(against, reason.trim())}
            testID="put-despite"
          />
        }
      >
        <Words bold>{`${facts.tag} may not lie there: ${against.why.map((w) => w.words).join('; ')}`}</Words>
        <Field label="Why it must all the same" value={reason} onChange={setReason} autoFocus testID="despite" />
        <Button label="Somewhere else" onPress={() => setAgainst(null)} />
      </Sheet>
    );
  }
  const fits = ranked.filter((c) => c.why.length === 0 && !c.here);
  const not = ranked.filter((c) => c.why.length > 0 && !c.here);
  return (
    <Sheet title="Move to" onClose={onClose}>
      {fits.map((c, i) => (
        <Button
          key={c.place.id}
          label={c.place.name}
          tone={i === 0 ? 'next' : 'plain'}
          height={56}
          onPress={() => put(c)}
          testID={`to-${c.place.name.replace(/\W+/g, '-')}`}
        />
      ))}
      {fits.length === 0 && !ranked.some((c) => c.here && c.why.length === 0)
        ? room.map((w) => (
            <Words key={w} bold>
              {w}
            </Words>
          ))
        : null}
      {not.length > 0 ? <Words bold>Not for this pack</Words> : null}
      {not.map((c) => (
        <View key={c.place.id} style={{ flexDirection: 'row', alignItems: 'center', gap: 8 }}>
          <View style={{ flex: 1 }}>
            <Words>{c.place.name}</Words>
            <Words size={14} soft>
              {c.why.map((w) => w.words).join('; ')}
            </Words>
          </View>
          <Button label="All the same" hint={c.place.name} tone="quiet" onPress={() => setAgainst(c)} />
        </View>
      ))}
    </Sheet>
  );
}

/** Where it lies, whether it may lie there, and moving it. */
export function PlaceCard({ facts, onKeep, allowed }: { facts: PackFacts; onKeep: Keep; allowed: readonly string[] }) {
  const yard = useYard();
  const consignment = useAppSelector((s) =>
    facts.consignment === undefined ? undefined : s.logbook.consignments[facts.consignment],
  );
  const [open, setOpen] = useState(false);
  const item = yard.stock.get(facts.id);
  const ranked = item ? rankPlaces(item, yard.places) : [];
  const here = ranked.find((c) => c.here);
  // A place that is too full concerns the place, not each pack in it: moving all of them about helps nobody.
  const notHere = here?.why.filter((w) => !w.full) ?? [];
  const over = here?.why.filter((w) => w.full) ?? [];
  const wrong = notHere.length > 0;
  const best = ranked.find((c) => c.why.length === 0 && !c.here);
  // A fitted pack, or one that left, is taken out of its machine or in again by its job, not by a move.
  const movable = allowed.length > 0 && item !== undefined;
  return (
    <Card
      title="Place"
      testID="card-place"
      right={
        <Words>
          {facts.left
            ? LEFT_WORDS[facts.leftTo ?? 'owner']
            : facts.use === 'fitted'
              ? 'in its machine'
              : (here?.place.name ?? 'not placed')}
        </Words>
      }
    >
      {consignment ? (
        <Button
          label={`${facts.left ? 'Left' : 'Goes'} with ${consignment.name ?? 'a consignment'}`}
          onPress={() => router.push(`/consignment/${consignment.id}`)}
          testID="open-consignment"
        />
      ) : null}
      {wrong ? <Words bold>{`It may not stay here: ${notHere.map((w) => w.words).join('; ')}.`}</Words> : null}
      {over.length > 0 ? <Words>{`Its place is over a limit: ${over.map((w) => w.words).join('; ')}.`}</Words> : null}
      {facts.despite ? <Words>{`Put here all the same: ${facts.despite}`}</Words> : null}
      {movable && (!here || wrong) && !best
        ? makeRoom(item, yard.places).map((w) => (
            <Words key={w} bold>
              {w}
            </Words>
          ))
        : null}
      <Row>
        {movable && best && (!here || wrong) ? (
          <Button
            label={`Put into ${best.place.name}`}
            tone="next"
            height={56}
            onPress={() =>
              onKeep(draft('moved', [`pack:${facts.id}`, `place:${best.place.id}`], {}), `moved to ${best.place.name}`)
            }
            testID="put-best"
          />
        ) : null}
        <Button label={here ? 'Move…' : 'Place…'} height={56} onPress={() => setOpen(true)} disabled={!movable} testID="move" />
        {here ? <Button label="Open the place" height={56} onPress={() => router.push(`/place/${here.place.id}`)} /> : null}
      </Row>
      {open && item ? (
        <MoveSheet
          facts={facts}
          ranked={ranked}
          room={makeRoom(item, yard.places)}
          onKeep={onKeep}
          onClose={() => setOpen(false)}
        />
      ) : null}
    </Card>
  );
}
