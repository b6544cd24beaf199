import { useState } from 'react';
import { View } from 'react-native';
import { api, errorMessage, Refused } from '../device/api';
import { Button } from '../ui/buttons';
import { Words } from '../ui/words';

/** Asks an instrument that talks; what it says stands on the keypad, and is kept when the person says so. */
export function ReadKey({
  instrument,
  units,
  onReading,
}: {
  instrument: { readonly id: string; readonly plain: { readonly name: string } };
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
      const read = await api<{ digits: string; unit: string }>('POST', `/instruments/${instrument.id}/reading`, {});
      if (units.includes(read.unit)) onReading(read.digits, read.unit);
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
        onPress={() => void ask()}
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
