import { factWords } from '../coherence/fact-words';
import { boxServes } from '../dispatch/packaging';
import { carryOf, type Carry } from '../dispatch/carry';
import { carryTogether, heaviestOf } from '../dispatch/together';
import type { SentPackage } from '../logbook/entry';
import type { CarrierFacts } from '../logbook/fold-consignment';
import { classify, type Classified } from '../shipping/classify';
import { type Provision, type Route, SEVERITY } from '../shipping/facts';
import { SHIPPING } from '../shipping/rulebook';
import { packagesOf } from '../plan/in-package';
import { companyOf } from '../plan/ways';
import { carrierRefuses } from './carrier';
import type { Means, Sending } from './send';

/** One package as it really is, ruled on. */
export interface RuledPackage {
  readonly netKg: { readonly lo: number; readonly hi: number };
  /** Known where every pack's weight is, and the box. */
  readonly grossKg: number | null;
  /** The worst of every pack in it. */
  readonly result: Classified;
  readonly lawful: boolean;
  /** What speaks against it, in words; empty where it may go as it is. */
  readonly why: readonly string[];
  /** Each UN number in it with its mass, kg; the rules ask for each on marks and papers. */
  readonly goods: readonly { readonly un: string; readonly netKg: number }[];
  /** Packs of several provisions lie in it: under which the whole goes. */
  readonly together: Provision | null;
  readonly carry: Carry | null;
}

/** How a package is asked about. */
export interface PackageQuestion {
  readonly packs: readonly Sending[];
  readonly box: Means['boxes'][number] | null;
  /** As weighed, closed, kg. */
  readonly weighedKg?: number;
  /** Every one of them must let it go; the first says what it carries. */
  readonly routes: readonly Route[];
  /** In the consignment. */
  readonly packages: number;
  readonly carrier: CarrierFacts | null;
}

const sum = (all: readonly number[]): number => Math.round(all.reduce((a, b) => a + b, 0) * 1e6) / 1e6;
const worst = (all: readonly Classified[]): Classified =>
  all.reduce((a, b) => (SEVERITY[b.outcome] > SEVERITY[a.outcome] ? b : a));

/** UN numbers of what lies in a package, each with its mass, kg. */
function goodsOf(answers: readonly { readonly p: Sending; readonly c: Classified }[]): RuledPackage['goods'] {
  const uns = [...new Set(answers.flatMap((a) => a.c.un ?? []))].sort();
  return uns.map((un) => ({ un, netKg: sum(answers.filter((a) => a.c.un === un).map((a) => a.p.kg?.hi ?? 0)) }));
}

/** The answer of a package with several kinds of packs: the heaviest provision's, with every rule, note and mark of the others. */
function asHeaviest(provision: Provision, all: readonly { readonly c: Classified }[]): Classified {
  const heavy = worst(all.filter((a) => a.c.provision === provision).map((a) => a.c));
  const outcome = worst(all.map((a) => a.c));
  if (outcome.outcome !== heavy.outcome) return outcome;
  return {
    ...heavy,
    batteryMark: all.some((a) => a.c.batteryMark === true) || heavy.batteryMark,
    rules: [...new Set([...heavy.rules, ...all.flatMap((a) => a.c.rules)])],
    notes: [...new Set([...heavy.notes, ...all.flatMap((a) => a.c.notes)])],
  };
}

/** What speaks against one outcome. */
function whyOf(c: Classified, tag: string): string[] {
  if (c.outcome === 'allowed') return [];
  if (c.missing.length > 0) return [`${tag}: not known yet: ${c.missing.map(factWords).join(', ')}`];
  return [`${tag}: ${c.outcome}${c.notes[0] ? `, ${c.notes[0]}` : ''}`];
}

/**
 * Rules on one package pack by pack with its real figures, by the same rules as a pack alone. An empty one may go nowhere: there is nothing in it.
 * One whose weight nobody knows keeps the package here.
 */
