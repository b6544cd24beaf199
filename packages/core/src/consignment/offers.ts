import { bearsClass9 } from '../dispatch/packaging';
import { waysToYes } from '../dispatch/ways';
import type { Carry } from '../dispatch/carry';
import { canonical } from '../logbook/ids';
import { type Mode, MODES, type Region } from '../logbook/entry';
import type { PlannedBox } from '../logbook/entry-dispatch';
import type { CarrierFacts } from '../logbook/fold-consignment';
import { plan } from '../plan/plan';
import type { Box, PackKind } from '../plan/problem';
import { classify } from '../shipping/classify';
import type { Provision, ShippingFacts } from '../shipping/facts';
import { carrierRefuses, comesOn, routesOf } from './carrier';
import { cents, packagePrice } from './price';
import { rulePacked } from './rule-packed';
import { laidOutline, type Means, plannedFacts, type Sending } from './send';

/** Left between packs, mm, and fill in a box, kg; common practice, no source. */
const GAP_MM = 5;
const FILL_KG = 0.2;

export interface OfferedPackage extends Omit<PlannedBox, 'id'> {
  readonly netKg: number;
  readonly grossKg: number;
  readonly un: string | null;
  readonly provision: Provision | null;
  readonly batteryMark: boolean;
}

/** Packs that stay where they are on this way, and why. */
export interface Staying {
  readonly why: string;
  readonly packs: readonly string[];
  /** The least change that would let them go: a choice or evidence, never a change of what was found. */
  readonly opens: string | null;
}

/** Packs without which the rest goes with less to do. */
export interface Leaving {
  readonly packs: readonly string[];
  /** Less by the carrier's table. */
  readonly saves: number;
  /** Marks, papers and training that the rest does not ask for. */
  readonly spares: readonly string[];
}

/** One way for all of them: by a mode, with a carrier or without. */
export interface Offer {
  readonly mode: Mode;
  readonly carrier: string | null;
  readonly packages: readonly OfferedPackage[];
  readonly stays: readonly Staying[];
  readonly going: number;
  /** Boxes, packages, kilograms and surcharges by the carrier's table. */
  readonly price: number;
  /** No plan needs fewer packages. */
  readonly bound: number;
  readonly proved: boolean;
  /** Union over the packages. */
  readonly carry: Carry;
  /** What else to know: the carrier does not come that day, a contract. */
  readonly remarks: readonly string[];
  /** A smaller part that asks for more than the rest; null where they ask for the same. */
  readonly leaving: Leaving | null;
}

export interface OfferQuestion {
  readonly packs: readonly Sending[];
  readonly means: Means;
  readonly region: Region;
  /** Day of dispatch, and the first day it could be, YYYY-MM-DD. */
  readonly on: string;
  readonly today: string;
}

const unique = <T>(all: readonly T[]): T[] => [...new Set(all)];

/** A way is asked for with a carrier, or with none where none of ours goes that way. */
export function waysToAsk({ means }: Pick<OfferQuestion, 'means'>): { mode: Mode; carrier: CarrierFacts | null }[] {
  const served = means.carriers.filter((c) => c.retired !== true);
  return MODES.flatMap((mode): { mode: Mode; carrier: CarrierFacts | null }[] => {
    const by = served.filter((c) => c.modes.includes(mode));
    return by.length > 0 ? by.map((carrier) => ({ mode, carrier })) : [{ mode, carrier: null }];
  });
}

interface Grouped {
  readonly kind: PackKind;
  readonly packs: readonly Sending[];
}

/** Packs that are alike in all that the rules ask, as kinds; those without weight or size stay. */
function kindsOf(packs: readonly Sending[], routes: ReturnType<typeof routesOf>) {
  const groups = new Map<string, Sending[]>();
  const facts = new Map<string, { facts: PackKind['facts']; outline: PackKind['outline'] }>();
  const unknown: { pack: Sending; why: string }[] = [];
  for (const p of packs) {
    if (p.kg === null || p.outline === null) {
      unknown.push({
        pack: p,
        why:
          p.kg === null ? 'nobody weighed it, and its watt-hours are not known' : 'its length, width or thickness is not known',
      });
      continue;
    }
    const planned = plannedFacts(p, routes[0]!);
    const damaged = classify({ ...planned, package: { packs: 1 } }, routes[0]!).condition === 'damaged';
    const outline = laidOutline(p.outline, damaged);
    const key = canonical({ planned, outline });
    groups.set(key, [...(groups.get(key) ?? []), p]);
    facts.set(key, { facts: planned, outline });
  }
  const kinds = [...groups].map(([key, of], i): Grouped => ({
    kind: { id: String(i), count: of.length, ...facts.get(key)! },
    packs: of,
  }));
  return { kinds, unknown };
}

