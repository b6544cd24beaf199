import { type LoggedEntry, NEEDS_SECOND, type PackFacts } from '@gavrel/core';
import { useEffect, useState } from 'react';
import { View } from 'react-native';
import { entriesOfPack } from '../../log/store';
import { draft } from '../../log/write';
import { useAppSelector } from '../../store';
import { useTokens } from '../../theme';
import { Field } from '../../ui/field';
import { Card, Row } from '../../ui/frame';
import { Key } from '../../ui/keys';
import { agoWords, entryWords, exactWords } from '../../ui/say';
import { Sheet } from '../../ui/sheet';
import { Words } from '../../ui/words';
import { SignKey } from '../sign/sign-sheet';
import type { Keep } from './card';

/** Taking an entry back: a reason, and where it makes the pack milder a second person. */
function RetractSheet({ entry, onKeep, onClose }: { entry: LoggedEntry; onKeep: Keep; onClose: () => void }) {
  const [reason, setReason] = useState('');
  return (
    <Sheet
      title="Take back"
      onClose={onClose}
      footer={
        <Key
          label="Take it back"
          tone="next"
          height={64}
          disabled={reason.trim().length < 3}
          onPress={() =>
            void onKeep(draft('retracted', entry.subjects, { reason: reason.trim() }, entry.id), 'taken back').then(onClose)
          }
        />
      }
    >
      <Words bold>{entryWords(entry)}</Words>
      <Words>{exactWords(entry.at)}</Words>
      <Words>Both stay on record. Where it would make the pack milder, a second person confirms it first.</Words>
      <Field label="Why" value={reason} onChange={setReason} testID="retract-reason" />
    </Sheet>
  );
}

/** Everything that was ever said about the pack, newest first; corrections and what they mend both stay. */
export function History({ facts, onKeep }: { facts: PackFacts; onKeep: Keep }) {
  const t = useTokens();
  const version = useAppSelector((s) => s.logbook.version);
  const people = useAppSelector((s) => s.session.session?.people ?? []);
  const me = useAppSelector((s) => s.session.session?.person.id);
  const [entries, setEntries] = useState<readonly LoggedEntry[]>([]);
  const [all, setAll] = useState(false);
  const [taking, setTaking] = useState<LoggedEntry | null>(null);
  useEffect(() => {
    let current = true;
    void entriesOfPack(facts.id).then((e) => current && setEntries(e.sort((a, b) => (a.id < b.id ? 1 : -1))));
    return () => {
      current = false;
    };
  }, [facts.id, version]);
  const name = (id: string) => people.find((p) => p.id === id)?.name ?? 'somebody';
  const mended = new Set(entries.flatMap((e) => (e.replaces ? [e.replaces] : [])));
  const waiting = new Set(facts.waiting.map((w) => w.id));
  const shown = all ? entries : entries.slice(0, 8);
  return (
    <Card title="History" testID="card-history" right={<Words size={15} soft>{`${entries.length} entries`}</Words>}>
      {shown.map((e) => (
        <View
          key={e.id}
          style={{ flexDirection: 'row', gap: 8, alignItems: 'center', borderTopWidth: 1, borderColor: t.wash, paddingTop: 6 }}
        >
          <View style={{ flex: 1 }}>
            <Words style={{ textDecorationLine: mended.has(e.id) ? 'line-through' : 'none' }}>{entryWords(e, entries)}</Words>
            <Words size={14} soft>
              {`${name(e.by)}, ${agoWords(e.effectiveAt ?? e.at)}${e.seq === null ? ', not sent yet' : ''}${waiting.has(e.id) ? ', waits for a second person' : ''}`}
            </Words>
          </View>
          {waiting.has(e.id) && e.by !== me ? (
            <Key
              label="Confirm"
              hint={entryWords(e, entries)}
              tone="next"
              onPress={() => void onKeep(draft('confirmed', e.subjects, { confirms: e.id }), 'confirmed')}
              testID={`confirm-${e.kind}`}
            />
          ) : waiting.has(e.id) ? (
            <SignKey ids={[e.id]} />
          ) : null}
          {!mended.has(e.id) && e.kind !== 'confirmed' && !NEEDS_SECOND.includes(e.kind) ? (
            <Key label="Take back…" hint={entryWords(e, entries)} tone="quiet" size={15} onPress={() => setTaking(e)} />
          ) : null}
        </View>
      ))}
      {entries.length > shown.length ? (
        <Row>
          <Key label={`All ${entries.length}`} onPress={() => setAll(true)} />
        </Row>
      ) : null}
      {taking ? <RetractSheet entry={taking} onKeep={onKeep} onClose={() => setTaking(null)} /> : null}
    </Card>
  );
}
