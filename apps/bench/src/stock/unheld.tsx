import { counted } from '@gavrel/core';
import { useEffect, useState } from 'react';
import { useAppSelector } from '../state';
import { useActions } from '../state/context';
import { Words } from '../ui/words';

/** Packs that a job or a consignment names and this device does not hold: asked for at the server, and said until they are here. */
export function Unheld({ ids }: { ids: readonly string[] }) {
  const actions = useActions();
  const away = useAppSelector((s) => s.logbook.away);
  const [trouble, setTrouble] = useState('');
  const asked = ids.join(' ');
  useEffect(() => {
    if (asked === '') return;
    let over = false;
    setTrouble('');
    void actions.packsOnRecord(asked.split(' ')).then((packs) => {
      if (over) return;
      setTrouble(
        packs === null ? 'The server does not answer; they are asked for again when it does.' : 'No record of them came.',
      );
    });
    return () => void (over = true);
  }, [actions, asked, away]);
  if (ids.length === 0) return null;
  return (
    <Words bold live testID="unheld">
      {`${counted(ids.length, 'pack')} of it not on this device. ${trouble || 'Asking the server…'}`}
    </Words>
  );
}
