import type { ConsignmentFacts, PackFacts, Placement, PolicyFacts, Region, SentPackage } from '@gavrel/core';
import {
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
import { inNaturalOrder } from '../../state/natural';
import { rulingOf } from '../../state/rulings';

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

/** Are all entries of a pack on this device? */
export const isWhole =
  (packs: Readonly<Record<string, PackFacts>>) =>
  (id: string): boolean =>
    packs[id] !== undefined && packs[id].partial !== true;

/** A pack whose log is not on this device: nothing is known of it, so it is held. */
const unheldSending = (id: string, placement: Placement): Sending => ({
  id,
  tag: 'a pack not on this device',
  shipping: { placement },
  kg: null,
  outline: null,
});

/** What a view is made of. */
export interface ViewSource {
  readonly facts: ConsignmentFacts;
  readonly packs: Readonly<Record<string, PackFacts>>;
  readonly policy: PolicyFacts;
  readonly means: Means;
  /** Whose rules are shown where the consignment says nothing. */
  readonly region: Region;
  readonly zone: string;
  readonly today: string;
}

/** One consignment with everything that follows from it. */
export function consignmentView({ facts, packs, policy, means, region: shown, zone, today }: ViewSource): ConsignmentView {
  const all = Object.values(packs);
  const members = all.filter((f) => f.consignment === facts.id).sort((a, b) => (a.tag < b.tag ? -1 : 1));
  const found = consignmentState(facts, members, isWhole(packs));
  const tagged = (ids: readonly string[]) => [...ids].sort((a, b) => inNaturalOrder(packs[a]?.tag ?? a, packs[b]?.tag ?? b));
  const state = { ...found, packs: tagged(found.packs), unplanned: tagged(found.unplanned) };
  const on = facts.on !== undefined && facts.on >= today ? facts.on : today;
  const region = facts.region ?? shown;
  const outlines = outlinesByCode(all);
  const as = { placement: facts.placement ?? 'loose', purpose: purposeOf(facts.destination) };
  const involved = [...new Set([...state.packs, ...members.map((m) => m.id)])];
  const sendings = new Map(
    involved.map((p): [string, Sending] => {
      const f = packs[p];
      return [p, f ? sendingOf(f, rulingOf(f, policy, zone).shipping, as, outlines) : unheldSending(p, as.placement)];
    }),
  );
  const base = { facts, state, members, sendings, means, region, on, today };
  const packages = state.packages.map((p): PackageView => {
    const question = askedOf(base, p, contentsOf(p), state.packages.length);
    const sent = facts.sent?.packages.find((x) => x.id === p.id) ?? null;
    return { ...p, question, ruled: rulePacked(question), sent };
  });
  return { ...base, packages };
}