/** The least change that would let packs like this one go, by every route and with the carrier; null where none is known. */
function opening(
  p: Sending,
  { on, today }: OfferQuestion,
  routes: ReturnType<typeof routesOf>,
  carrier: CarrierFacts | null,
): string | null {
  const facts = { ...p.shipping, package: { packs: 1, ...(p.kg && { netKg: p.kg.hi }) } };
  const goes = (f: ShippingFacts, day = on): boolean =>
    routes.every((r) => {
      const c = classify(f, { ...r, on: day });
      return c.outcome === 'allowed' && (carrier === null || carrierRefuses(carrier, f, c, r.mode ?? 'road') === '');
    });
  const shut = routes.find((r) => classify(facts, r).outcome !== 'allowed');
  if (shut === undefined) return null;
  const comesToday = carrier === null || comesOn(carrier, today);
  if (on > today && comesToday && goes(facts, today)) return `today instead of ${on}`;
  // By another mode is another line of the same table.
  const ways = waysToYes(facts, shut, goes).filter((w) => !/^(by road|on a cargo aircraft|fitted|taken out)/.test(w.words));
  return ways[0]?.words ?? null;
}

/** Packs that stay for one reason, and that one change would open, together: no change is promised for a pack it was not asked for. */
function staying(
  all: readonly { readonly why: string; readonly pack: Sending }[],
  q: OfferQuestion,
  routes: ReturnType<typeof routesOf>,
  carrier: CarrierFacts | null,
): Staying[] {
  const asked = new Map<string, string | null>();
  const groups = new Map<string, { why: string; opens: string | null; packs: string[] }>();
  for (const { why, pack } of all) {
    // Packs of one sort are asked about once.
    const { madeOn: _made, mass: _mass, ...alike } = pack.shipping;
    const sort = canonical({ ...alike, kg: pack.kg && Math.ceil(pack.kg.hi * 10) });
    const opens = asked.has(sort) ? asked.get(sort)! : opening(pack, q, routes, carrier);
    asked.set(sort, opens);
    const key = `${why}|${opens}`;
    const group = groups.get(key) ?? { why, opens, packs: [] };
    group.packs.push(pack.id);
    groups.set(key, group);
  }
  return [...groups.values()];
}

const union = (all: readonly Carry[]): Carry => ({
  packaging: unique(all.flatMap((c) => c.packaging)),
  marks: unique(all.flatMap((c) => c.marks)),
  papers: unique(all.flatMap((c) => c.papers)),
  trained: unique(all.map((c) => c.trained)).join('; '),
});

/** A planned package with what it costs; what it carries is null where no provision says. */
interface PricedPackage {
  readonly packs: readonly string[];
  readonly carry: Carry | null;
  readonly price: number;
}

/** The packages that bear class 9 where most packs go without it: what leaving them out would spare. */
function leavingOf(packages: readonly PricedPackage[]): Leaving | null {
  const heavy = packages.filter((p) => bearsClass9(p.carry));
  const rest = packages.filter((p) => !heavy.includes(p));
  const packs = heavy.flatMap((p) => p.packs);
  if (packs.length === 0 || packs.length >= rest.reduce((n, p) => n + p.packs.length, 0)) return null;
  const asks = (c: Carry | null) => (c ? [...c.marks, ...c.papers, c.trained] : []);
  const kept = new Set(rest.flatMap((p) => asks(p.carry)));
  return {
    packs,
    saves: cents(heavy.reduce((n, p) => n + p.price, 0)),
    spares: unique(heavy.flatMap((p) => asks(p.carry))).filter((x) => !kept.has(x)),
  };
}

