import { normalTag, type PackFacts, type Stored, taggedId } from '@gavrel/core';
import { mayLie, type PlaceState, plus } from '@gavrel/core/place';
import { useState } from 'react';
import { draft } from '../../device/write';
import { useAppSelector } from '../../state';
import { useActions } from '../../state/context';
import { Field } from '../../ui/field';
import { Button } from '../../ui/buttons';
import { Sheet } from '../../ui/sheet';
import { Figures, Words } from '../../ui/words';
import { useYard, type Yard } from '../../stock/use-yard';

/** What a scanned or typed code is: a pack of ours, a place, or neither. */
export type Scanned = { readonly pack: PackFacts } | { readonly place: PlaceState } | null;

export function scanned(code: string, workshop: string, yard: Yard): Scanned {
  if (normalTag(code) === '') return null;
  const pack = yard.facts[taggedId(workshop, 'pack', code)];
  if (pack) return { pack };
  const place = yard.places.find((p) => p.place.id === taggedId(workshop, 'place', code.trim()));
  return place ? { place } : null;
}

/** Why a pack may not lie at a place; empty when nothing we know of speaks against it. */
export const whyNot = (item: Stored, to: PlaceState) =>
  mayLie(item, to.place, item.place === to.place.id ? plus(to.load, item, -1) : to.load);

/** Pack, place, done, and on to the next: with a keyboard scanner no key is touched. */
export function ScanSheet({ at, onClose }: { at?: string; onClose: () => void }) {
  const actions = useActions();
  const yard = useYard();
  const workshop = useAppSelector((s) => s.session.session?.workshop.id ?? '');
  const [code, setCode] = useState('');
  const [pack, setPack] = useState<PackFacts | null>(null);
  const [refused, setRefused] = useState<{ item: Stored; to: PlaceState; why: string } | null>(null);
  const [reason, setReason] = useState('');
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
    setReason('');
  };
  const toPlace = async (of: PackFacts, to: PlaceState) => {
    const item = yard.stock.get(of.id);
    if (!item) {
      setPack(null);
      return setTrouble(`${of.tag} is ${of.use === 'fitted' ? 'in its machine' : 'not here'}: take it in first.`);
    }
    const why = whyNot(item, to);
    if (why.length === 0) return put(item, to);
    setPack(of);
    setRefused({ item, to, why: why.map((w) => w.words).join('; ') });
  };
  const take = async () => {
    const given = code.trim();
    setCode('');
    setTrouble('');
    const found = scanned(given, workshop, yard);
    if (found === null)
      return setTrouble(`${given}: no pack and no place here has this code. Add the pack first, or scan again.`);
    if ('pack' in found) {
      if (fixed) return toPlace(found.pack, fixed);
      if (pack && pack.id !== found.pack.id) setTrouble(`${pack.tag} stays where it was: no place was scanned for it.`);
      setRefused(null);
      return setPack(found.pack);
    }
    if (!pack) return setTrouble(`${found.place.place.name} is a place: scan the pack first.`);
    return toPlace(pack, found.place);
  };
  const asked = pack ? 'Place' : fixed ? `Pack for ${fixed.place.name}` : 'Pack';
  return (
    <Sheet title={fixed ? `Put into ${fixed.place.name}` : 'Move by scan'} onClose={onClose}>
      <Field
        label={`${asked}: scan or type`}
        value={code}
        onChange={setCode}
        onSubmit={() => void take()}
        autoFocus
        testID="scan"
      />
      {pack && !refused ? <Words bold>{`${pack.tag}: now its place`}</Words> : null}
      {trouble ? (
        <Words bold testID="scan-trouble">
          {trouble}
        </Words>
      ) : null}
      {refused ? (
        <>
          <Words
            bold
            testID="scan-refused"
          >{`${refused.item.tag} may not lie in ${refused.to.place.name}: ${refused.why}`}</Words>
          <Field label="Why it must all the same" value={reason} onChange={setReason} testID="despite" />
          <Button
            label="Put it there, flagged"
            height={56}
            disabled={reason.trim().length < 3}
            onPress={() => void put(refused.item, refused.to, reason.trim())}
            testID="put-despite"
          />
          <Button label="Somewhere else" onPress={() => setRefused(null)} />
        </>
      ) : null}
      {done.map((d, i) => (
        <Figures key={`${done.length - i}`} size={15}>
          {d}
        </Figures>
      ))}
    </Sheet>
  );
}
