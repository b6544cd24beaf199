import { type Certainty, type Rule, asRule, Rulebook } from '../rules/rule';
import { OWN_WAY_RULES } from './rules-own';
import { SEA_RULES } from './rules-sea';
import { US_RULES } from './rules-us';

const OWN = 'our own rule, no source';
const AIR = 'ICAO TI / IATA DGR';
const air = (year: number) => [`${year}-01-01`, `${year}-12-31`, `${AIR} ${year}`] as const;
const ADR = ['2025-01-01', '2027-06-30', 'ADR/RID 2025'] as const;

/**
 * The air rules of one year. The figures are net kg of batteries per package.
 * @param changed figures that the year's edition changed, by rule; an edition that only goes on needs none.
 */
// prettier-ignore
export function airEdition(year: number, changed: Readonly<Record<string, Record<string, number>>> = {}): Rule[] {
  const dates = air(year);
  const r = (id: string, title: string, source: string, c: Certainty, figures: Record<string, number> = {}) =>
    asRule(id, title, `${source} (${AIR} ${year})`, c, ...dates, changed[id] ?? figures);
  return [
    r('air.edition', `air edition ${year} is held`, 'edition', 'H'),
    r('air.965-IA', 'loose, large or more than 10 kg: cargo aircraft only, fully regulated', 'PI 965 Section IA', 'H', { cargoKg: 35 }),
    r('air.965-IB', 'loose, small, up to 10 kg: cargo aircraft only', 'PI 965 Section IB', 'H', { cargoKg: 10 }),
    r('air.965-passenger', 'loose packs do not fly on passenger aircraft', 'PI 965', 'H'),
    r('air.966-I', 'packed with equipment, large or more than 5 kg; over 5 kg the cargo-aircraft label too', 'PI 966 Section I', 'H', { passengerKg: 5, cargoKg: 35, cargoLabelKg: 5 }),
    r('air.966-II', 'packed with equipment, small, up to 5 kg', 'PI 966 Section II', 'H', { kg: 5 }),
    r('air.966-count', 'no more than the equipment needs plus two spare sets, fitted packs counted', 'PI 966', 'M', { sets: 3 }),
    r('air.967-I', 'contained in equipment, large or more than 5 kg; over 5 kg the cargo-aircraft label too', 'PI 967 Section I', 'H', { passengerKg: 5, cargoKg: 35, cargoLabelKg: 5 }),
    r('air.967-II', 'contained in equipment, small, up to 5 kg', 'PI 967 Section II', 'H', { kg: 5 }),
    r('air.967-charge', 'charge of at most 30 % is recommended, not required', 'PI 967', 'M', { percent: 30 }),
    r('air.968-IA', 'lithium metal, loose, large or more than 2.5 kg', 'PI 968 Section IA', 'H', { cargoKg: 35 }),
    r('air.968-IB', 'lithium metal, loose, small: cargo aircraft only', 'PI 968 Section IB', 'H', { cargoKg: 2.5 }),
    r('air.968-passenger', 'loose lithium-metal batteries do not fly on passenger aircraft', 'PI 968', 'H'),
    r('air.969-I', 'lithium metal packed with equipment, large or more than 5 kg; over 5 kg the cargo-aircraft label too', 'PI 969 Section I', 'H', { passengerKg: 5, cargoKg: 35, cargoLabelKg: 5 }),
    r('air.969-count', 'lithium metal: no more than the equipment needs plus two spare sets, fitted ones counted', 'PI 969', 'M', { sets: 3 }),
    r('air.969-II', 'lithium metal packed with equipment, small', 'PI 969 Section II', 'H', { kg: 5 }),
    r('air.970-I', 'lithium metal in equipment, large or more than 5 kg; over 5 kg the cargo-aircraft label too', 'PI 970 Section I', 'H', { passengerKg: 5, cargoKg: 35, cargoLabelKg: 5 }),
    r('air.970-II', 'lithium metal in equipment, small', 'PI 970 Section II', 'H', { kg: 5 }),
    r('air.A154', 'damaged, defective or recalled packs do not fly, in equipment neither', 'special provision A154', 'H'),
    r('air.A183', 'waste and packs for recycling fly only with the approval of the State of Origin and the State of the Operator', 'special provision A183', 'H'),
    r('air.spent', 'worn out, for use: by air it is asked whether it is waste', 'special provision A183, our reading of it', 'M'),
  ];
}

