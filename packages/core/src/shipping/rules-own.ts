import { asRule, type Rule } from '../rules/rule';

/** Ways without a carrier. From memory. */
// prettier-ignore
export const OWN_WAY_RULES: readonly Rule[] = [
  asRule('own.vehicle', 'own vehicle, to or from a job: at most 450 l in a packaging and no more than the points of a vehicle; not for supplying others or between own sites', 'ADR/RID 1.1.3.1 (c) with 1.1.3.6', 'M', '2025-01-01', '2027-06-30', 'ADR/RID 2025', { litres: 450, points: 1000 }),
  asRule('own.trade', 'materials of trade, never waste: class 9 up to 30 kg gross in a packaging, 200 kg in a vehicle, the driver told', '49 CFR 173.6 with 171.8', 'M', '2016-01-01', null, '49 CFR as held 2026', { packageKg: 30, vehicleKg: 200 }),
  asRule('own.hand-air', 'on a person or in hand baggage: up to 100 Wh freely, up to 160 Wh with the operator’s approval and no more than two spares; contacts covered, never damaged, recalled or waste', 'ICAO TI part 8; IATA DGR 2.3', 'H', null, null, null, { freeWh: 100, approvalWh: 160, spares: 2 }),
  asRule('own.train', 'in a train or bus as hand baggage: by the operator’s rules, packed as for the road, never damaged', 'common practice, no source', 'M', null, null, null, {}),
  asRule('own.customer', 'a customer brings or fetches: contacts covered, never swollen or wet in a car, no prepaid label for a suspect pack', 'common practice, no source', 'M', null, null, null, {}),
];
