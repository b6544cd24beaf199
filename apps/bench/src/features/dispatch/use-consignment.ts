import { localDay } from '@gavrel/core';
import { boxesLeft, type Means } from '@gavrel/core/consignment';
import { useMemo } from 'react';
import { useAppSelector } from '../../state';
import { useMinute, useZone } from '../../state/rulings';
import { consignmentView, type ConsignmentView } from './view';

/** What there is to pack into and to send with. */
export function useMeans(): Means {
  const { boxes, carriers, consignments } = useAppSelector((s) => s.logbook);
  return useMemo(() => {
    const all = Object.values(consignments);
    const named = <T extends { readonly name: string }>(list: readonly T[]) =>
      [...list].sort((a, b) => (a.name < b.name ? -1 : 1));
    return {
      boxes: named(Object.values(boxes)).map((b) => ({ ...b, left: boxesLeft(b, all) })),
      carriers: named(Object.values(carriers)),
    };
  }, [boxes, carriers, consignments]);
}

/** One consignment as it is shown; null where nothing is known of it. */
export function useConsignment(id: string): ConsignmentView | null {
  const { packs, policy } = useAppSelector((s) => s.logbook);
  const facts = useAppSelector((s) => s.logbook.consignments[id]);
  const region = useAppSelector((s) => s.view.region);
  const means = useMeans();
  const zone = useZone();
  const minute = useMinute();
  const today = localDay(zone, new Date(minute * 60_000));
  return useMemo(
    () => (facts ? consignmentView({ facts, packs, policy, means, region, zone, today }) : null),
    [facts, packs, policy, means, region, zone, today],
  );
}
