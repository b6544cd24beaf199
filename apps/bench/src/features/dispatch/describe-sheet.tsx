import { DESTINATIONS, type Destination, isDay, PLACEMENTS, type Region, type Subject } from '@gavrel/core';
import { useState } from 'react';
import { v4 } from 'uuid';
import { draft } from '../../device/write';
import { useOwner } from '../../entry/use-owner';
import { REGION_CHOICES, REGION_WORDS } from '../../routes/route-table';
import { useActions } from '../../state/context';
import { useDraft } from '../../state/use-draft';
import { Button, Choice } from '../../ui/buttons';
import { Field } from '../../ui/field';
import { LeftEmpty } from '../../ui/left-empty';
import { Sheet } from '../../ui/sheet';
import { Words } from '../../ui/words';
import type { ConsignmentView } from './view';
import { DESTINATION_WORDS } from './words';

const PLACEMENT_WORDS = { loose: 'loose', 'with-equipment': 'with machines', 'in-equipment': 'in machines' } as const;

/** To whom, and where they are. */
function AddresseeFields({
  present,
  form,
  onChange,
}: {
  present: string | null;
  form: { readonly to: string; readonly address: string };
  onChange: (said: { to?: string; address?: string }) => void;
}) {
  return (
    <>
      <Field
        label={present === null ? 'Addressee' : `Addressee, now ${present}`}
        value={form.to}
        onChange={(to) => onChange({ to })}
        longest={120}
        testID="addressee"
      />
      <Field
        label="Address"
        value={form.address}
        onChange={(address) => onChange({ address })}
        longest={300}
        multiline
        testID="address"
      />
      <Words size={15} soft>
        The address is kept beside the log and can be erased.
      </Words>
    </>
  );
}

/** Where to, when, to whom. What is typed stays until it is kept. */
export function DescribeSheet({ v, onClose }: { v: ConsignmentView; onClose: () => void }) {
  const actions = useActions();
  const { facts } = v;
  const owner = useOwner(facts.addressee ?? null);
  const [form, setForm, done] = useDraft(`consignment ${facts.id}`, {
    name: facts.name ?? '',
    on: facts.on ?? '',
    to: '',
    address: '',
  });
  const [destination, setDestination] = useState<Destination | null>(facts.destination ?? null);
  const [region, setRegion] = useState<Region>(facts.region ?? v.region);
  const [placement, setPlacement] = useState(facts.placement ?? 'loose');
  const day = form.on.trim();
  const wrongDay = day !== '' && (!isDay(day) || day < v.today);
  const emptied = [
    form.name.trim() === '' && facts.name && `the name stays “${facts.name}”`,
    day === '' && facts.on && `the day stays ${facts.on}`,
  ];
  const keep = async () => {
    const c: Subject = `consignment:${facts.id}`;
    const named = form.to.trim() !== '' || form.address.trim() !== '';
    const addressee = facts.addressee ?? v4();
    if (named) {
      const [name, contact] = [form.to.trim() || (owner?.name ?? ''), form.address.trim() || (owner?.contact ?? '')];
      await actions.keepOwner({ id: addressee, name: name || 'not named', contact });
    }
    await actions.write(
      [
        draft('consignment-described', [c], {
          ...(form.name.trim() && { name: form.name.trim() }),
          ...(destination && { destination }),
          ...(day && { on: day }),
          ...(named && { addressee }),
          region,
          placement,
        }),
      ],
      'consignment',
    );
    done();
    onClose();
  };
  return (
    <Sheet
      title="Consignment"
      onClose={onClose}
      footer={
        <Button label="Keep" tone="next" height={64} disabled={wrongDay} onPress={() => keep()} testID="keep-consignment" />
      }
    >
      <Words bold>Where to</Words>
      <Choice
        label="Where to"
        options={DESTINATIONS}
        words={DESTINATION_WORDS}
        value={destination}
        onChange={setDestination}
        height={56}
      />
      <Field
        label="Name of the consignment"
        value={form.name}
        onChange={(name) => setForm((f) => ({ ...f, name }))}
        longest={80}
        testID="consignment-name"
      />
      <Field
        label={`Day of dispatch, YYYY-MM-DD; today is ${v.today}`}
        value={form.on}
        onChange={(on) => setForm((f) => ({ ...f, on }))}
        testID="consignment-on"
      />
      <LeftEmpty stays={emptied} />
      {wrongDay ? <Words bold>{`Write a day from ${v.today} on, as YYYY-MM-DD.`}</Words> : null}
      <Words bold>How the packs lie</Words>
      <Choice label="How the packs lie" options={PLACEMENTS} words={PLACEMENT_WORDS} value={placement} onChange={setPlacement} />
      <Words bold>Rules of road and rail</Words>
      <Choice
        label="Rules of road and rail"
        options={REGION_CHOICES}
        words={REGION_WORDS}
        value={region as (typeof REGION_CHOICES)[number]}
        onChange={setRegion}
      />
      <AddresseeFields present={owner?.name ?? null} form={form} onChange={(said) => setForm((f) => ({ ...f, ...said }))} />
    </Sheet>
  );
}
