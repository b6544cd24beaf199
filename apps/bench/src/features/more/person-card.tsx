import { localDay } from '@gavrel/core';
import { useState } from 'react';
import { View } from 'react-native';
import { api, errorMessage } from '../../device/api';
import { useAppDispatch, useAppSelector } from '../../state';
import { useZone } from '../../state/rulings';
import { useActions } from '../../state/context';
import { lockAfterChosen, screenLocked } from '../../state/view';
import { Field } from '../../ui/field';
import { Card, Row } from '../../ui/frame';
import { Choice, Button } from '../../ui/buttons';
import { Sheet } from '../../ui/sheet';
import { Words } from '../../ui/words';
import { EnterForm } from '../../entry/enter-form';
import { trainingWords } from '../../ui/training-words';

const LOCK_AFTER = { never: null, '5 min': 5, '15 min': 15, '60 min': 60 } as const;

/** When this device locks by itself. */
function LockChoice() {
  const dispatch = useAppDispatch();
  const after = useAppSelector((s) => s.view.lockAfter);
  const names = Object.keys(LOCK_AFTER) as (keyof typeof LOCK_AFTER)[];
  return (
    <>
      <Words size={15}>This device locks by itself after</Words>
      <Choice
        label="Locks by itself after"
        options={names}
        value={names.find((n) => LOCK_AFTER[n] === after) ?? 'never'}
        onChange={(n) => dispatch(lockAfterChosen(LOCK_AFTER[n]))}
      />
    </>
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
      .catch((e: unknown) => setTrouble(errorMessage(e)));
  };
  return (
    <Sheet
      title={what === 'pin' ? 'PIN for this bench' : 'New passphrase'}
      onClose={onClose}
      footer={
        <Button label="Keep" tone="next" height={64} disabled={!good || passphrase === ''} onPress={keep} testID="keep-secret" />
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
  const dispatch = useAppDispatch();
  const person = useAppSelector((s) => s.session.session?.person);
  const [sheet, setSheet] = useState<'switch' | 'pin' | 'passphrase' | null>(null);
  const today = localDay(useZone(), new Date());
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
        <Button label="Change person" tone="next" height={56} onPress={() => setSheet('switch')} testID="switch-person" />
        <Button label="PIN" height={56} onPress={() => setSheet('pin')} testID="set-pin" />
        <Button label="Passphrase" height={56} onPress={() => setSheet('passphrase')} testID="set-passphrase" />
      </Row>
      <LockChoice />
      <Row>
        <Button label="Lock" onPress={() => dispatch(screenLocked())} testID="lock" />
        <Button label="Sign out" onPress={() => actions.signOut()} testID="sign-out" />
        <Button label="Sign out everywhere" onPress={() => actions.signOut(true)} testID="sign-out-everywhere" />
      </Row>
      {sheet === 'switch' ? (
        <Sheet title="Change person" onClose={close}>
          <EnterForm self={false} onEntered={close} />
        </Sheet>
      ) : null}
      {sheet === 'pin' || sheet === 'passphrase' ? <SecretSheet what={sheet} onClose={close} /> : null}
    </Card>
  );
}
