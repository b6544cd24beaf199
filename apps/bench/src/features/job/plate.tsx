import { LONGEST } from '@gavrel/contract';
import type { NotebookFacts } from '@gavrel/core';
import { useState } from 'react';
import { draft } from '../../device/write';
import { useActions } from '../../state/context';
import { PlateReader } from '../../entry/plate-reader';
import { Field } from '../../ui/field';
import { Choice, Button } from '../../ui/buttons';
import { Sheet } from '../../ui/sheet';

/** What the plate says, read now or mended: the last reading stands, the earlier ones stay in the log. */
export function PlateSheet({ notebook: n, onClose }: { notebook: NotebookFacts; onClose: () => void }) {
  const actions = useActions();
  const [plate, setPlate] = useState(n.plate);
  const [maker, setMaker] = useState(n.maker);
  const [model, setModel] = useState(n.model);
  const [serial, setSerial] = useState(n.serial);
  const setters = { maker: setMaker, model: setModel, serial: setSerial };
  const keep = async () => {
    // A field that was emptied is said to be empty; one that always was is left out.
    const read =
      plate === 'read'
        ? Object.fromEntries(
            (['maker', 'model', 'serial'] as const)
              .map((f) => [f, { maker, model, serial }[f].trim()] as const)
              .filter(([f, x]) => x !== '' || n[f] !== ''),
          )
        : {};
    await actions.write([draft('notebook-identified', [`notebook:${n.id}`], { tag: n.tag, plate, ...read })], 'plate read');
    onClose();
  };
  return (
    <Sheet
      title={`Plate of ${n.tag}`}
      onClose={onClose}
      footer={<Button label="Keep" tone="next" height={64} onPress={() => void keep()} testID="keep-plate" />}
    >
      <Choice
        label="Plate"
        options={['read', 'unreadable'] as const}
        words={{ read: 'can be read', unreadable: 'unreadable' }}
        value={plate}
        onChange={setPlate}
      />
      {plate === 'read' ? (
        <>
          <PlateReader plate={{ maker, model, serial }} onTake={(field, said) => setters[field](said)} />
          <Field label="Maker" value={maker} onChange={setMaker} longest={LONGEST.name} testID="plate-maker" />
          <Field label="Model" value={model} onChange={setModel} longest={LONGEST.name} testID="plate-model" />
          <Field label="Serial" value={serial} onChange={setSerial} longest={LONGEST.name} testID="plate-serial" />
        </>
      ) : null}
    </Sheet>
  );
}
