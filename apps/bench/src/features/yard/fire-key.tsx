import { useState } from 'react';
import { isShort } from '../../device/on-device';
import { useAppSelector } from '../../state';
import { Button } from '../../ui/buttons';
import { exactWords } from '../../ui/say';
import { Words } from '../../ui/words';
import { print } from '../../paper/print';
import { firePaper } from './fire-paper';
import { incidentWords } from '../../stock/incident-words';
import type { Yard } from '../../stock/use-yard';
import { apartWords } from '../../stock/place-words';

/** Prints what lies where at this moment, for the fire service. */
export function FireKey({ yard, label }: { yard: Yard; label: string }) {
  const [trouble, setTrouble] = useState('');
  const site = useAppSelector((s) => s.logbook.policy.siteCard);
  const { incidents, places, holds } = useAppSelector((s) => s.logbook);
  const workshop = useAppSelector((s) => s.session.session?.workshop.name ?? '');
  const fire = () => {
    setTrouble('');
    const open = Object.values(incidents).filter((i) => i.closed === null);
    const paper = firePaper(
      yard.places,
      open.map((i) => incidentWords(i, places)),
      apartWords(yard.apart, yard.unseen),
      site,
      workshop,
      exactWords(new Date().toISOString()),
      holds && isShort(holds) ? `NOT ALL OF IT: the device that printed this knew ${holds.held} of ${holds.onSite} packs.` : null,
    );
    void print('fire-service', { kind: 'report', paper }).catch((e: Error) => setTrouble(e.message));
  };
  return (
    <>
      <Button label={label} onPress={fire} testID="print-fire" />
      {trouble ? <Words bold>{trouble}</Words> : null}
    </>
  );
}
