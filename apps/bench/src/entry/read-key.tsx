import type { InstrumentAnswer } from '@gavrel/core';
import { useState } from 'react';
import { View } from 'react-native';
import { api, errorMessage, Refused } from '../device/api';
import { Button } from '../ui/buttons';
import { Words } from '../ui/words';
import { readCable } from '../device/serial';
import type { ChosenInstrument } from './instruments';

/** By the cable of this device where it has one, else by way of the server. */
async function readingOf({ id, cable, measures }: ChosenInstrument): Promise<InstrumentAnswer> {
  if (cable) return readCable(id, cable, measures);
  const { digits, unit } = await api<{ digits: string; unit: string }>('POST', `/instruments/${id}/reading`, {});
  return { kind: 'reading', digits, unit };
}

/** Asks an instrument that talks; what it says stands on the keypad, and is kept when the person says so. */
export function ReadKey({
  instrument,
  units,
  onReading,
}: {
  instrument: ChosenInstrument;
  units: readonly string[];
  onReading: (digits: string, unit: string) => void;
}) {
  const [reading, setReading] = useState(false);
  const [trouble, setTrouble] = useState('');
  const { name } = instrument.plain;
  const ask = async () => {
    setReading(true);
    setTrouble('');
    try {
      const read = await readingOf(instrument);
      if (read.kind === 'fault') setTrouble(`${name}: ${read.words}`);
      else if (units.includes(read.unit)) onReading(read.digits, read.unit);
      else setTrouble(`${name} measures in ${read.unit}, asked is ${units.join(' or ')}: set it, then read again.`);
    } catch (e) {
      setTrouble(e instanceof Refused && e.problem.detail ? `${name}: ${e.problem.detail}` : errorMessage(e));
    } finally {
      setReading(false);
    }
  };
  return (
    <View style={{ gap: 4 }}>
      <Button
        label={reading ? `${name} is read until it stands still` : `Read ${name}`}
        height={56}
        disabled={reading}
        onPress={() => ask()}
        testID="read-instrument"
      />
      {trouble ? (
        <Words bold live testID="read-trouble">
          {trouble}
        </Words>
      ) : null}
    </View>
  );
}
