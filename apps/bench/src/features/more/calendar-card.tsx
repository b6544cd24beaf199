import type { CalendarResponse } from '@gavrel/contract';
import { useEffect, useState } from 'react';
import { api } from '../../device/api';
import { Card, Row } from '../../ui/frame';
import { Button } from '../../ui/buttons';
import { agoWords } from '../../ui/say';
import { QrCode } from '../../ui/qr';
import { Figures, Words } from '../../ui/words';

/** The secret address under which a phone's own calendar reads what is due. Shown once, when it is made. */
export function CalendarCard() {
  const [known, setKnown] = useState<CalendarResponse | null>(null);
  const [trouble, setTrouble] = useState('');
  const ask = (method: 'GET' | 'POST' | 'DELETE') => {
    setTrouble('');
    api<CalendarResponse | null>(method, '/calendar')
      .then((c) => setKnown(c ?? { madeAt: null }))
      .catch((e: Error) => setTrouble(e.message || 'The server does not answer: try again when it does.'));
  };
  useEffect(() => ask('GET'), []);
  const address = known?.path ? `${window.location.origin}${known.path}` : null;
  return (
    <Card title="Calendar" testID="card-calendar">
      <Words>
        {known?.madeAt
          ? `A phone’s calendar may read what is due; its address was made ${agoWords(known.madeAt)}.`
          : 'What is due can live in a phone’s own calendar. Whoever has the address can read it, until it is revoked.'}
      </Words>
      {address ? (
        <>
          <QrCode text={address} size={180} />
          <Figures size={14} testID="calendar-address">
            {address}
          </Figures>
          <Words bold>Copy it now: it is not shown again.</Words>
        </>
      ) : null}
      <Row>
        <Button
          label={known?.madeAt ? 'Make a new address' : 'Make the address'}
          onPress={() => ask('POST')}
          testID="make-calendar"
        />
        {known?.madeAt ? <Button label="Revoke" onPress={() => ask('DELETE')} testID="revoke-calendar" /> : null}
      </Row>
      {trouble ? <Words bold>{trouble}</Words> : null}
    </Card>
  );
}