export function rulePacked({ packs, box, weighedKg, routes, packages, carrier }: PackageQuestion): RuledPackage {
  const netKg = { lo: sum(packs.map((p) => p.kg?.lo ?? 0)), hi: sum(packs.map((p) => p.kg?.hi ?? 0)) };
  const known = packs.every((p) => p.kg !== null);
  const grossKg = weighedKg ?? (known && box ? sum([netKg.hi, box.tareKg]) : null);
  const mixed = packs.length > 1;
  const answers = routes.flatMap((route) =>
    packs.map((p) => {
      const heaviest = Math.max(grossKg ?? 0, netKg.hi + 0.001);
      const asked = { packs: packs.length, netKg: netKg.hi, grossKg: heaviest, packages, mixed };
      return { p, route, c: packagesOf(p.shipping, route)(asked) };
    }),
  );
  if (answers.length === 0) {
    const nothing = classify({}, routes[0]!);
    return {
      netKg,
      grossKg,
      result: nothing,
      lawful: false,
      why: ['nothing lies in it'],
      goods: [],
      together: null,
      carry: null,
    };
  }
  const leading = answers.filter((a) => a.route === routes[0]);
  const result = worst(answers.map((a) => a.c));
  const provisions = [...new Set(leading.flatMap((a) => a.c.provision ?? []))];
  const goods = goodsOf(leading);
  // Several UN numbers lie together under one provision only, where each of them is marked and named.
  const under = provisions.length > 1 && goods.length > 1 ? null : heaviestOf(provisions);
  const together = provisions.length > 1 ? under : null;
  const companies = new Set(leading.map((a) => companyOf(a.c.condition)));
  const refusals = carrier
    ? answers.map(({ p, c, route }) => carrierRefuses(carrier, p.shipping, c, route.mode ?? 'road')).filter((w) => w !== '')
    : [];
  const why = [
    ...answers.flatMap(({ p, c }) => whyOf(c, p.tag)),
    ...(known ? [] : packs.filter((p) => p.kg === null).map((p) => `${p.tag}: no weight known`)),
    ...(companies.size > 1 ? ['a damaged pack lies beside others'] : []),
    ...(provisions.length > 1 && together === null ? [`two provisions in one package: ${provisions.join(', ')}`] : []),
    ...(box && packs.some((p) => !boxServes(box, under ?? provisions[0] ?? null, p.shipping.placement))
      ? [`${box.name} has no UN mark`]
      : []),
    ...(box && grossKg !== null && grossKg > box.maxGrossKg + 1e-9
      ? [`over ${box.maxGrossKg} kg, the most ${box.name} may weigh`]
      : []),
    ...(carrier?.maxGrossKg !== undefined && grossKg !== null && grossKg > carrier.maxGrossKg + 1e-9
      ? [`over ${carrier.maxGrossKg} kg, the most ${carrier.name} takes`]
      : []),
    ...refusals,
  ];
  const lead = under === null ? worst(leading.map((a) => a.c)) : asHeaviest(under, leading);
  const carryAs = (c: Classified) =>
    carryOf(c, { placement: packs[0]!.shipping.placement ?? 'loose', mode: routes[0]!.mode ?? 'road' });
  const own = carryAs(lead);
  const carry =
    own && under !== null
      ? carryTogether(
          own,
          leading.flatMap((a) => carryAs(a.c) ?? []),
        )
      : own;
  return {
    netKg,
    grossKg,
    result: lead.outcome === result.outcome ? lead : result,
    lawful: why.length === 0,
    why: [...new Set(why)],
    goods,
    together,
    carry,
  };
}

/** A ruled package as it is written down when it leaves: with every rule that decided something, and its edition. */
export function sentPackage(id: string, q: PackageQuestion, ruled: RuledPackage): SentPackage {
  const on = q.routes[0]!.on;
  const { result, grossKg, netKg, goods } = ruled;
  return {
    id,
    packs: q.packs.map((p) => p.id),
    ...(q.box && { box: q.box.id }),
    netKg: netKg.hi,
    ...(grossKg !== null && { grossKg }),
    ...(result.un !== null && { un: result.un }),
    ...(goods.length > 1 && { goods }),
    ...(result.provision !== null && { provision: result.provision }),
    rules: result.rules.map((rule) => {
      const { edition } = SHIPPING.shown(rule, on);
      return { rule, ...(edition !== null && { edition }) };
    }),
  };
}
