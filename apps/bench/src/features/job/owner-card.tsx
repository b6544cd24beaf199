import type { JobFacts } from '@gavrel/core';
import { useState } from 'react';
import { v4 } from 'uuid';
import { api } from '../../device/api';
import { useActions } from '../../state/context';
import { useOwner } from '../../entry/use-owner';
import { useAppSelector } from '../../state';
import { Field } from '../../ui/field';
import { Card, Row } from '../../ui/frame';
import { Button } from '../../ui/buttons';
import { Sheet } from '../../ui/sheet';
import { Words } from '../../ui/words';
import { Ask } from '../../entry/ask';
import type { JobView } from './view';

type Owns = NonNullable<JobFacts['owns']>;

/** Whose it is. Kept beside the log, so that it can be erased. */
export function OwnerCard({ v }: { v: JobView }) {
  const actions = useActions();
  const owner = useOwner(v.job.owner);
  const lead = useAppSelector((s) => s.session.session?.person.role === 'lead');
  const [open, setOpen] = useState(false);
  // What is typed of a person stays here until it is kept, and lies nowhere on the disk before.
  const [typed, setTyped] = useState<{ readonly name?: string; readonly contact?: string; readonly of?: Owns }>({});
  const known = { name: owner?.name ?? '', contact: owner?.contact ?? '', of: v.job.owns ?? 'both' };
  const { name, contact, of } = { ...known, ...typed };
  const [trouble, setTrouble] = useState('');
  const keep = async () => {
    const id = v.job.owner ?? v4();
    await actions.keepOwner({ id, name: name.trim(), contact: contact.trim() });
    await v.say('owner-linked', { owner: id, of }, 'owner');
    setTyped({});
    setOpen(false);
  };
  const erase = async () => {
    try {
      await api('DELETE', `/owners/${v.job.owner!}`);
      setTrouble('Erased. The log keeps only a number that leads nowhere.');
    } catch {
      setTrouble('Not erased: the server does not answer, or it is erased already.');
    }
  };
  return (
    <Card
      title="Owner"
      testID="card-owner"
      right={<Words>{owner?.name ?? (v.job.owner ? 'not on this device' : 'not noted')}</Words>}
    >
      {owner?.contact ? <Words size={15}>{owner.contact}</Words> : null}
      <Row>
        <Button label={v.job.owner ? 'Change' : 'Note the owner'} onPress={() => setOpen(true)} testID="note-owner" />
        {lead && v.job.owner ? <Button label="Erase" onPress={() => erase()} testID="erase-owner" /> : null}
      </Row>
      {trouble ? <Words>{trouble}</Words> : null}
      {open ? (
        <Sheet
          title="Owner"
          onClose={() => setOpen(false)}
          footer={
            <Button
              label="Keep"
              tone="next"
              height={64}
              disabled={name.trim() === ''}
              onPress={() => keep()}
              testID="keep-owner"
            />
          }
        >
          <Field label="Name" value={name} onChange={(x) => setTyped((b) => ({ ...b, name: x }))} autoFocus testID="owner-name" />
          <Field
            label="How to reach them"
            value={contact}
            onChange={(x) => setTyped((b) => ({ ...b, contact: x }))}
            testID="owner-contact"
          />
          <Ask
            label="Owns"
            options={['both', 'machine', 'pack'] as const}
            words={{ both: 'machine and pack' }}
            value={of}
            onSay={(x) => setTyped((b) => ({ ...b, of: x }))}
          />
          <Words size={15} soft>
            Kept beside the log and erasable. The log holds only a number.
          </Words>
        </Sheet>
      ) : null}
    </Card>
  );
}
