import { normalTag, type PackFacts, taggedId } from '@gavrel/core';
import type { PlaceState } from '@gavrel/core/place';
import { useAppSelector } from '../../state';
import { useActions } from '../../state/context';
import { type Yard, yardIn } from '../../stock/use-yard';

/** What a scanned or typed code is: a pack of ours, a place, or neither. */
export type Scanned = { readonly pack: PackFacts } | { readonly place: PlaceState } | null;

export interface Read {
  readonly found: Scanned;
  /** As it is known now: what was asked for at the server is in it. */
  readonly yard: Yard;
  /** Nobody knows: it is not on this device, and the server does not answer. */
  readonly unanswered: boolean;
}

/** Reads codes; a pack that is not on this device is asked for at the server. */
export function useScanned(yard: Yard): (code: string) => Promise<Read> {
  const actions = useActions();
  const workshop = useAppSelector((s) => s.session.session?.workshop.id ?? '');
  const { places, jobs, policy } = useAppSelector((s) => s.logbook);
  return async (code) => {
    const known = (found: Scanned, now = yard): Read => ({ found, yard: now, unanswered: false });
    if (normalTag(code) === '') return known(null);
    const id = taggedId(workshop, 'pack', code);
    const placeId = taggedId(workshop, 'place', code.trim());
    const pack = yard.facts[id];
    if (pack && pack.partial !== true) return known({ pack });
    const place = yard.places.find((p) => p.place.id === placeId);
    if (place) return known({ place });
    const packs = await actions.packsOnRecord([id]);
    const fetched = packs?.[id] ?? pack;
    if (fetched === undefined) return { found: null, yard, unanswered: packs === null };
    return known({ pack: fetched }, packs ? yardIn({ packs, places, jobs, policy }) : yard);
  };
}