/** Every shipping rule held: air, European road and rail, sea, United States highway and rail. From memory throughout. */
// prettier-ignore
export const SHIPPING_RULES: readonly Rule[] = [
  ...airEdition(2025),
  ...airEdition(2026),
  ...SEA_RULES,
  ...US_RULES,
  ...OWN_WAY_RULES,
  asRule('air.965-charge', 'loose packs fly at no more than 30 % of rated capacity', 'PI 965; over it special provision A331', 'H', '2016-04-01', null, null, { percent: 30 }),
  asRule('air.966-charge', 'packs with equipment fly at no more than 30 % of rated capacity; cells and packs up to 2.7 Wh are exempt', 'PI 966; over it special provision A331', 'M', '2026-01-01', null, null, { percent: 30, exemptWh: 2.7 }),
  asRule('air.966-charge', 'for packs with equipment at most 30 % is advised', 'PI 966', 'M', null, '2025-12-31', null, {}),
  asRule('size.small', 'small: a cell up to 20 Wh, a battery up to 100 Wh, by the declared figures, printed watt-hours first; wear never lowers it', 'SP 188 a, b; PI 965-967; Manual of Tests and Criteria 38.3.2.3', 'H', null, null, null, { cellWh: 20, batteryWh: 100 }),
  asRule('size.metal', 'small: up to 1 g lithium in a cell, 2 g in a battery', 'SP 188; PI 968-970', 'H', null, null, null, { cellG: 1, batteryG: 2 }),
  asRule('size.inner', 'strict reading: the cells inside a battery are tested too', 'SP 188, one reading of it', 'M', null, null, null, { cellWh: 20 }),
  asRule('size.conflict', 'watt-hours and volts times capacity on different sides of a limit: treated as over until settled', 'our reading, no rounding rule in the texts', 'M', null, null, null, {}),
  asRule('size.cell', 'a one-cell pack is a cell; two cells in parallel are a battery', 'Manual of Tests and Criteria 38.3.2.3', 'H', null, null, null, { batteryAboveV: 4.5 }),
  asRule('mark.188', 'watt-hours on the case of batteries made since 2009', 'SP 188', 'H', null, null, null, { sinceYear: 2009 }),
  asRule('mark.348', 'watt-hours on the case of everything made after 2011', 'SP 348', 'H', null, null, null, { afterYear: 2011 }),
  asRule('type-tested', 'only types that passed UN 38.3 travel for use', 'Manual of Tests and Criteria 38.3; SP 188; PI 965-970', 'H', null, null, null, {}),
  asRule('road.edition', 'ADR/RID edition 2025 is held', 'ADR/RID 2025', 'M', ...ADR),
  asRule('road.188', 'small: strong outer packaging, drop 1.2 m unless installed, loose packages up to 30 kg gross', 'SP 188', 'H', ...ADR, { grossKg: 30 }),
  asRule('road.903', 'large: fully regulated, packing group II packaging, class 9A label, transport document', 'P903', 'H', ...ADR),
  asRule('road.376', 'damaged: each pack in its own inner packaging, non-combustible fill, marked, class 9A, document', 'SP 376, P908', 'H', ...ADR, { netKg: 30 }),
  asRule('road.377', 'for recycling or disposal: P909, class 9A, document; no type test needed', 'SP 377, P909', 'H', ...ADR, { grossKg: 30 }),
  asRule('road.636', 'collection up to the intermediate facility: small packs up to 500 g, 333 kg a vehicle', 'SP 636', 'M', ...ADR, { massKg: 0.5, netKg: 333 }),
  asRule('road.670a', 'equipment whose battery is not its main power, household collection: exempt', 'SP 670 (a)', 'M', ...ADR),
  asRule('road.670b', 'household equipment in a collection scheme: light P909', 'SP 670 (b)', 'M', ...ADR, { netKg: 333 }),
  asRule('mark.battery', 'battery mark on every package; waived only for packs in equipment: button cells, or up to 4 cells or 2 batteries a package and 2 packages a consignment', 'SP 188 f; PI 966, 967', 'H', null, null, null, { cells: 4, batteries: 2, packages: 2 }),
  asRule('with.mixed', 'fitted and loose packs in one package count as packed with equipment', 'SP 390', 'M', null, null, null, {}),
  asRule('recelled', 'rebuilt with other cells is a new type: hold for use until the builder’s test report', 'Manual of Tests and Criteria 38.3', 'M', null, null, null, {}),
  asRule('contradiction', 'facts that cannot all be true: hold until one of them is settled', OWN, 'H', null, null, null, {}),
  asRule('critical', 'critical packs do not travel', OWN, 'H', null, null, null, {}),
  asRule('incident', 'was in an incident that is not over: hold until two people declare it over', OWN, 'H', null, null, null, {}),
  asRule('unknown', 'nobody has looked: hold until the pack is examined', OWN, 'H', null, null, null, {}),
  asRule('not-dangerous', 'no lithium battery: not dangerous goods under these rules', 'UN Model Regulations', 'H', null, null, null, {}),
  asRule('ni-mh', 'nickel-metal hydride: not subject by road and rail; by air protected against short circuit, no other provisions', 'special provision A199; UN 3496 is a name of sea transport only', 'M', null, null, null, {}),
  asRule('ni-mh.damaged', 'damaged nickel-metal hydride: hold by air, isolate elsewhere', OWN, 'H', null, null, null, {}),
  asRule('region.unheld', 'no rules of road and rail are held for this country: hold, look them up', OWN, 'H', null, null, null, {}),
  asRule('no-edition', 'no edition held for this day and mode: hold', OWN, 'H', null, null, null, {}),
  asRule('mass-bound', 'a pack not weighed is taken as at most 1 kg for each 100 Wh', 'common practice, no source: packs hold 150 Wh/kg and more', 'M', null, null, null, { whPerKg: 100 }),
];

export const SHIPPING = new Rulebook(SHIPPING_RULES);
