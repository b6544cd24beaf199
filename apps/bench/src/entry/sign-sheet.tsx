import type { Person, SignRequest } from '@gavrel/contract';
import type { LoggedEntry } from '@gavrel/core';
import { useState } from 'react';
import { View } from 'react-native';
import { errorMessage } from '../device/api';
import { entryById } from '../device/store';
import { useAppSelector } from '../state';
import { useActions } from '../state/context';
import { Field } from '../ui/field';
import { Choice, Button } from '../ui/buttons';
import { entryWords } from '../ui/say';
import { Sheet } from '../ui/sheet';
import { Words } from '../ui/words';

const WAYS = ['pin', 'passphrase'] as const;

/** Who may sign these as a second person. */
function signersOf(entries: readonly LoggedEntry[], people: readonly Person[]) {
  const authors = new Set(entries.map((e) => e.by));
  const trained = entries.some((e) => e.waits === 'trained');
  // A milder policy is a matter of two leads.
  const leads = entries.some((e) => e.kind === 'policy-set');
  const others = people.filter(
    (p) =>
      !authors.has(p.id) &&
      p.role !== 'viewer' &&
      (!trained || p.competent || p.role === 'outside') &&
      (!leads || p.role === 'lead'),
  );
  return { others, trained, leads };
}

/** A second person signs on this device with their own secret; nobody is signed in or out. */
function SignSheet({ entries, onClose }: { entries: readonly LoggedEntry[]; onClose: () => void }) {
  const actions = useActions();
  const people = useAppSelector((s) => s.session.session?.people ?? []);
  const { others, trained, leads } = signersOf(entries, people);
  const [who, setWho] = useState<Person | null>(null);
  const [way, setWay] = useState<(typeof WAYS)[number]>('pin');
  const [secret, setSecret] = useState('');
  const [trouble, setTrouble] = useState('');
  const outside = who?.role === 'outside';
  const how: SignRequest['how'] = outside ? 'code' : way;
  const sent = entries.every((e) => e.seq !== null);
  const good = how === 'passphrase' ? secret.length > 0 : how === 'pin' ? /^\d{4,8}$/.test(secret) : /^\d{6}$/.test(secret);
  const asked = { pin: 'PIN', passphrase: 'Passphrase', code: 'One-time code' }[how];
  const sign = () => {
    if (!who || !good) return;
    setTrouble('');
    actions.sign(who.id, how, secret, entries).then(onClose, (e: unknown) => {
      setSecret('');
      setTrouble(errorMessage(e));
    });
  };
  return (
    <Sheet
      title="Second person signs"
      onClose={onClose}
      footer={
        who && sent ? (
          <Button label={`Sign as ${who.name}`} tone="next" height={64} disabled={!good} onPress={sign} testID="sign-now" />
        ) : undefined
      }
    >
      {entries.map((e) => (
        <Words key={e.id} bold>
          {entryWords(e)}
        </Words>
      ))}
      {sent ? null : <Words bold>It is not sent yet: close this and wait a few seconds.</Words>}
      {others.length === 0 ? (
        <Words>
          {leads
            ? 'Nobody else here is a lead: one makes another a lead, under More → People.'
            : `Nobody else here ${trained ? 'is trained to assess' : 'belongs to this workshop'}. A lead names a competent person outside, under More → People.`}
        </Words>
      ) : (
        <Words size={15}>Who signs has looked at it themselves. It makes the pack milder and stays on record.</Words>
      )}
      {others.map((p) => (
        <Button
          key={p.id}
          label={p.role === 'outside' ? `${p.name}, from outside` : p.name}
          selected={who?.id === p.id}
          height={52}
          onPress={() => {
            setWho(p);
            setSecret('');
            setTrouble('');
          }}
          testID={`signer-${p.name.split(' ')[0]}`}
        />
      ))}
      {who ? (
        <>
          {outside ? (
            <Words size={15}>They read you the six digits their own phone shows now, after you told them what was found.</Words>
          ) : (
            <Choice
              label="Signs by"
              options={WAYS}
              words={{ pin: 'PIN', passphrase: 'passphrase' }}
              value={way}
              onChange={(v) => {
                setWay(v);
                setSecret('');
              }}
            />
          )}
          <Field
            label={`${asked} of ${who.name}`}
            value={secret}
            onChange={setSecret}
            secret={!outside}
            autoFocus
            onSubmit={sign}
            testID="sign-secret"
          />
        </>
      ) : null}
      {trouble ? (
        <View role="alert">
          <Words bold>{trouble}</Words>
        </View>
      ) : null}
    </Sheet>
  );
}

/** The key that opens it, where something of one's own waits for a second person. */
export function SignKey({ ids, label = 'Second person signs…' }: { ids: readonly string[]; label?: string }) {
  const [entries, setEntries] = useState<readonly LoggedEntry[] | null>(null);
  const open = async () => setEntries((await Promise.all(ids.map(entryById))).filter((e) => e !== undefined));
  return (
    <>
      <Button label={label} onPress={() => open()} testID="sign-here" />
      {entries ? <SignSheet entries={entries} onClose={() => setEntries(null)} /> : null}
    </>
  );
}
