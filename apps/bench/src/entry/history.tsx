import { LONGEST } from '@gavrel/contract';
import { type LoggedEntry, NEEDS_SECOND, type Waiting } from '@gavrel/core';
import { useEffect, useState } from 'react';
import { View } from 'react-native';
import { useAppSelector } from '../state';
import { useActions } from '../state/context';
import { useTokens } from '../theme';
import { Field } from '../ui/field';
import { ScanField } from './scan-field';
import { Card, Row } from '../ui/frame';
import { Button } from '../ui/buttons';
import { agoWords, entryWords, exactWords } from '../ui/say';
import { Sheet } from '../ui/sheet';
import { Words } from '../ui/words';
import { isMovable, linkedFindings, moveTo, takeBack } from './mend';

/** Taking an entry back: a reason, and where it makes something milder a second person. */
function RetractSheet({ entry, all, onClose }: { entry: LoggedEntry; all: readonly LoggedEntry[]; onClose: () => void }) {
  const actions = useActions();
  const [reason, setReason] = useState('');
  const linked = linkedFindings(entry, all);
  return (
    <Sheet
      title="Take back"
      onClose={onClose}
      footer={
        <Button
          label="Take it back"
          tone="next"
          height={64}
          disabled={reason.trim().length < 3}
          onPress={() => actions.write(takeBack(entry, all, reason.trim()), 'taken back').then(onClose)}
          testID="retract-keep"
        />
      }
    >
      <Words bold>{entryWords(entry, all)}</Words>
      <Words>{exactWords(entry.at)}</Words>
      {linked.map((f) => (
        <Words key={f.id}>{`with it: ${entryWords(f, all)}`}</Words>
      ))}
      <Words>Both stay on record. Where it would make something milder, a second person confirms it first.</Words>
      <Field label="Why" value={reason} onChange={setReason} longest={LONGEST.reason} testID="retract-reason" />
    </Sheet>
  );
}

interface Pack {
  readonly id: string;
  readonly tag: string;
}

/** How many packs stand as keys: the rest is found by its tag. */
const NEAR = 8;

/** Moves a statement to the pack it was meant for: those of the same machine or place first, any other by its tag. */
function WrongPackSheet({ entry, pack, onClose }: { entry: LoggedEntry; pack: Pack; onClose: () => void }) {
  const actions = useActions();
  const packs = useAppSelector((s) => s.logbook.packs);
  const [tag, setTag] = useState('');
  const here = packs[pack.id];
  const typed = tag.trim().toLowerCase();
  const near = Object.values(packs)
    .filter((p) => p.id !== pack.id && p.left === null)
    .filter((p) =>
      typed === ''
        ? (here?.job !== null && p.job === here?.job) || (here?.place !== null && p.place === here?.place)
        : p.tag.toLowerCase().includes(typed),
    )
    .sort((a, b) => Number(b.job === here?.job) - Number(a.job === here?.job) || (a.lastAt < b.lastAt ? 1 : -1))
    .slice(0, NEAR);
  const move = (to: Pack) => actions.write(moveTo(entry, pack, to), `moved to ${to.tag}`).then(onClose);
  return (
    <Sheet title="Wrong pack" onClose={onClose}>
      <Words bold>{entryWords(entry)}</Words>
      <Words>{`It is taken back from ${pack.tag} and said of the other. The worse of both counts until a second person agrees.`}</Words>
      <Row>
        {near.map((p) => (
          <Button key={p.id} label={p.tag} height={56} onPress={() => move(p)} testID={`to-${p.tag}`} />
        ))}
      </Row>
      {near.length === 0 ? (
        <Words>{typed ? 'No other pack has such a tag here.' : 'Type the tag of the right pack.'}</Words>
      ) : null}
      <ScanField
        label="Tag of the right pack"
        value={tag}
        onChange={setTag}
        onScan={setTag}
        onEnter={() => undefined}
        longest={LONGEST.tag}
        testID="wrong-pack-tag"
      />
    </Sheet>
  );
}

/**
 * Everything that was ever said about a pack, or at a job, newest first; corrections and what they mend both stay.
 * @param load the entries it is of. @param pack where they are of one pack: what was said of the wrong one can be moved.
 */
export function History({
  load,
  of,
  waiting,
  pack,
}: {
  load: () => Promise<readonly LoggedEntry[]>;
  of: string;
  waiting: readonly Waiting[];
  pack?: Pack;
}) {
  const t = useTokens();
  const version = useAppSelector((s) => s.logbook.version);
  const people = useAppSelector((s) => s.session.session?.people ?? []);
  const places = useAppSelector((s) => s.logbook.places);
  const [entries, setEntries] = useState<readonly LoggedEntry[]>([]);
  const [all, setAll] = useState(false);
  const [taking, setTaking] = useState<LoggedEntry | null>(null);
  const [moving, setMoving] = useState<LoggedEntry | null>(null);
  useEffect(() => {
    let current = true;
    void load().then((e) => current && setEntries([...e].sort((a, b) => (a.id < b.id ? 1 : -1))));
    return () => {
      current = false;
    };
    // `load` is made anew with each drawing and reads what `of` names.
  }, [of, version]);
  const name = (id: string) => people.find((p) => p.id === id)?.name ?? 'somebody';
  const placeName = (id: string) => places[id]?.name ?? '';
  const mended = new Set(entries.flatMap((e) => (e.replaces ? [e.replaces] : [])));
  const waits = new Set(waiting.map((w) => w.id));
  const shown = all ? entries : entries.slice(0, 8);
  return (
    <Card title="History" testID="card-history" right={<Words size={15} soft>{`${entries.length} entries`}</Words>}>
      {shown.map((e) => {
        const open = !mended.has(e.id) && e.kind !== 'confirmed' && e.kind !== 'declined' && !NEEDS_SECOND.includes(e.kind);
        return (
          <View key={e.id} style={{ borderTopWidth: 1, borderColor: t.wash, paddingTop: 6 }}>
            <View style={{ flexDirection: 'row', gap: 8, alignItems: 'center' }}>
              <View style={{ flex: 1 }}>
                <Words style={{ textDecorationLine: mended.has(e.id) ? 'line-through' : 'none' }}>
                  {entryWords(e, entries, placeName)}
                </Words>
                <Words size={14} soft>
                  {`${name(e.by)}, ${agoWords(e.effectiveAt ?? e.at)}${e.seq === null ? ', not sent yet' : ''}${waits.has(e.id) ? ', waits for a second person' : ''}`}
                </Words>
              </View>
              {open ? (
                <Button label="Take back…" hint={entryWords(e, entries)} tone="quiet" size={15} onPress={() => setTaking(e)} />
              ) : null}
              {open && pack && isMovable(e, pack.id) ? (
                <Button
                  label="Wrong pack…"
                  hint={entryWords(e, entries)}
                  tone="quiet"
                  size={15}
                  onPress={() => setMoving(e)}
                  testID={`wrong-pack-${e.kind}`}
                />
              ) : null}
            </View>
          </View>
        );
      })}
      {entries.length > shown.length ? (
        <Row>
          <Button label={`All ${entries.length}`} onPress={() => setAll(true)} />
        </Row>
      ) : null}
      {taking ? <RetractSheet entry={taking} all={entries} onClose={() => setTaking(null)} /> : null}
      {moving && pack ? <WrongPackSheet entry={moving} pack={pack} onClose={() => setMoving(null)} /> : null}
    </Card>
  );
}
