import type { Named, PersonDetail } from '@gavrel/contract';
import { useState } from 'react';
import { View } from 'react-native';
import { api } from '../../device/api';
import { Field } from '../../ui/field';
import { Card } from '../../ui/frame';
import { Button } from '../../ui/buttons';
import { QrCode } from '../../ui/qr';
import { Words } from '../../ui/words';

/** Somebody competent who does not work here signs as second person: for a workshop where one person works alone. */
export function Outside({ all, run }: { all: readonly PersonDetail[]; run: (work: () => Promise<unknown>) => Promise<void> }) {
  const [name, setName] = useState('');
  const [until, setUntil] = useState('');
  const [told, setTold] = useState<Named | null>(null);
  const good = name.trim() !== '' && /^\d{4}-\d\d-\d\d$/.test(until.trim());
  const add = () =>
    void run(async () => {
      setTold(await api<Named>('POST', '/people/outside', { name: name.trim(), until: until.trim() }));
      setName('');
      setUntil('');
    });
  return (
    <Card title="Somebody outside who signs" testID="card-outside">
      <Words size={15}>
        Where one person works alone: a competent person elsewhere hears what was found and reads out a one-time code. They never
        sign in here.
      </Words>
      <Field label="Their name" value={name} onChange={setName} testID="outside-name" />
      <Field label="Trained to assess until, as 2027-03-31" value={until} onChange={setUntil} testID="outside-until" />
      <Button label="Name them" height={56} disabled={!good} onPress={add} testID="name-outside" />
      {told ? (
        <View role="alert" style={{ gap: 8 }}>
          <Words bold>{`For the phone of ${all.find((p) => p.id === told.id)?.name ?? 'this person'}, shown only now:`}</Words>
          <QrCode text={told.uri} size={220} label="QR code with the key of their one-time codes" />
          <Words>They scan it with a code generator of their own. Do not keep it: whoever has it can sign for them.</Words>
          <Button label="They have it" tone="next" onPress={() => setTold(null)} testID="outside-done" />
        </View>
      ) : null}
    </Card>
  );
}
