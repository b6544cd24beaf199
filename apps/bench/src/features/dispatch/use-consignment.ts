import { type ConsignmentFacts, localDay, type PackFacts, type Region, type SentPackage } from '@gavrel/core';
import {
  boxesLeft,
  consignmentState,
  type ConsignmentState,
  type Means,
  outlinesByCode,
  type PackageQuestion,
  type PackageState,
  purposeOf,
  routesOf,
  rulePacked,
  type RuledPackage,
  type Sending,
  sendingOf,
} from '@gavrel/core/consignment';
import { useMemo } from 'react';
import { useAppSelector } from '../../state';
import { rulingOf, useMinute, useZone } from '../../state/rulings';

/** Made once: making it takes longer than sorting by it. */
const TAGS = new Intl.Collator('en', { numeric: true });

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

/** A package with its ruling: by what lies in it once it is closed, by what is to lie in it before. */
export interface PackageView extends PackageState {
  readonly question: PackageQuestion;
  readonly ruled: RuledPackage;
  /** As it left: that stands, whatever is known or ruled later. */
  readonly sent: SentPackage | null;
}

export interface ConsignmentView {
  readonly facts: ConsignmentFacts;
  readonly state: ConsignmentState;
  readonly members: readonly PackFacts[];
  /** Every pack that is in it or left with it, by id. */
  readonly sendings: ReadonlyMap<string, Sending>;
  readonly packages: readonly PackageView[];
  readonly means: Means;
  readonly region: Region;
  /** The day the rules are asked for: the day of dispatch, today where that is over or not said. */
  readonly on: string;
  readonly today: string;
}

/** The question of one package, with other contents where those are given. */
export const askedOf = (
  v: Pick<ConsignmentView, 'facts' | 'sendings' | 'means' | 'region' | 'on'>,
  p: Pick<PackageState, 'box' | 'closed'>,
  packs: readonly string[],
  packages: number,
): PackageQuestion => {
  const carrier = v.means.carriers.find((c) => c.id === v.facts.carrier) ?? null;
  const weighed = p.closed?.weighed;
  return {
    packs: packs.flatMap((id) => v.sendings.get(id) ?? []),
    box: v.means.boxes.find((b) => b.id === p.box) ?? null,
    ...(weighed && { weighedKg: Number(weighed.digits) * (weighed.unit === 'g' ? 0.001 : 1) }),
    routes: routesOf(v.facts.mode ?? 'road', v.region, v.on, carrier),
    packages,
    carrier,
  };
};

/** What lies, or is to lie, in a package. */
export const contentsOf = (p: PackageState): readonly string[] =>
  p.closed ? p.packed : [...new Set([...p.packed, ...p.planned])];

/** One consignment with everything that follows from it; null where nothing is known of it. */
export function useConsignment(id: string): ConsignmentView | null {
  const { packs, policy } = useAppSelector((s) => s.logbook);
  const facts = useAppSelector((s) => s.logbook.consignments[id]);
  const shown = useAppSelector((s) => s.view.region);
  const means = useMeans();
  const zone = useZone();
  const minute = useMinute();
  const today = localDay(zone, new Date(minute * 60_000));
  return useMemo(() => {
    if (!facts) return null;
    const all = Object.values(packs);
    const members = all.filter((f) => f.consignment === id).sort((a, b) => (a.tag < b.tag ? -1 : 1));
    const found = consignmentState(facts, members);
    const tagged = (ids: readonly string[]) => [...ids].sort((a, b) => TAGS.compare(packs[a]?.tag ?? a, packs[b]?.tag ?? b));
    const state = { ...found, packs: tagged(found.packs), unplanned: tagged(found.unplanned) };
    const on = facts.on !== undefined && facts.on >= today ? facts.on : today;
    const region = facts.region ?? shown;
    const outlines = outlinesByCode(all);
    const as = { placement: facts.placement ?? 'loose', purpose: purposeOf(facts.destination) };
    const involved = [...new Set([...state.packs, ...members.map((m) => m.id)])];
    const sendings = new Map(
      involved.flatMap((p): [string, Sending][] => {
        const f = packs[p];
        return f ? [[p, sendingOf(f, rulingOf(f, policy, zone).shipping, as, outlines)]] : [];
      }),
    );
    const base = { facts, state, members, sendings, means, region, on, today };
    const packages = state.packages.map((p): PackageView => {
      const question = askedOf(base, p, contentsOf(p), state.packages.length);
      const sent = facts.sent?.packages.find((x) => x.id === p.id) ?? null;
      return { ...p, question, ruled: rulePacked(question), sent };
    });
    return { ...base, packages };
  }, [facts, packs, policy, means, shown, zone, today, id]);
}
