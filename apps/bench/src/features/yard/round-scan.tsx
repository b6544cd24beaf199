import { isContainer } from '@gavrel/core';
import { useState } from 'react';
import { ScanField } from '../../entry/scan-field';
import type { Yard } from '../../stock/use-yard';
import { Button } from '../../ui/buttons';
import { Card } from '../../ui/frame';
import { UNANSWERED } from '../../ui/say';
import { Words } from '../../ui/words';
import { useScanned } from './scanned';

/** What a pack scanned on the way says. Nothing is moved by it. */
export function packWords(
  yard: Yard,
  id: string,
  tag: string,
  here: string | null,
): { readonly right: boolean; readonly words: string } {
  const item = yard.stock.get(id);
  const place = item?.place ? yard.places.find((p) => p.place.id === item.place)?.place : undefined;
  if (!item) return { right: false, words: `${tag} is not in stock by the record: take it in, or look whose it is.` };
  if (!place) return { right: false, words: `${tag}, ${item.condition}, has no place yet: put it where it may lie.` };
  if (here !== null && place.id !== here)
    return { right: false, words: `${tag}, ${item.condition}, belongs in ${place.name}, not here.` };
  return { right: true, words: `${tag}, ${item.condition}: ${place.name}` };
}

/**
 * Along the way, code after code: a place is opened for its look or its count, a pack is told where it belongs.
 * @param paused a sheet is open: the camera takes nothing meanwhile.
 */
export function RoundScan({
  yard,
  paused,
  onLook,
  onCount,
}: {
  yard: Yard;
  paused: boolean;
  onLook: (place: string) => void;
  onCount: (place: string) => void;
}) {
  const scanned = useScanned(yard);
  const [open, setOpen] = useState(false);
  const [code, setCode] = useState('');
  /** The place scanned last: packs after it should lie there. */
  const [here, setHere] = useState<string | null>(null);
  const [said, setSaid] = useState<{ readonly right: boolean; readonly words: string } | null>(null);
  const take = async (scan: string): Promise<boolean> => {
    const given = scan.trim();
    setCode('');
    if (given === '') return false;
    const { found, yard: now, unanswered } = await scanned(given);
    if (unanswered) {
      setSaid({ right: false, words: `${given}: ${UNANSWERED}` });
      return false;
    }
    if (found === null) {
      setSaid({ right: false, words: `${given}: no place and no pack here has this code.` });
      return false;
    }
    if ('pack' in found) {
      const told = packWords(now, found.pack.id, found.pack.tag, here);
      setSaid(told);
      return told.right;
    }
    const { place } = found.place;
    setHere(place.id);
    setSaid({ right: true, words: place.name });
    (isContainer(place) ? onLook : onCount)(place.id);
    return true;
  };
  if (!open) return <Button label="Scan along the way" height={56} onPress={() => setOpen(true)} testID="round-scan" />;
  return (
    <Card
      title="Scan along the way"
      right={<Button label="Close" tone="quiet" onPress={() => setOpen(false)} />}
      testID="round-scanning"
    >
      <ScanField label="Place or pack" value={code} onChange={setCode} onScan={take} many paused={paused} testID="round-code" />
      {said ? (
        <Words bold={!said.right} live testID="round-said">
          {said.words}
        </Words>
      ) : (
        <Words size={15} soft>
          A place opens for its look or its count; a pack says where it belongs.
        </Words>
      )}
    </Card>
  );
}
