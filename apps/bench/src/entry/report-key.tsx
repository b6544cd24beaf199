import type { InstrumentFacts } from '@gavrel/core';
import { useMemo, useState } from 'react';
import { View } from 'react-native';
import { api, errorMessage } from '../device/api';
import { useAppSelector } from '../state';
import { useApart } from './apart';
import { Button } from '../ui/buttons';
import { Words } from '../ui/words';

/** Gauge readers that the server reaches. */
function useGaugeReaders(): readonly InstrumentFacts[] {
  const instruments = useAppSelector((s) => s.logbook.instruments);
  const apart = useApart() !== null;
  return useMemo(
    () => (apart ? [] : Object.values(instruments).filter((i) => i.measures === 'gauge' && i.address)),
    [apart, instruments],
  );
}

/** Reads what the gauge of a pack says through a reader that talks: as text, kept when the person says so. Nothing where there is none. */
export function ReportKeys({ onText }: { onText: (text: string) => void }) {
  const readers = useGaugeReaders();
  const [reading, setReading] = useState('');
  const [trouble, setTrouble] = useState('');
  const read = async ({ id, name }: InstrumentFacts) => {
    setReading(name);
    setTrouble('');
    try {
      onText((await api<{ text: string }>('POST', `/instruments/${id}/report`, {})).text);
    } catch (e) {
      setTrouble(errorMessage(e));
    } finally {
      setReading('');
    }
  };
  if (readers.length === 0) return null;
  return (
    <View style={{ gap: 6 }}>
      {readers.map((r) => (
        <Button
          key={r.id}
          label={reading === r.name ? `${r.name} is read` : `Read ${r.name}`}
          height={56}
          disabled={reading !== ''}
          onPress={() => read(r)}
          testID="read-gauge"
        />
      ))}
      {trouble ? (
        <Words bold live testID="gauge-trouble">
          {trouble}
        </Words>
      ) : null}
    </View>
  );
}
