import { localDay } from '@gavrel/core';
import { useState } from 'react';
import { useZone } from '../../state/rulings';
import { Card } from '../../ui/frame';
import { Button } from '../../ui/buttons';
import { Words } from '../../ui/words';
import { print } from '../../paper/print';

const COUNT = 16;

/** Numbered blank slips for a power cut. Day and minute are in the number, so that none comes twice. */
export function SlipsCard() {
  const day = localDay(useZone(), new Date());
  const [trouble, setTrouble] = useState('');
  const go = () => {
    const minute = new Date().toISOString().slice(11, 16).replace(':', '');
    const numbers = Array.from(
      { length: COUNT },
      (_, i) => `S${day.slice(2).replace(/-/g, '')}-${minute}-${String(i + 1).padStart(2, '0')}`,
    );
    setTrouble('');
    void print('blank-slips', { kind: 'blanks', numbers }).catch((e: Error) => setTrouble(e.message));
  };
  return (
    <Card title="Paper for a power cut">
      <Words>{`${COUNT} numbered slips. Their number is the tag: type or scan it when the power is back.`}</Words>
      <Button label="Print blank slips" onPress={go} testID="print-slips" />
      {trouble ? <Words bold>{trouble}</Words> : null}
    </Card>
  );
}
