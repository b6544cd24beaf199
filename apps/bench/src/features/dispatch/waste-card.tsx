import type { Subject } from '@gavrel/core';
import { unknownOf } from '@gavrel/core/consignment';
import { useState } from 'react';
import { draft } from '../../device/write';
import { useAppSelector } from '../../state';
import { useActions } from '../../state/context';
import { useMay } from '../../state/may';
import { useDraft } from '../../state/use-draft';
import { Button, Choice } from '../../ui/buttons';
import { Field } from '../../ui/field';
import { Card } from '../../ui/frame';
import { Sheet } from '../../ui/sheet';
import { Words } from '../../ui/words';
import type { ConsignmentView } from './view';
import { codeWords, movementFor, notLithium, otherWords, permitBefore, stepWords } from './waste';

const SAID = { yes: 'it crosses a border', no: 'it stays in the country' } as const;

/** Permit of who takes it, and the border. What is typed stays until it is kept. */
function WasteSheet({ v, onClose }: { v: ConsignmentView; onClose: () => void }) {
  const actions = useActions();
  const { facts } = v;
  const [form, setForm, done] = useDraft(`waste ${facts.id}`, {
    permit: facts.permit ?? '',
    notification: facts.notification ?? '',
    border: facts.crossesBorder === undefined ? '' : facts.crossesBorder ? 'yes' : 'no',
  });
  const consignments = useAppSelector((s) => s.logbook.consignments);
  const before = permitBefore(facts, Object.values(consignments));
  const keep = async () => {
    const [permit, notification] = [form.permit.trim(), form.notification.trim()];
    const said = {
      ...(permit !== (facts.permit ?? '') && { permit }),
      ...(notification !== (facts.notification ?? '') && { notification }),
      ...(form.border !== '' && (form.border === 'yes') !== facts.crossesBorder && { crossesBorder: form.border === 'yes' }),
    };
    const c: Subject = `consignment:${facts.id}`;
    if (Object.keys(said).length > 0) await actions.write([draft('consignment-described', [c], said)], 'waste papers');
    done();
    onClose();
  };
  return (
    <Sheet
      title="Waste"
      onClose={onClose}
      footer={<Button label="Keep" tone="next" height={64} onPress={() => keep()} testID="keep-waste" />}
    >
      <Field
        label="Permit of who takes it"
        value={form.permit}
        onChange={(permit) => setForm((f) => ({ ...f, permit }))}
        longest={60}
        autoFocus
        testID="waste-permit"
      />
      {form.permit === '' && before !== null ? (
        <Button
          label={`As last time: ${before}`}
          height={56}
          onPress={() => setForm((f) => ({ ...f, permit: before }))}
          testID="permit-before"
        />
      ) : null}
      <Words bold>Border</Words>
      <Choice
        label="Border"
        options={['no', 'yes'] as const}
        words={SAID}
        value={form.border === '' ? null : (form.border as 'yes' | 'no')}
        onChange={(border) => setForm((f) => ({ ...f, border }))}
        height={56}
      />
      {form.border === 'yes' ? (
        <Field
          label="Number of the notification"
          value={form.notification}
          onChange={(notification) => setForm((f) => ({ ...f, notification }))}
          longest={60}
          testID="waste-notification"
        />
      ) : null}
      <Words size={15} soft>
        The number of the carrier stands with the carrier, that of this workshop in the policy.
      </Words>
    </Sheet>
  );
}

/** What the waste law asks of the consignment: what is known, what nobody said, what goes with it. */
export function WasteCard({ v }: { v: ConsignmentView }) {
  const [open, setOpen] = useState(false);
  const policy = useAppSelector((s) => s.logbook.policy);
  const may = useMay('consignment-described') && v.facts.sent === null && v.facts.ended === null;
  const m = movementFor(v, policy);
  const missing = unknownOf(m);
  const others = notLithium(v);
  return (
    <Card title="As waste" testID="card-waste">
      <Words>{codeWords(m)}</Words>
      {others.length > 0 ? <Words bold>{otherWords(others)}</Words> : null}
      {missing.map((s) => (
        <Words key={s.what} bold testID={`waste-missing-${s.asks}`}>
          {stepWords(s)}
        </Words>
      ))}
      {m.steps
        .filter((s) => !missing.includes(s))
        .map((s) => (
          <Words key={s.what} size={15}>
            {stepWords(s)}
          </Words>
        ))}
      {m.says ? <Words bold>{m.says}</Words> : null}
      {may && m.steps.length > 0 ? (
        <Button
          label={missing.length > 0 ? 'Say it' : 'Change'}
          hint="waste papers"
          height={56}
          onPress={() => setOpen(true)}
          testID="describe-waste"
        />
      ) : null}
      <Words size={15} soft>
        From memory; the authority decides.
      </Words>
      {open ? <WasteSheet v={v} onClose={() => setOpen(false)} /> : null}
    </Card>
  );
}
