import type { Person } from '@gavrel/contract';
import { useEffect, useState } from 'react';
import { View } from 'react-native';
import { api, Away } from '../../log/api';
import { useAppSelector } from '../../store';
import { localDay, selectZone } from '../../store/rulings';
import { useActions } from '../../store/context';
import { Field } from '../../ui/field';
import { Card, Row } from '../../ui/frame';
import { Key } from '../../ui/keys';
import { Sheet } from '../../ui/sheet';
import { Words } from '../../ui/words';
import { trainingWords } from './people-words';

const said = (e: unknown): string =>
  e instanceof Away ? 'The server does not answer: try again when it does.' : (e as Error).message;

/** Hands the device to another person who signed in here before: their PIN, nothing else. */
export function SwitchSheet({ onClose }: { onClose: () => void }) {
  const actions = useActions();
  const me = useAppSelector((s) => s.session.session?.person.id);
  const [others, setOthers] = useState<readonly Person[] | null>(null);
  const [who, setWho] = useState<Person | null>(null);
  const [pin, setPin] = useState('');
  const [name, setName] = useState('');
  const [passphrase, setPassphrase] = useState('');
  const [trouble, setTrouble] = useState('');
  useEffect(() => {
    api<Person[]>('GET', '/session/device')
      .then((all) => setOthers(all.filter((p) => p.id !== me)))
      .catch((e: unknown) => setTrouble(said(e)));
  }, [me]);
  const enter = async (how: () => Promise<void>) => {
    setTrouble('');
    try {
      await how();
      onClose();
    } catch (e) {
      setPin('');
      setTrouble(said(e));
    }
  };
  const byPin = () => enter(() => actions.switchTo(who!.id, pin));
  return (
    <Sheet title="Change person" onClose={onClose}>
      {others?.length === 0 ? (
        <Words>
          Nobody else can take over by PIN here yet: they come in once with their passphrase, below, and set a PIN under More.
        </Words>
      ) : null}
      {(others ?? []).map((p) => (
        <Key
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
            label={`PIN of ${who.name}`}
            value={pin}
            onChange={setPin}
            secret
            autoFocus
            onSubmit={() => void byPin()}
            testID="switch-pin"
          />
          <Key
            label={`Go on as ${who.name}`}
            tone="next"
            height={64}
            disabled={!/^\d{4,8}$/.test(pin)}
            onPress={() => void byPin()}
            testID="switch-now"
          />
        </>
      ) : null}
      {who ? null : (
        <>
          <Words bold>By passphrase</Words>
          <Field label="Name" value={name} onChange={setName} testID="switch-name" />
          <Field label="Passphrase" value={passphrase} onChange={setPassphrase} secret testID="switch-passphrase" />
          <Key
            label="Sign in too"
            height={56}
            disabled={name === '' || passphrase === ''}
            onPress={() => void enter(() => actions.signIn(name, passphrase))}
            testID="switch-sign-in"
          />
        </>
      )}
      {trouble ? (
        <View role="alert">
          <Words bold>{trouble}</Words>
        </View>
      ) : null}
    </Sheet>
  );
}

/** A new PIN or passphrase; the present passphrase is asked for either. */
function SecretSheet({ what, onClose }: { what: 'pin' | 'passphrase'; onClose: () => void }) {
  const [passphrase, setPassphrase] = useState('');
  const [fresh, setFresh] = useState('');
  const [trouble, setTrouble] = useState('');
  const good = what === 'pin' ? /^\d{4,8}$/.test(fresh) : fresh.length >= 8;
  const keep = () => {
    setTrouble('');
    api('PUT', `/session/${what}`, what === 'pin' ? { passphrase, pin: fresh } : { passphrase, fresh })
      .then(onClose)
      .catch((e: unknown) => setTrouble(said(e)));
  };
  return (
    <Sheet
      title={what === 'pin' ? 'PIN for this bench' : 'New passphrase'}
      onClose={onClose}
      footer={
        <Key label="Keep" tone="next" height={64} disabled={!good || passphrase === ''} onPress={keep} testID="keep-secret" />
      }
    >
      <Words>
        {what === 'pin'
          ? 'Four to eight digits. It hands a device to you where you signed in with your passphrase before, and opens nothing else.'
          : 'Eight characters or more. Every other device is signed out.'}
      </Words>
      <Field label="Present passphrase" value={passphrase} onChange={setPassphrase} secret testID="present-passphrase" />
      <Field label={what === 'pin' ? 'PIN' : 'New passphrase'} value={fresh} onChange={setFresh} secret testID="fresh-secret" />
      {trouble ? (
        <View role="alert">
          <Words bold>{trouble}</Words>
        </View>
      ) : null}
    </Sheet>
  );
}

/** Who is signed in, what they are trained for, and their own secrets. */
export function PersonCard() {
  const actions = useActions();
  const person = useAppSelector((s) => s.session.session?.person);
  const [sheet, setSheet] = useState<'switch' | 'pin' | 'passphrase' | null>(null);
  const today = localDay(useAppSelector(selectZone), new Date());
  const close = () => setSheet(null);
  if (!person) return null;
  const trained = (person.trainings ?? []).map((t) => trainingWords(t, today));
  return (
    <Card title={person.name} right={<Words soft>{person.role}</Words>} testID="card-person">
      <Words>{trained.length > 0 ? `Trained: ${trained.join(', ')}.` : 'No training on record.'}</Words>
      <Words size={15} soft>
        {person.competent ? 'May confirm a clearing.' : 'Not trained to assess: may not confirm a clearing.'}
      </Words>
      <Row>
        <Key label="Change person" tone="next" height={56} onPress={() => setSheet('switch')} testID="switch-person" />
        <Key label="PIN" height={56} onPress={() => setSheet('pin')} testID="set-pin" />
        <Key label="Passphrase" height={56} onPress={() => setSheet('passphrase')} testID="set-passphrase" />
      </Row>
      <Row>
        <Key label="Sign out" onPress={() => void actions.signOut()} testID="sign-out" />
        <Key label="Sign out everywhere" onPress={() => void actions.signOut(true)} testID="sign-out-everywhere" />
      </Row>
      {sheet === 'switch' ? <SwitchSheet onClose={close} /> : null}
      {sheet === 'pin' || sheet === 'passphrase' ? <SecretSheet what={sheet} onClose={close} /> : null}
    </Card>
  );
}
