import { type Carry, carryOf, NINE } from '../../dispatch/carry';
import { boxServes } from '../../dispatch/packaging';
import { type CellWord, cellWord } from '../../ruling/matrix';
import { classify, type Classified } from '../../shipping/classify';
import { factWords } from '../../coherence/fact-words';
import type { Mode, Placement, Region, ShippingFacts } from '../../shipping/facts';
import { findingOf } from '../../condition/findings';
import { ladder, RANK } from '../../condition/ladder';
import type { Random } from '../random';
import type { Ruled } from '../staged/course';

/** A pack that shall go somewhere, as it truly is. */
export interface TrueShipment {
  readonly facts: ShippingFacts;
  readonly mode: Mode;
  readonly region: Region;
  /** Weight of the pack, kg. */
  readonly kg: number;
}

/** Every session asks for the same day, so that it is the same whenever it is opened again. */
const ON = '2026-11-02';
/** Weight of box and fill, kg. */
const BOX_KG = 0.6;
/** Per cent of rated that is left once it was brought down. */
export const BROUGHT_TO = 28;

/** What was found out of the pack: by which look. */
export const LOOKS = {
  label: ['chemistry', 'series', 'parallel', 'nominalVoltage', 'ratedCapacity', 'ratedEnergy', 'energyMarked', 'madeOn'],
  look: ['findings'],
  summary: ['typeTested'],
  gauge: ['stateOfCharge'],
} as const satisfies Readonly<Record<string, readonly (keyof ShippingFacts)[]>>;
export type ShipmentLook = keyof typeof LOOKS;

/** How it goes is known from the start: somebody asked for it. */
const ASKED: readonly (keyof ShippingFacts)[] = ['placement', 'purpose'];

/** What is known after these looks. */
export function knownOf(s: TrueShipment, done: readonly string[]): ShippingFacts {
  const looks = (Object.keys(LOOKS) as ShipmentLook[]).filter((l) => done.includes(l));
  const fields = [...ASKED, ...looks.flatMap((l): readonly (keyof ShippingFacts)[] => LOOKS[l])];
  const facts = Object.fromEntries(fields.flatMap((f) => (s.facts[f] === undefined ? [] : [[f, s.facts[f]]]))) as ShippingFacts;
  const down = done.includes('down') ? { stateOfCharge: Math.min(s.facts.stateOfCharge ?? 100, BROUGHT_TO) } : {};
  const weighed = done.includes('weigh')
    ? { mass: s.kg, package: { packs: 1, netKg: s.kg, grossKg: s.kg + BOX_KG }, consignment: { packages: 1 } }
    : {};
  return { ...facts, ...down, ...weighed };
}

/** What the rules of the workshop say of it. */
export const classified = (s: TrueShipment, done: readonly string[]): Classified =>
  classify(knownOf(s, done), { mode: s.mode, region: s.region, on: ON });

export function ruledBy(s: TrueShipment, done: readonly string[]): Ruled<CellWord> {
  const c = classified(s, done);
  const missing = c.missing.length > 0 ? [`not known yet: ${c.missing.map(factWords).join(', ')}`] : [];
  return { word: cellWord(c), reasons: [...missing, ...c.notes] };
}

/** What has to be done to it before it leaves, as the steps of its provision say. */
export interface Asked {
  readonly tape: boolean;
  readonly inner: boolean;
  readonly un: boolean;
  readonly marks: readonly ShipmentMark[];
  readonly paper: boolean;
}

export const MARKS = ['battery-mark', 'class9', 'damaged-mark', 'recycling-mark', 'cargo-only'] as const;
export type ShipmentMark = (typeof MARKS)[number];

/** What a mark of the steps is called here; a mark that only more weight asks for is none. */
const IS: Readonly<Record<ShipmentMark, (mark: string) => boolean>> = {
  'battery-mark': (m) => m.startsWith('battery mark'),
  class9: (m) => m === NINE,
  'damaged-mark': (m) => /DAMAGED/.test(m),
  'recycling-mark': (m) => /FOR RECYCLING/.test(m),
  'cargo-only': (m) => m.startsWith('cargo-aircraft label'),
};

export function askedOf(s: TrueShipment, done: readonly string[]): Asked {
  const c = classified(s, done);
  const placement: Placement = s.facts.placement ?? 'loose';
  const carry: Carry | null = carryOf(c, { placement, mode: s.mode });
  const packaging = carry?.packaging ?? [];
  return {
    tape: packaging.some((p) => /contacts covered/.test(p)) || c.condition === 'damaged',
    inner: packaging.some((p) => /inner packaging of its own/.test(p)),
    un: !boxServes({ un: false, kind: 'fibreboard' }, c.provision, placement),
    marks: MARKS.filter((m) => carry?.marks.some(IS[m])),
    paper: (carry?.papers.length ?? 0) > 0,
  };
}

/** What matters of it, in words. */
export function truthOf({ facts, kg }: TrueShipment): string[] {
  const found = (facts.findings ?? []).map((code) => findingOf(code)?.words ?? code);
  return [
    ...found,
    ...(facts.typeTested === 'yes' ? [] : ['nobody has its test summary']),
    ...(facts.ratedEnergy === undefined ? [] : [`${facts.ratedEnergy} Wh`]),
    ...(facts.stateOfCharge === undefined ? [] : [`${facts.stateOfCharge} % charged`]),
    `${kg} kg`,
  ];
}

/** Is it hurt: then it is neither charged nor discharged. */
export const hurtPack = ({ facts }: TrueShipment): boolean =>
  RANK[ladder({ findings: facts.findings ?? [], conditionKnown: true }).condition] >= RANK.damaged;

/** A pack with nothing odd about it, and everything on record. */
export const ORDINARY: ShippingFacts = {
  chemistry: 'li-ion',
  series: 3,
  parallel: 1,
  nominalVoltage: 11.4,
  ratedCapacity: 4.1,
  ratedEnergy: 46.74,
  energyMarked: true,
  madeOn: '2024-03',
  typeTested: 'yes',
  findings: [],
  stateOfCharge: 26,
  placement: 'loose',
  purpose: 'use',
};
/** The same with twice the cells: over 100 Wh. */
export const LARGE: ShippingFacts = {
  ...ORDINARY,
  series: 4,
  parallel: 2,
  nominalVoltage: 14.4,
  ratedCapacity: 8.6,
  ratedEnergy: 123.84,
};

const ODD: readonly Partial<ShippingFacts>[] = [
  { findings: ['swollen'] },
  { findings: ['cell-dented'] },
  { findings: ['smell'] },
  { typeTested: 'unknown' },
  { stateOfCharge: 64 },
  { purpose: 'recycling' },
  { findings: ['swollen'], purpose: 'recycling' },
];
const MODES_PRACTISED = ['road', 'road', 'air-cargo', 'air-passenger', 'sea'] as const;
const SHARE_ODD = 0.6;

/** A pack nobody wrote a story for. */
export function shipmentOf(r: Random): TrueShipment {
  const facts = r.chance(0.3) ? LARGE : ORDINARY;
  const odd = r.chance(SHARE_ODD) ? r.pick(ODD) : {};
  const placement = r.pick(['loose', 'loose', 'in-equipment'] as const);
  return {
    facts: { ...facts, placement, ...odd },
    mode: r.pick(MODES_PRACTISED),
    region: 'eu',
    kg: facts === LARGE ? 0.62 : 0.24,
  };
}
