import { type PackFacts, type Stored } from '@gavrel/core';
import { mayLie, type PlaceState, plus } from '@gavrel/core/place';
import { useState } from 'react';
import { draft } from '../../device/write';
import { useActions } from '../../state/context';
import { ScanField } from '../../entry/scan-field';
import { Field } from '../../ui/field';
import { Button } from '../../ui/buttons';
import { UNANSWERED } from '../../ui/say';
import { Sheet } from '../../ui/sheet';
import { Figures, Words } from '../../ui/words';
import { useYard, type Yard } from '../../stock/use-yard';
import { useScanned } from './scanned';

/** Why a pack may not lie at a place; empty when nothing we know of speaks against it. */
export const whyNot = (item: Stored, to: PlaceState) =>
  mayLie(item, to.place, item.place === to.place.id ? plus(to.load, item, -1) : to.load);

interface Refused {
  readonly item: Stored;
  readonly to: PlaceState;
  readonly why: string;
}

/** Why it may not lie there, and what may be done all the same. */
function RefusedCard({ refused, onPut, onLeave }: { refused: Refused; onPut: (despite: string) => void; onLeave: () => void }) {
  const [reason, setReason] = useState('');
  return (
    <>
      <Words
        bold
        live
        testID="scan-refused"
      >{`${refused.item.tag} may not lie in ${refused.to.place.name}: ${refused.why}`}</Words>
      <Field label="Why it must all the same" value={reason} onChange={setReason} testID="despite" />
      <Button
        label="Put it there, flagged"
        height={56}
        disabled={reason.trim().length < 3}
        onPress={() => onPut(reason.trim())}
        testID="put-despite"
      />
      <Button label="Somewhere else" onPress={onLeave} />
    </>
  );
}

/** Pack, place, done, and on to the next: with a keyboard scanner no key is touched. */
export function ScanSheet({ at, onClose }: { at?: string; onClose: () => void }) {
  const actions = useActions();
  const yard = useYard();
  const scanned = useScanned(yard);
  const [code, setCode] = useState('');
  const [pack, setPack] = useState<PackFacts | null>(null);
  const [refused, setRefused] = useState<Refused | null>(null);
  const [trouble, setTrouble] = useState('');
  const [done, setDone] = useState<readonly string[]>([]);
  const fixed = at === undefined ? undefined : yard.places.find((p) => p.place.id === at);
  const put = async (item: Stored, to: PlaceState, despite?: string) => {
    await actions.write(
      [draft('moved', [`pack:${item.id}`, `place:${to.place.id}`], { ...(despite && { despite }) })],
      `${item.tag} to ${to.place.name}`,
    );
    setDone((d) => [`${item.tag} → ${to.place.name}${despite ? ', flagged' : ''}`, ...d]);
    setPack(null);
    setRefused(null);
  };
  const no = (words: string): false => {
    setTrouble(words);
    return false;
  };
  /** @returns false where it did not go there. */
  const toPlace = async (of: PackFacts, to: PlaceState, { stock }: Yard): Promise<boolean> => {
    const item = stock.get(of.id);
    if (!item || item.place === to.place.id) {
      setPack(null);
      const where = of.use === 'fitted' ? 'in its machine' : 'not here';
      return no(item ? `${of.tag} lies in ${to.place.name} already.` : `${of.tag} is ${where}: take it in first.`);
    }
    const why = whyNot(item, to);
    if (why.length > 0) {
      setPack(of);
      setRefused({ item, to, why: why.map((w) => w.words).join('; ') });
      return false;
    }
    await put(item, to);
    return true;
  };
  const take = async (scan: string): Promise<boolean> => {
    const given = scan.trim();
    setCode('');
    setTrouble('');
    const { found, yard: now, unanswered } = await scanned(given);
    if (unanswered) return no(`${given}: ${UNANSWERED}`);
    if (found === null) return no(`${given}: no pack and no place here has this code. Add the pack first, or scan again.`);
    if ('pack' in found) {
      if (fixed) return toPlace(found.pack, fixed, now);
      if (pack && pack.id !== found.pack.id) setTrouble(`${pack.tag} stays where it was: no place was scanned for it.`);
      setRefused(null);
      setPack(found.pack);
      return true;
    }
    if (!pack) return no(`${found.place.place.name} is a place: scan the pack first.`);
    return toPlace(pack, found.place, now);
  };
  const asked = pack ? 'Place' : 'Pack';
  return (
    <Sheet title={fixed ? `Put into ${fixed.place.name}` : 'Move by scan'} onClose={onClose}>
      <ScanField
        label={`${asked}: scan or type`}
        value={code}
        onChange={setCode}
        onScan={take}
        many
        paused={refused !== null}
        testID="scan"
      />
      {pack && !refused ? <Words bold>{`${pack.tag}: now its place`}</Words> : null}
      {trouble ? (
        <Words bold live testID="scan-trouble">
          {trouble}
        </Words>
      ) : null}
      {refused ? (
        <RefusedCard
          key={refused.item.id + refused.to.place.id}
          refused={refused}
          onPut={(why) => void put(refused.item, refused.to, why)}
          onLeave={() => setRefused(null)}
        />
      ) : null}
      {done.map((d, i) => (
        <Figures key={`${done.length - i}`} size={15}>
          {d}
        </Figures>
      ))}
    </Sheet>
  );
}
