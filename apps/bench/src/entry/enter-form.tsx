import type { Person } from '@gavrel/contract';
import { useEffect, useState } from 'react';
import { View } from 'react-native';
import { api, Away, errorMessage } from '../device/api';
import { useAppSelector } from '../state';
import { useActions } from '../state/context';
import { Field } from '../ui/field';
import { Button } from '../ui/buttons';
import { Words } from '../ui/words';

/** Name and passphrase, for whoever has no PIN here. */
function ByPassphrase({ self, onEnter }: { self: boolean; onEnter: (name: string, passphrase: string) => void }) {
  const [name, setName] = useState('');
  const [passphrase, setPassphrase] = useState('');
  return (
    <>
      <Words bold>By passphrase</Words>
      <Field label="Name" value={name} onChange={setName} testID="switch-name" />
      <Field label="Passphrase" value={passphrase} onChange={setPassphrase} secret testID="switch-passphrase" />
      <Button
        label={self ? 'Open' : 'Sign in too'}
        height={56}
        disabled={name === '' || passphrase === ''}
        onPress={() => onEnter(name, passphrase)}
        testID="switch-sign-in"
      />
    </>
  );
}

/**
 * Takes a device over: by the PIN of somebody who signed in here before, or by name and passphrase.
 * @param self also the person who is signed in now: they open their own lock.
 * @param away what stands there while the server can check nobody.
 */
export function EnterForm({ self, away, onEntered }: { self: boolean; away?: React.ReactNode; onEntered: () => void }) {
  const actions = useActions();
  const me = useAppSelector((s) => s.session.session?.person.id);
  const [others, setOthers] = useState<readonly Person[] | null>(null);
  const [who, setWho] = useState<Person | null>(null);
  const [pin, setPin] = useState('');
  const [trouble, setTrouble] = useState('');
  const [gone, setGone] = useState(false);
  const serverAway = useAppSelector((s) => s.logbook.away);
  const failed = (e: unknown) => {
    setPin('');
    setGone(e instanceof Away);
    setTrouble(errorMessage(e));
  };
  useEffect(() => {
    api<Person[]>('GET', '/session/device').then((all) => {
      setOthers(all.filter((p) => self || p.id !== me));
      // Whoever locked it comes back most often: their PIN is asked for at once.
      if (self) setWho(all.find((p) => p.id === me) ?? null);
      setTrouble('');
      setGone(false);
    }, failed);
  }, [me, self, serverAway]);
  const enter = async (how: () => Promise<void>) => {
    setTrouble('');
    try {
      await how();
      onEntered();
    } catch (e) {
      failed(e);
    }
  };
  const byPin = () => enter(() => actions.switchTo(who!.id, pin));
  return (
    <>
      {others?.length === 0 ? (
        <Words>
          {self
            ? 'Nobody has a PIN here yet: open it with the passphrase, and set a PIN under More.'
            : 'Nobody else can take over by PIN here yet: they come in once with their passphrase, below, and set a PIN under More.'}
        </Words>
      ) : null}
      {(others ?? []).map((p) => (
        <Button
          key={p.id}
          label={p.name}
          selected={who?.id === p.id}
          height={56}
          onPress={() => {
            setWho(p);
            setTrouble('');
          }}
          testID={`switch-${p.name.split(' ')[0]}`}
        />
      ))}
      {who ? (
        <>
          <Field
            key={who.id}
            label={`PIN of ${who.name}`}
            value={pin}
            onChange={setPin}
            secret
            autoFocus
            onSubmit={() => void byPin()}
            testID="switch-pin"
          />
          <Button
            label={`Go on as ${who.name}`}
            tone="next"
            height={64}
            disabled={!/^\d{4,8}$/.test(pin)}
            onPress={() => byPin()}
            testID="switch-now"
          />
        </>
      ) : null}
      {trouble ? (
        <View role="alert">
          <Words bold>{trouble}</Words>
        </View>
      ) : null}
      {gone ? away : null}
      {who ? (
        <Button label="By passphrase" tone="quiet" onPress={() => setWho(null)} />
      ) : gone ? null : (
        <ByPassphrase self={self} onEnter={(name, passphrase) => void enter(() => actions.signIn(name, passphrase))} />
      )}
    </>
  );
}
