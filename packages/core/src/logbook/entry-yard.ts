import type { Figure, TemperatureUnit } from '../quantity/figure';
import type { Instrument } from '../quantity/uncertainty';

/** Least to most dangerous. */
export const CONDITIONS = ['sound', 'spent', 'unproven', 'damaged', 'critical'] as const;
export type Condition = (typeof CONDITIONS)[number];

export const PLACE_KINDS = ['intake', 'bench', 'shelf', 'cabinet', 'quarantine', 'drum', 'outdoors', 'customer'] as const;
export type PlaceKind = (typeof PLACE_KINDS)[number];

export const FILLS = ['none', 'sand', 'vermiculite', 'glass granulate'] as const;

/** The most a place may hold; what is missing is not limited. */
export interface PlaceLimits {
  readonly packs?: number;
  readonly kg?: number;
  readonly wattHours?: number;
  readonly litres?: number;
}

/** What is said of a place later than its adding; the last word on each counts. Lengths in metres. */
export interface PlaceDescription {
  readonly holds?: readonly Condition[];
  /** Replaces every limit said before. */
  readonly limits?: PlaceLimits;
  readonly fill?: (typeof FILLS)[number];
  /** One pack in each bag. */
  readonly bags?: boolean;
  readonly outdoors?: boolean;
  readonly room?: string;
  /** Distance to what burns, to openings (doors, windows, vents) and to ways out, by tape. */
  readonly near?: { readonly burns?: number; readonly openings?: number; readonly exit?: number };
  /** Where it stands in the drawing of its room: upper left corner, and how large it is. */
  readonly box?: { readonly x: number; readonly y: number; readonly width: number; readonly depth: number };
  /** Its turn on the way through the yard. */
  readonly turn?: number;
}

/** A container looked at without unpacking. What is missing was not looked at. */
export interface ContainerLookBody {
  readonly smell?: 'none' | 'smell';
  readonly sound?: 'none' | 'hiss';
  readonly smoke?: 'none' | 'smoke';
  readonly lid?: 'closed' | 'open';
  readonly seen?: 'nothing' | 'growing';
  readonly probe?: 'wall' | 'fill';
  readonly temperature?: Figure<TemperatureUnit>;
  /** The room, or an empty container of the same kind beside it. */
  readonly room?: Figure<TemperatureUnit>;
  readonly against?: 'room' | 'empty twin';
  readonly instrument?: Instrument;
  readonly note?: string;
}

/** Distances that are asked for, by whose figures. */
export const DISTANCE_SCHOOLS = ['practice', 'practice far', 'fire code', 'insurer', 'insurer far'] as const;
export type DistanceSchool = (typeof DISTANCE_SCHOOLS)[number];

/** How closely a damaged pack is watched after it arrived. */
export const WATCHES = ['usual', 'close'] as const;
export type WatchSchool = (typeof WATCHES)[number];

export const SWEEPS = ['opening', 'closing'] as const;
/** What is walked past when the workshop opens and closes. */
export const SWEEP_POINTS = [
  'nothing charging',
  'nothing discharging',
  'no suspect pack on a bench',
  'lids closed',
  'ways out free',
] as const;
export type SweepPoint = (typeof SWEEP_POINTS)[number];
/** What was seen where a point was answered with no. */
export const SWEEP_NOT: Readonly<Record<SweepPoint, string>> = {
  'nothing charging': 'something charges',
  'nothing discharging': 'something discharges',
  'no suspect pack on a bench': 'a suspect pack lies on a bench',
  'lids closed': 'a lid is open',
  'ways out free': 'a way out is not free',
};

/** What happens in an incident; the worst that is seen is said first. */
export const INCIDENT_SORTS = ['fire', 'smoke', 'heat', 'leak', 'water'] as const;
export type IncidentSort = (typeof INCIDENT_SORTS)[number];
/** What is done, for the record. */
export const INCIDENT_STEPS = [
  'everyone out',
  'fire service called',
  'fire service here',
  'power off',
  'water on it',
  'put out',
  'moved outdoors',
  'run-off kept in',
  'ventilated',
  'lead told',
  'insurer told',
  'other',
] as const;
export type IncidentStep = (typeof INCIDENT_STEPS)[number];

export interface YardBodies {
  'place-added': { readonly name: string; readonly kind: PlaceKind; readonly holds: readonly Condition[] };
  'place-described': PlaceDescription;
  /** Not used any more. What still lies in it stays shown there until it is moved. */
  'place-closed': { readonly reason: string };
  /** `despite` is the reason for a place that may not hold the pack: it stays flagged. */
  moved: { readonly note?: string; readonly despite?: string };
  /** Names the place and every pack that lies in it. */
  'container-looked': ContainerLookBody;
  /** Somebody trained to assess looked into alarms of the place, and says what was found; until then they stand on every screen. */
  'alarm-answered': { readonly answers: readonly string[]; readonly found: string };
  /** Codes scanned at a place: packs of ours by id, and whatever else carried a code. */
  'place-counted': { readonly seen: readonly string[]; readonly strangers?: readonly string[] };
  /** Names the drum and every pack that left in it; parts of one collection share its id. */
  'drum-collected': {
    readonly collection: string;
    readonly to: string;
    /** The drum on the scale, without itself. */
    readonly weighed?: Figure<'kg' | 'g'>;
    readonly manifest?: string;
  };
  /** What the recycler says of a collection. */
  'drum-answered': {
    readonly collection: string;
    readonly weighed?: Figure<'kg' | 'g'>;
    readonly certificate?: string;
  };
  'sweep-walked': {
    readonly sweep: (typeof SWEEPS)[number];
    readonly points: { readonly [P in SweepPoint]?: 'yes' | 'no' };
    readonly note?: string;
  };
  /**
   * Names the incident, the place or machine, and every pack that lay there; said again when it burns again or more packs are
   * found to have lain there. `source` is the pack it came from; without it every pack named may be the one.
   */
  'incident-opened': { readonly what: IncidentSort; readonly source?: string; readonly note?: string };
  'incident-noted': { readonly step: IncidentStep; readonly note?: string };
  /** From a distance, and nothing was seen: what is seen opens the incident anew. */
  'incident-looked': {
    readonly seen: 'nothing';
    readonly temperature?: Figure<TemperatureUnit>;
    readonly room?: Figure<TemperatureUnit>;
    readonly instrument?: Instrument;
    readonly note?: string;
  };
  /** Over, says a lead; a second person must confirm it before the packs it names are free again. */
  'incident-closed': { readonly reason: string; readonly falseAlarm?: true };
}

export const YARD_ABOUT = {
  'place-added': 'place',
  'place-described': 'place',
  'place-closed': 'place',
  moved: 'pack',
  'container-looked': 'place',
  'alarm-answered': 'place',
  'place-counted': 'place',
  'drum-collected': 'place',
  'drum-answered': 'place',
  'sweep-walked': 'round',
  'incident-opened': 'incident',
  'incident-noted': 'incident',
  'incident-looked': 'incident',
  'incident-closed': 'incident',
} as const satisfies Record<keyof YardBodies, string>;
