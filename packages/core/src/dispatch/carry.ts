import type { Classified } from '../shipping/classify';
import type { Mode, Placement } from '../shipping/facts';

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
export const NINE = 'class 9A label, 100 x 100 mm, UN number and name';
const CAO = 'cargo-aircraft label, 120 x 110 mm';
const MARK = 'battery mark with the UN number, 100 x 100 mm (100 x 70 where the package is small), hatching at least 5 mm';
const DECLARATION = 'shipper’s declaration';
const AIR_FULL = 'signed by a person trained in the air rules within 24 months';
const AIR_LIGHT = 'instructed people; the operator may ask for more';
const US_FULL = 'people trained under 49 CFR 172.704 within 3 years';
const WASTE = 'mark LITHIUM BATTERIES FOR RECYCLING or LITHIUM BATTERIES FOR DISPOSAL';

/** How it travels: what the steps depend on besides the provision. */
interface Carried {
  readonly placement: Placement;
  readonly mode: Mode;
  /** Lithium metal, whose words differ. */
  readonly metal: boolean;
}

/** Fitted machines are packed by their own strength; everything else is covered and dropped. */
const light = (p: Placement) => (p === 'in-equipment' ? [STILL] : [COVER, DROP]);

function air({ placement: p, mode }: Carried, full: boolean, loose: boolean, marked: boolean): Carry {
  const packed = p === 'in-equipment' ? [STILL] : [COVER, full ? PG2 : `${DROP} ${STACK}`];
  // Loose ones fly on cargo aircraft only; with or in equipment the label comes with the weight.
  const label = loose ? [CAO] : full && mode === 'air-cargo' ? [`over 5 kg of packs in it: ${CAO}`] : [];
  return {
    packaging: packed,
    marks: loose ? [NINE, ...label, ...(full ? [] : [MARK])] : full ? [NINE, ...label] : marked ? [MARK] : [],
    // Where no mark is asked, the waybill says nothing.
    papers: full || loose ? [DECLARATION] : marked ? ['statement of compliance on the air waybill'] : [],
    trained: full || loose ? AIR_FULL : AIR_LIGHT,
  };
}

const PAPER: Partial<Record<Mode, string>> = { sea: 'dangerous goods declaration (EmS F-A, S-I)' };
const TRAINED: Partial<Record<Mode, string>> = { sea: 'people trained under IMDG 1.3', rail: 'people trained under RID 1.3' };

/** European road and rail, and sea. */
function land(provision: string, { placement, mode, metal }: Carried, marked: boolean): Carry | null {
  const paper = PAPER[mode] ?? 'transport document';
  const trained = TRAINED[mode] ?? 'people trained under ADR 1.3';
  const fitted = placement === 'in-equipment';
  switch (provision) {
    case 'SP188':
      return { packaging: light(placement), marks: marked ? [MARK] : [], papers: [], trained: 'instructed people' };
    case 'P903':
      return { packaging: fitted ? [STILL] : [COVER, PG2], marks: [NINE], papers: [paper], trained };
    case 'SP376-P908':
      return {
        packaging: [
          'each pack in an inner packaging of its own, inner or outer leakproof',
          'non-combustible, non-conductive insulation round it; absorbent if it leaks; a vent where it is sealed',
          `${PG2}; over 30 kg net one pack in each outer packaging`,
        ],
        marks: [`mark DAMAGED/DEFECTIVE ${metal ? 'LITHIUM METAL' : 'LITHIUM-ION'} BATTERIES`, NINE],
        papers: [`${paper}, which also says "Transport in accordance with special provision 376"`],
        trained,
      };
    case 'SP377-P909':
      return {
        packaging: fitted
          ? ['strong outer packaging, or equal protection by the equipment itself; no weight limit']
          : [COVER, 'small ones: strong outer packaging up to 30 kg gross; else UN packaging of packing group II'],
        marks: [WASTE, NINE],
        papers: [paper],
        trained,
      };
    case 'SP636':
    case 'SP670b':
      return {
        packaging: [...(fitted ? [] : [COVER]), 'strong outer packaging up to 30 kg gross'],
        marks: [WASTE],
        papers: ['quality system of the collection that keeps a vehicle at 333 kg'],
        trained: 'instructed people',
      };
    default:
      return null;
  }
}

/** The texts of (c) and (c)(1)(iv) besides the battery mark. */
function usTexts(middle: boolean, { placement, metal }: Carried): string[] {
  if (middle) return ['text LITHIUM BATTERIES—FORBIDDEN FOR TRANSPORT ABOARD AIRCRAFT AND VESSEL'];
  const words = `text LITHIUM ${metal ? 'METAL' : 'ION'} BATTERIES—FORBIDDEN FOR TRANSPORT ABOARD PASSENGER AIRCRAFT, or the cargo-aircraft label`;
  return [placement === 'loose' ? words : `over 5 kg of packs in it: ${words}`];
}

/** United States, highway and rail. */
function us(provision: string, to: Carried, marked: boolean, rules: readonly string[]): Carry | null {
  const mark = marked ? [MARK] : [];
  const fitted = to.placement === 'in-equipment';
  const middle = rules.includes('us.c-iv');
  switch (provision) {
    case '173.185(b)':
      return { packaging: fitted ? [STILL] : [COVER, PG2], marks: [NINE], papers: ['shipping paper'], trained: US_FULL };
    case '173.185(c)':
    case '173.185(c)(1)(iv)':
      return {
        packaging: light(to.placement),
        marks: [...mark, ...usTexts(provision === '173.185(c)(1)(iv)', to)],
        papers: [],
        trained: 'instructed people',
      };
    case '173.185(d)': {
      const small = middle || rules.includes('us.c');
      return small
        ? { packaging: light(to.placement), marks: [...mark, ...usTexts(middle, to)], papers: [], trained: 'instructed people' }
        : {
            packaging: [...(fitted ? [] : [COVER]), 'strong outer packaging'],
            marks: [NINE],
            papers: ['shipping paper'],
            trained: US_FULL,
          };
    }
    case '173.185(f)':
      return {
        packaging: [
          'the pack in a non-metallic inner packaging of its own that encloses it',
          'cushioning that is non-combustible, non-conductive and absorbs',
          'one pack in each outer packaging of packing group I: metal, wood or plastic, no fibreboard',
        ],
        marks: [`mark "Damaged/defective lithium ${to.metal ? 'metal' : 'ion'} battery", letters of 12 mm`, NINE],
        papers: ['shipping paper'],
        trained: US_FULL,
      };
    default:
      return null;
  }
}

/** Everything a provision asks for, or null where nothing may go or nothing is asked. */
export function carryOf(
  { provision, batteryMark, rules, un }: Pick<Classified, 'provision' | 'batteryMark' | 'rules' | 'un'>,
  route: { readonly placement: Placement; readonly mode: Mode },
): Carry | null {
  if (provision === null) return null;
  const marked = batteryMark === true;
  const to: Carried = { ...route, metal: un === 'UN 3090' || un === 'UN 3091' };
  const section = /^PI(96[5-9]|970)-(.+)$/.exec(provision);
  if (section) return air(to, section[2] === 'IA' || section[2] === 'I', section[2] === 'IA' || section[2] === 'IB', marked);
  return provision.startsWith('173') ? us(provision, to, marked, rules) : land(provision, to, marked);
}
