import { LONGEST } from '@gavrel/contract';
import type { NotebookFacts } from '@gavrel/core';
import { draft } from '../../device/write';
import { useActions } from '../../state/context';
import { useDraft } from '../../state/use-draft';
import { PlateReader } from '../../entry/plate-reader';
import { Field } from '../../ui/field';
import { Choice, Button } from '../../ui/buttons';
import { Sheet } from '../../ui/sheet';

/** What the plate says, read now or mended: the last reading stands, the earlier ones stay in the log. */
export function PlateSheet({ notebook: n, onClose }: { notebook: NotebookFacts; onClose: () => void }) {
  const actions = useActions();
  const onRecord = { plate: n.plate, maker: n.maker, model: n.model, serial: n.serial };
  // Only what was touched is a draft: what others read meanwhile shows in the rest.
  const [touched, setTouched, done] = useDraft<Partial<typeof onRecord>>(`plate ${n.id}`, {});
  const { plate, maker, model, serial } = { ...onRecord, ...touched };
  const set = (f: 'maker' | 'model' | 'serial') => (x: string) => setTouched((b) => ({ ...b, [f]: x }));
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
    done();
    onClose();
  };
  return (
    <Sheet
      title={`Plate of ${n.tag}`}
      onClose={onClose}
      footer={<Button label="Keep" tone="next" height={64} onPress={() => keep()} testID="keep-plate" />}
    >
      <Choice
        label="Plate"
        options={['read', 'unreadable'] as const}
        words={{ read: 'can be read', unreadable: 'unreadable' }}
        value={plate}
        onChange={(x) => setTouched((b) => ({ ...b, plate: x }))}
      />
      {plate === 'read' ? (
        <>
          <PlateReader plate={{ maker, model, serial }} onTake={(field, said) => set(field)(said)} />
          <Field label="Maker" value={maker} onChange={set('maker')} longest={LONGEST.name} testID="plate-maker" />
          <Field label="Model" value={model} onChange={set('model')} longest={LONGEST.name} testID="plate-model" />
          <Field label="Serial" value={serial} onChange={set('serial')} longest={LONGEST.name} testID="plate-serial" />
        </>
      ) : null}
    </Sheet>
  );
}
