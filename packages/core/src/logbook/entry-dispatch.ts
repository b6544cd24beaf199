import type { Figure } from '../quantity/figure';

export const MODES = ['road', 'rail', 'sea', 'air-cargo', 'air-passenger'] as const;
export type Mode = (typeof MODES)[number];
export const PLACEMENTS = ['loose', 'with-equipment', 'in-equipment'] as const;
export type Placement = (typeof PLACEMENTS)[number];
/** Whose rules hold there is said in `shipping/regions.ts`. */
export const REGIONS = ['us', 'eu', 'uk', 'ch', 'ca', 'international'] as const;
export type Region = (typeof REGIONS)[number];

/** Where packs go, and what for. */
export const DESTINATIONS = ['customer', 'branch', 'seller', 'recall', 'recycler', 'disposal'] as const;
export type Destination = (typeof DESTINATIONS)[number];

/** Length, width and height, mm. */
export interface Outline {
  readonly length: number;
  readonly width: number;
  readonly height: number;
}

/** What is said of a consignment; the last word on each counts. */
export interface ConsignmentDescription {
  readonly name?: string;
  readonly destination?: Destination;
  /** Their name and address lie beside the log. */
  readonly addressee?: string;
  readonly mode?: Mode;
  readonly region?: Region;
  readonly placement?: Placement;
  /** Day of dispatch, YYYY-MM-DD. */
  readonly on?: string;
  /** A carrier of ours, by id; null where it goes with none of them. */
  readonly carrier?: string | null;
  /** Waste: permit of who takes it, whether it crosses a border, and the number of the notification for that. */
  readonly permit?: string;
  readonly crossesBorder?: boolean;
  readonly notification?: string;
}

/** One package of a plan: which packs lie in which box. */
export interface PlannedBox {
  readonly id: string;
  /** A box of ours, by id. */
  readonly box: string;
  readonly packs: readonly string[];
  /** What is written on it, from 1; not said: the lowest that no other has. */
  readonly number?: number;
}

/** A package as it left, with what decided it. */
export interface SentPackage {
  readonly id: string;
  /** What is written on it, from 1. */
  readonly number?: number;
  readonly packs: readonly string[];
  readonly box?: string;
  readonly netKg?: number;
  readonly grossKg?: number;
  readonly un?: string;
  /** Each UN number in it with its mass, where there are several. */
  readonly goods?: readonly { readonly un: string; readonly netKg: number }[];
  readonly provision?: string;
  /** Rules that decided something, each with its edition. */
  readonly rules: readonly { readonly rule: string; readonly edition?: string }[];
}

/** How a consignment ended otherwise than by arriving. */
export const ENDINGS = ['cancelled', 'refused', 'returned', 'lost'] as const;
export type Ending = (typeof ENDINGS)[number];

export const BOX_KINDS = ['fibreboard', 'plastic', 'wood', 'steel'] as const;

/** A sort of box in stock. Said whole each time: a box that is half described fits nothing. */
export interface BoxBody {
  readonly name: string;
  readonly inner: Outline;
  readonly tareKg: number;
  readonly maxGrossKg: number;
  readonly kind: (typeof BOX_KINDS)[number];
  /** Bears a UN packaging mark. */
  readonly un: boolean;
  /** How many there are when this is said. */
  readonly stock: number;
  readonly price: number;
  /** Not used any more. */
  readonly retired?: true;
}

/** What a carrier takes. A profile narrows what the rules allow, and never widens it. */
export interface CarrierBody {
  readonly name: string;
  readonly modes: readonly Mode[];
  readonly takes: {
    readonly loose: boolean;
    readonly withEquipment: boolean;
    readonly inEquipment: boolean;
    readonly damaged: boolean;
    readonly recycling: boolean;
    /** Fully regulated packages, with the class 9 label. */
    readonly class9: boolean;
  };
  /** Most gross kg of one package, and the longest side, mm. */
  readonly maxGrossKg?: number;
  readonly maxSideMm?: number;
  /** Their road network flies on some legs: the air rules hold too. */
  readonly groundFlies?: true;
  /** Days on which they come, 1 is Monday. */
  readonly days?: readonly number[];
  /** Handed over by then, HH:MM. */
  readonly cutOff?: string;
  /** A contract for dangerous goods is needed. */
  readonly contract?: true;
  readonly telephone?: string;
  /** Under which it is registered as a carrier of waste. */
  readonly wasteRegistration?: string;
  readonly price: { readonly perPackage: number; readonly perKg: number; readonly class9?: number };
  /** Not used any more. */
  readonly retired?: true;
}

/** Which packs a notice is about: a type code, and perhaps a part of its serial numbers or dates. */
export interface NoticeRange {
  readonly typeCode: string;
  readonly serialFrom?: string;
  readonly serialTo?: string;
  /** YYYY, YYYY-MM or YYYY-MM-DD. */
  readonly madeFrom?: string;
  readonly madeTo?: string;
}

/** A maker's recall or safety notice. Said whole each time. */
export interface NoticeBody {
  readonly title: string;
  /** What the maker says to do. */
  readonly says: string;
  /** Day of the notice, YYYY-MM-DD. */
  readonly on: string;
  readonly ranges: readonly NoticeRange[];
  /** It does not hold any more. Findings recorded under it stay. */
  readonly retired?: true;
}

export interface DispatchBodies {
  'consignment-described': ConsignmentDescription;
  /** These packs are to go with it: the last consignment that names a pack has it. */
  consigned: Record<string, never>;
  /** They stay here after all. */
  withdrawn: { readonly reason?: string };
  'plan-kept': { readonly packages: readonly PlannedBox[]; readonly bound?: number };
  /** Lies in that package now; an id that no plan knows is a package of its own. */
  packed: { readonly package: string };
  unpacked: Record<string, never>;
  /** Closed, weighed and sealed; whatever is put in or taken out later opens it again. */
  'package-closed': {
    readonly package: string;
    readonly box?: string;
    readonly weighed?: Figure<'kg' | 'g'>;
    readonly seal?: string;
  };
  /** Opened again by hand. */
  'package-opened': { readonly package: string };
  /** Counted by somebody who was not shown how many there should be. */
  'package-counted': { readonly package: string; readonly count: number };
  /** Names every pack that left; parts of one hand-over name the same consignment. */
  'consignment-handed-over': {
    readonly to: string;
    readonly number?: string;
    readonly on: string;
    readonly mode: Mode;
    readonly region: Region;
    readonly packages: readonly SentPackage[];
  };
  /** What the addressee says. */
  'consignment-arrived': {
    readonly packs?: number;
    readonly weighed?: Figure<'kg' | 'g'>;
    readonly receipt?: string;
  };
  /** Names every pack concerned. Refused and returned: they are here again, and nobody knows what happened to them. */
  'consignment-ended': { readonly how: Ending; readonly reason: string };
  'box-described': BoxBody;
  'carrier-described': CarrierBody;
  'notice-filed': NoticeBody;
}

export const DISPATCH_ABOUT = {
  'consignment-described': 'consignment',
  consigned: 'consignment',
  withdrawn: 'consignment',
  'plan-kept': 'consignment',
  packed: 'consignment',
  unpacked: 'consignment',
  'package-closed': 'consignment',
  'package-opened': 'consignment',
  'package-counted': 'consignment',
  'consignment-handed-over': 'consignment',
  'consignment-arrived': 'consignment',
  'consignment-ended': 'consignment',
  'box-described': 'box',
  'carrier-described': 'carrier',
  'notice-filed': 'notice',
} as const satisfies Record<keyof DispatchBodies, string>;
