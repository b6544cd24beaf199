import type { Mode, Placement, Provision } from '../shipping/facts';

/** What a consignment under a provision carries, in the order of the work. From memory: ICAO TI, ADR/RID, IMDG, 49 CFR. */
export interface Carry {
  readonly packaging: readonly string[];
  readonly marks: readonly string[];
  readonly papers: readonly string[];
  /** Who must be trained. */
  readonly trained: string;
}

const COVER = 'contacts covered, packs kept apart and still';
const DROP = 'strong outer packaging that stands a 1.2 m drop';
const STACK = 'and 3 m of stacking for 24 hours';
const PG2 = 'UN packaging of packing group II';
const STILL = 'strong outer packaging, the machine switched off and kept from switching on';
const NINE = 'class 9A label, 100 x 100 mm, UN number and name';
const CAO = 'cargo-aircraft label, 120 x 110 mm';
const MARK = 'battery mark with the UN number, 100 x 100 mm (100 x 70 where the package is small), hatching at least 5 mm';
const DECLARATION = 'shipper’s declaration';
const AIR_FULL = 'signed by a person trained in the air rules within 24 months';
const AIR_LIGHT = 'instructed people; the operator may ask for more';
const ROAD_FULL = 'people trained under ADR 1.3';
const US_FULL = 'people trained under 49 CFR 172.704 within 3 years';

/** Fitted machines are packed by their own strength; everything else is covered and dropped. */
const light = (p: Placement) => (p === 'in-equipment' ? [STILL] : [COVER, DROP]);

const air = (p: Placement, full: boolean, loose: boolean): Carry => ({
  packaging: full
    ? p === 'in-equipment'
      ? [STILL]
      : [COVER, PG2]
    : p === 'in-equipment'
      ? [STILL]
      : [COVER, `${DROP} ${STACK}`],
  marks: loose ? [NINE, CAO, ...(full ? [] : [MARK])] : full ? [NINE] : [MARK],
  papers: full || loose ? [DECLARATION] : ['statement of compliance on the air waybill'],
  trained: full || loose ? AIR_FULL : AIR_LIGHT,
});

const WASTE = 'mark LITHIUM BATTERIES FOR RECYCLING or LITHIUM BATTERIES FOR DISPOSAL';
const DAMAGED = 'mark DAMAGED/DEFECTIVE LITHIUM-ION BATTERIES';

/** Everything a provision asks for, or null where nothing may go or nothing is asked. */
export function carryOf(provision: Provision | null, placement: Placement, mode: Mode, marked: boolean): Carry | null {
  const paper = mode === 'sea' ? 'dangerous goods declaration (EmS F-A, S-I)' : 'transport document';
  const mark = marked ? [MARK] : [];
  switch (provision) {
    case 'PI965-IA':
    case 'PI968-IA':
      return air(placement, true, true);
    case 'PI965-IB':
    case 'PI968-IB':
      return air(placement, false, true);
    case 'PI966-I':
    case 'PI967-I':
    case 'PI969-I':
    case 'PI970-I':
      return air(placement, true, false);
    case 'PI966-II':
    case 'PI967-II':
    case 'PI969-II':
    case 'PI970-II':
      return { ...air(placement, false, false), marks: mark };
    case 'SP188':
      return { packaging: light(placement), marks: mark, papers: [], trained: 'instructed people' };
    case 'P903':
      return {
        packaging: placement === 'in-equipment' ? [STILL] : [COVER, PG2],
        marks: [NINE],
        papers: [paper],
        trained: ROAD_FULL,
      };
    case 'SP376-P908':
      return {
        packaging: [
          'each pack in an inner packaging of its own, inner or outer leakproof',
          'non-combustible, non-conductive insulation round it; absorbent if it leaks; a vent where it is sealed',
          `${PG2}; over 30 kg net one pack in each outer packaging`,
        ],
        marks: [DAMAGED, NINE],
        papers: [paper],
        trained: ROAD_FULL,
      };
    case 'SP377-P909':
      return {
        packaging: [COVER, 'small ones: strong outer packaging up to 30 kg gross; else UN packaging of packing group II'],
        marks: [WASTE, NINE],
        papers: [paper],
        trained: ROAD_FULL,
      };
    case 'SP636':
    case 'SP670b':
      return {
        packaging: [COVER, 'strong outer packaging up to 30 kg gross'],
        marks: [WASTE],
        papers: ['quality system of the collection that keeps a vehicle at 333 kg'],
        trained: 'instructed people',
      };
    case '173.185(b)':
      return {
        packaging: placement === 'in-equipment' ? [STILL] : [COVER, PG2],
        marks: [NINE],
        papers: ['shipping paper'],
        trained: US_FULL,
      };
    case '173.185(c)':
      return {
        packaging: light(placement),
        marks: [
          ...mark,
          ...(placement === 'loose' ? ['LITHIUM ION BATTERIES—FORBIDDEN FOR TRANSPORT ABOARD PASSENGER AIRCRAFT'] : []),
        ],
        papers: [],
        trained: 'instructed people',
      };
    case '173.185(c)(1)(iv)':
      return {
        packaging: light(placement),
        marks: [...mark, 'LITHIUM BATTERIES—FORBIDDEN FOR TRANSPORT ABOARD AIRCRAFT AND VESSEL'],
        papers: [],
        trained: 'instructed people',
      };
    case '173.185(d)':
      return {
        packaging: [COVER, 'strong outer packaging'],
        marks: marked ? [MARK] : [NINE],
        papers: marked ? [] : ['shipping paper'],
        trained: US_FULL,
      };
    case '173.185(f)':
      return {
        packaging: [
          'the pack in a non-metallic inner packaging of its own that encloses it',
          'cushioning that is non-combustible, non-conductive and absorbs',
          'one pack in each outer packaging of packing group I: metal, wood or plastic, no fibreboard',
        ],
        marks: ['Damaged/defective lithium ion battery, letters of 12 mm', NINE],
        papers: ['shipping paper'],
        trained: US_FULL,
      };
    default:
      return null;
  }
}
