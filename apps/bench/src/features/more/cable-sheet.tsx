import { type InstrumentFacts, SPEAKS } from '@gavrel/core';
import { useState } from 'react';
import { type Cable, choosePlug } from '../../device/serial';
import { useAppDispatch, useAppSelector } from '../../state';
import { cableChosen } from '../../state/view';
import { Button, Choice } from '../../ui/buttons';
import { Sheet } from '../../ui/sheet';
import { Words } from '../../ui/words';

const BAUDS = ['1200', '2400', '4800', '9600', '19200', '38400', '57600', '115200'] as const;

/** An instrument on a cable of this device: what the browser lets the person choose, for this device alone. */
export function CableSheet({ instrument, onClose }: { instrument: InstrumentFacts; onClose: () => void }) {
  const dispatch = useAppDispatch();
  const now = useAppSelector((s) => s.view.cables[instrument.id]);
  const [baud, setBaud] = useState<(typeof BAUDS)[number]>(BAUDS.find((b) => Number(b) === now?.baud) ?? '9600');
  const [speaks, setSpeaks] = useState<Cable['speaks']>(now?.speaks ?? 'lines');
  const [none, setNone] = useState(false);
  const to = (cable: Cable | null) => {
    dispatch(cableChosen({ id: instrument.id, cable }));
    onClose();
  };
  const choose = async () => {
    const plug = await choosePlug(instrument.id);
    if (plug) to({ baud: Number(baud), speaks, plug });
    else setNone(true);
  };
  return (
    <Sheet
      title={`Cable of ${instrument.name}`}
      onClose={onClose}
      footer={<Button label="Choose the cable" tone="next" height={64} onPress={() => choose()} testID="choose-cable" />}
    >
      <Words>It is read at this device alone, when a person taps Read on the keypad.</Words>
      <Words size={15}>Speed, in baud: as in its manual.</Words>
      <Choice label="Speed in baud, as in its manual" options={BAUDS} value={baud} onChange={setBaud} />
      <Words size={15}>Asked by SCPI, or sends lines by itself.</Words>
      <Choice label="Speaks" options={SPEAKS} value={speaks} onChange={setSpeaks} />
      {none ? (
        <Words bold live>
          No cable was chosen: plug it in, then choose it.
        </Words>
      ) : null}
      {now ? <Button label="Not on a cable any more" onPress={() => to(null)} testID="no-cable" /> : null}
    </Sheet>
  );
}