/** One way for the packs. */
export function offer(q: OfferQuestion, mode: Mode, carrier: CarrierFacts | null): Offer {
  const routes = routesOf(mode, q.region, q.on, carrier);
  const stays: { why: string; pack: Sending }[] = [];
  const mayGo = q.packs.filter((p) => {
    const alone = rulePacked({ packs: [p], box: null, routes, packages: 1, carrier });
    // A weight or size that is not known is asked for below, in other words.
    if (!alone.lawful && p.kg !== null) stays.push({ pack: p, why: alone.why[0]!.replace(`${p.tag}: `, '') });
    return alone.lawful || p.kg === null;
  });
  const { kinds, unknown } = kindsOf(mayGo, routes);
  stays.push(...unknown);
  const side = (b: Means['boxes'][number]) => Math.max(b.inner.length, b.inner.width, b.inner.height);
  const boxes = q.means.boxes
    .filter((b) => b.retired !== true && b.left > 0 && side(b) <= (carrier?.maxSideMm ?? Infinity))
    .map((b): Box => ({
      id: b.id,
      inner: b.inner,
      tareKg: b.tareKg,
      maxGrossKg: Math.min(b.maxGrossKg, carrier?.maxGrossKg ?? Infinity),
      stock: b.left,
      price: b.price,
      un: b.un,
      kind: b.kind,
    }));
  const price = carrier?.price ?? { perPackage: 0, perKg: 0 };
  const made =
    kinds.length > 0 && boxes.length > 0
      ? plan({ kinds: kinds.map((k) => k.kind), boxes, route: routes[0]!, gapMm: GAP_MM, fillKgPerBox: FILL_KG, price })
      : null;
  const waiting = kinds.map((k) => [...k.packs]);
  if (!made) stays.push(...mayGo.filter((p) => p.kg && p.outline).map((pack) => ({ pack, why: 'no box is in stock' })));
  for (const l of made?.left ?? []) {
    for (const pack of waiting[Number(l.kind)]!.splice(-l.count)) stays.push({ pack, why: l.why });
  }
  const packages: OfferedPackage[] = [];
  const priced: PricedPackage[] = [];
  for (const p of made?.packages ?? []) {
    const packs = Object.entries(p.contents).flatMap(([kind, n]) => waiting[Number(kind)]!.splice(0, n));
    const box = q.means.boxes.find((b) => b.id === p.box)!;
    const ruled = rulePacked({ packs, box, weighedKg: p.grossKg, routes, packages: made!.count, carrier });
    // The ruling of the real package has the last word on the plan.
    if (!ruled.lawful) {
      stays.push(...packs.map((pack) => ({ pack, why: ruled.why[0]! })));
      continue;
    }
    const { carry } = ruled;
    priced.push({ packs: packs.map((x) => x.id), carry, price: packagePrice(box, carrier, { grossKg: p.grossKg, carry }) });
    const { un, provision, batteryMark } = ruled.result;
    packages.push({
      box: p.box,
      packs: packs.map((x) => x.id),
      netKg: p.netKg,
      grossKg: p.grossKg,
      un,
      provision,
      batteryMark: batteryMark === true,
    });
  }
  return {
    mode,
    carrier: carrier?.id ?? null,
    packages,
    stays: staying(stays, q, routes, carrier),
    going: packages.reduce((n, p) => n + p.packs.length, 0),
    price: cents(priced.reduce((n, p) => n + p.price, 0)),
    bound: Math.min(made?.bound.count ?? 0, packages.length),
    proved: made?.proved === true && packages.length === made.count,
    carry: union(priced.flatMap((p) => p.carry ?? [])),
    remarks: [
      ...(carrier && !comesOn(carrier, q.on) ? [`${carrier.name} does not come on ${q.on}`] : []),
      ...(carrier?.cutOff ? [`${carrier.name} takes it until ${carrier.cutOff}`] : []),
      ...(carrier?.contract ? ['a contract for dangerous goods is needed'] : []),
      ...(carrier?.groundFlies && routes.length > 1 ? ['it flies on some legs: the air rules hold too'] : []),
    ],
    leaving: leavingOf(priced),
  };
}

/** The better way first: more packs go, then one with a carrier of ours, then the lower price, then fewer packages. */
export const byWorth = (a: Offer, b: Offer): number =>
  b.going - a.going ||
  Number(a.carrier === null) - Number(b.carrier === null) ||
  a.price - b.price ||
  a.packages.length - b.packages.length;
