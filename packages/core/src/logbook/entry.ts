import type { Display } from '../quantity/display';
import type { CapacityUnit, EnergyUnit, Figure, VoltUnit } from '../quantity/figure';
import type { Interval } from '../quantity/interval';
import type { Instrument } from '../quantity/uncertainty';
import type { LabelBody } from '../pack/label';
import type { Flow } from '../pack/rest';
import type { SwellingSchool } from '../pack/swelling';
import { DISPATCH_ABOUT, type DispatchBodies } from './entry-dispatch';
import { JOB_ABOUT, type JobBodies } from './entry-job';
import { type DistanceSchool, type WatchSchool, YARD_ABOUT, type YardBodies } from './entry-yard';

export type { LabelBody };
export * from './entry-dispatch';
export * from './entry-job';
export * from './entry-yard';

export const SUBJECT_TYPES = [
  'job',
  'notebook',
  'pack',
  'place',
  'policy',
  'instrument',
  'model',
  'round',
  'incident',
  'consignment',
  'box',
  'carrier',
  'notice',
] as const;
export type SubjectType = (typeof SUBJECT_TYPES)[number];
/** `type:uuid`. */
export type Subject = `${SubjectType}:${string}`;

export const LOOK_GROUPS = ['shape', 'smell', 'heat', 'wet', 'mechanical', 'electrical'] as const;
export type LookGroup = (typeof LOOK_GROUPS)[number];

export const QUANTITIES = [
  'pack-voltage',
  'cell-voltage',
  'thickness',
  'new-thickness',
  'surface-temperature',
  'room-temperature',
  'mass',
] as const;
export type Quantity = (typeof QUANTITIES)[number];

export const PACK_USES = ['removed', 'replacement', 'spare', 'fitted'] as const;
export type PackUse = (typeof PACK_USES)[number];

export const PURPOSES = ['use', 'recycling', 'disposal'] as const;
export type Purpose = (typeof PURPOSES)[number];

export const DUE_KINDS = ['proof', 'look', 'return', 'clock'] as const;
export type DueKind = (typeof DUE_KINDS)[number];

/** One run of the keypad: what is taken in it belongs together. */
export interface ReadingSet {
  readonly id: string;
  /** Points it should have: of a set of cell voltages the cells in series. */
  readonly of: number;
}

export interface ReadingBody {
  readonly quantity: Quantity;
  readonly figure: Figure;
  /** Measuring point: thickness `centre`, `front-left` ...; cell voltage `1`, `2` ... from the negative end. */
  readonly point?: string;
  readonly instrument?: Instrument;
  /** The run of the keypad it was taken in, and how many points that run should have. */
  readonly set?: ReadingSet;
  readonly restMinutes?: number;
  readonly flow?: Flow;
  /** For a new thickness: where the figure comes from. */
  readonly source?: 'measured-new' | 'data-sheet' | 'trade-code';
  /** An odd value that was asked about and kept. */
  readonly confirmedOdd?: boolean;
}

export interface GaugeBody {
  readonly designCapacity?: Figure<CapacityUnit | EnergyUnit>;
  readonly fullChargeCapacity?: Figure<CapacityUnit | EnergyUnit>;
  readonly remainingCapacity?: Figure<CapacityUnit | EnergyUnit>;
  /** %, as the gauge reports it. */
  readonly maxError?: number;
  readonly cycleCount?: number;
  readonly cellVoltages?: readonly Figure<VoltUnit>[];
  readonly permanentFailure?: boolean;
}

/** What a discharge log says, as intervals with their method. The file lies outside the log and can be erased; its hashes stay. */
export interface MeasuredLogBody {
  /** Lower-case hex of the file as it was opened: the same file is the same log. */
  readonly sha256: string;
  /** The file packed (gzip), as it is kept; absent where it was too large to keep. */
  readonly file?: { readonly sha256: string; readonly bytes: number };
  /** Sum of trapezoids between neighbouring rows. */
  readonly method: 'trapezium';
  readonly rows: number;
  readonly gaps: number;
  /** First and last moment, ISO 8601 UTC; absent where the log has no date. */
  readonly from?: string;
  readonly to?: string;
  /** Ah, Wh, ohm, °C. */
  readonly charge: Interval;
  readonly energy: Interval;
  readonly resistance?: Interval;
  readonly resistance25?: Interval;
  readonly temperature?: Interval;
  /** Under load, A. */
  readonly meanCurrent: number;
  /** % of what the label said then; only where the log ran from full to empty. */
  readonly health?: Interval;
  /** What limits the figures. */
  readonly remarks: readonly string[];
}

export interface SiteCard {
  readonly emergencyNumber: string;
  readonly assemblyPoint: string;
  readonly callFirst: string;
}

export const PHOTO_OF = ['label', 'swelling', 'base', 'damage', 'package', 'other'] as const;
export interface PhotoBody {
  /** Lower-case hex of the picture's bytes, which lie outside the log and can be erased. */
  readonly sha256: string;
  readonly type: 'image/jpeg' | 'image/png';
  readonly width: number;
  readonly height: number;
  readonly bytes: number;
  readonly of: (typeof PHOTO_OF)[number];
}

/** By what a pack is brought down: its notebook, a resistor, or an electronic load that tests it. */
export const DRAINS = ['notebook', 'resistor', 'load'] as const;
/** What an instrument measures; an electronic load discharges, a gauge reader tells what a pack says of itself. */
export const INSTRUMENT_KINDS = ['volts', 'thickness', 'temperature', 'mass', 'discharge', 'gauge'] as const;
export interface InstrumentBody extends Instrument {
  readonly measures: (typeof INSTRUMENT_KINDS)[number];
  /** Last day of its calibration, YYYY-MM-DD. */
  readonly calibratedUntil?: string;
}

/** Where an instrument that talks is reached from the server: a private address, and how it speaks. */
export interface InstrumentAddress {
  readonly host: string;
  readonly port: number;
  /** SCPI-99 over a socket, or a line with number and unit. */
  readonly speaks: (typeof SPEAKS)[number];
}
export const SPEAKS = ['scpi', 'lines'] as const;

/** What a test summary must say (Manual of Tests and Criteria 38.3.5, from memory). */
export const SUMMARY_ITEMS = [
  'maker',
  'contact',
  'laboratory',
  'report',
  'date',
  'description',
  'tests',
  'assembled',
  'edition',
  'responsible',
] as const;
export type SummaryItem = (typeof SUMMARY_ITEMS)[number];

/** A test summary that lies here, for every pack of its type code. */
export interface SummaryBody {
  readonly typeCode: string;
  readonly items: readonly SummaryItem[];
  readonly report?: string;
}

/** Every kind of entry and its body. One schema, one list of upcasters and one fold branch per kind. */
export interface Bodies extends YardBodies, JobBodies, DispatchBodies {
  'job-opened': { readonly complaint?: string };
  'job-closed': { readonly note?: string };
  'notebook-identified': {
    readonly tag: string;
    readonly plate: 'read' | 'unreadable';
    readonly maker?: string;
    readonly model?: string;
    readonly serial?: string;
  };
  'pack-added': { readonly tag: string; readonly use: PackUse; readonly slot?: 'internal' | 'external' | 'dock' };
  'label-read': LabelBody & {
    /** Read off a picture and kept by a person; typed where it is missing. */
    readonly readBy?: 'camera';
  };
  'reading-taken': ReadingBody;
  'gauge-read': GaugeBody;
  'log-measured': MeasuredLogBody;
  looked: { readonly groups: readonly LookGroup[]; readonly where?: 'pack' | 'outside' };
  'finding-recorded': { readonly code: string; readonly note?: string; readonly dwellHours?: number; readonly point?: string };
  'finding-cleared': { readonly clears: readonly string[]; readonly reason: string };
  'quiet-declared': { readonly ends: readonly string[]; readonly reason: string };
  corrected: { readonly body: Record<string, unknown>; readonly reason: string };
  retracted: { readonly reason: string };
  confirmed: { readonly confirms: string };
  /** A second person does not agree: what waited stays without force, and is asked for no more. */
  declined: { readonly declines: string; readonly reason?: string };
  /** Written when it begins: readings before and after say nothing of what it loses at rest. Hours: how long it should take. */
  'brought-down': { readonly to: number; readonly how: (typeof DRAINS)[number]; readonly hours?: number };
  'topped-up': { readonly to: number };
  /** One full cycle in a host, from full to empty and full again; `as-usual`: no early end, no heat, no sudden drop. */
  cycled: { readonly went: 'as-usual' | 'not-as-usual'; readonly note?: string };
  'evidence-stated': { readonly typeTested: 'yes' | 'no' };
  intended: { readonly purpose: Purpose };
  'due-set': { readonly what: DueKind; readonly on: string; readonly note?: string };
  'due-met': { readonly meets: string; readonly note?: string };
  'site-card-set': SiteCard;
  /** A rule was compared with the printed edition; on is the day of that. */
  'rule-checked': { readonly rule: string; readonly edition: string; readonly on: string };
  'summary-filed': SummaryBody;
  /** What it says of units, marks and days is how figures are shown, not how they are kept. */
  'policy-set': Partial<Display> & {
    readonly swelling?: SwellingSchool;
    readonly innerCellLimit?: boolean;
    readonly wasteCode?: string;
    readonly wasteProducer?: string;
    /** Nobody is trained to assess who did not pass every grade of practice. */
    readonly assessAfterPractice?: boolean;
    readonly distances?: DistanceSchool;
    readonly watch?: WatchSchool;
    /** Days a drum may stay, where that is less than the law's year. */
    readonly drumDays?: number;
    /** Days a look stays good for calling a pack sound, and for dispatch. */
    readonly lookDays?: number;
    readonly dispatchDays?: number;
    /** Days after which the lead is told that a pack still lies in quarantine. */
    readonly stayDays?: number;
  };
  'photo-taken': PhotoBody;
  'instrument-added': InstrumentBody;
  'instrument-connected': { readonly address: InstrumentAddress | null };
  'sheet-taken-in': { readonly from: string; readonly sheet: Record<string, unknown> };
}

export type Kind = keyof Bodies;

interface Envelope<K extends Kind> {
  /** UUIDv7 made where the entry is written. */
  readonly id: string;
  readonly v: 1;
  readonly workshop: string;
  readonly subjects: readonly Subject[];
  readonly kind: K;
  /** When it happened at the bench, ISO 8601 UTC with milliseconds. */
  readonly at: string;
  /** IANA zone of the device. */
  readonly tz: string;
  readonly by: string;
  readonly device: string;
  /** True when the entry may make a pack more dangerous: a client that does not know the kind shows the pack as damaged. */
  readonly hazard: boolean;
  readonly body: Bodies[K];
  /** The entry a correction or retraction mends. */
  readonly replaces?: string;
}

export type Entry = { [K in Kind]: Envelope<K> }[Kind];
export type EntryOf<K extends Kind> = Envelope<K>;

/** An entry as the server keeps it, or not yet sent: then the three are null. */
export type LoggedEntry = Entry & {
  readonly seq: number | null;
  readonly recordedAt: string | null;
  /** min(at + clock offset, recordedAt): what folds order by. */
  readonly effectiveAt: string | null;
  /**
   * Whose confirmation it waits for, found by the server when it took it: `nobody` for what makes nothing milder, `trained` where a finding,
   * a breach or a sign would go. Absent on what was not sent yet, on what can make nothing milder, and on entries older than this field.
   */
  readonly waits?: Waits;
};

export const WAITS = ['nobody', 'second', 'trained'] as const;
export type Waits = (typeof WAITS)[number];

/** Order of folds: time, then id. Nothing about danger may depend on it. */
export function byTime(a: LoggedEntry, b: LoggedEntry): number {
  const x = a.effectiveAt ?? a.at;
  const y = b.effectiveAt ?? b.at;
  return x < y ? -1 : x > y ? 1 : a.id < b.id ? -1 : a.id > b.id ? 1 : 0;
}

/** Kinds that need a second person before they can make anything milder. */
export const NEEDS_SECOND: readonly Kind[] = ['corrected', 'retracted', 'finding-cleared', 'quiet-declared', 'incident-closed'];

export const subject = <T extends SubjectType>(type: T, id: string): Subject => `${type}:${id}`;
export const subjectId = (s: Subject): string => s.slice(s.indexOf(':') + 1);
export const subjectType = (s: Subject): SubjectType => s.slice(0, s.indexOf(':')) as SubjectType;

/** Kinds that may make a pack more dangerous; an older program that does not know such an entry shows the pack as damaged. */
export const HAZARD_KINDS: readonly Kind[] = [
  'finding-recorded',
  'reading-taken',
  'gauge-read',
  'container-looked',
  'incident-opened',
];
export const isHazard = (kind: Kind): boolean => HAZARD_KINDS.includes(kind);

/** What an entry of each kind must be about, besides anything else it names. */
export const ABOUT: Record<Kind, SubjectType | null> = {
  'job-opened': 'job',
  'job-closed': 'job',
  'notebook-identified': 'notebook',
  'pack-added': 'pack',
  'label-read': 'pack',
  'reading-taken': 'pack',
  'gauge-read': 'pack',
  'log-measured': 'pack',
  looked: 'pack',
  'finding-recorded': null,
  'finding-cleared': 'pack',
  'quiet-declared': 'pack',
  corrected: null,
  retracted: null,
  confirmed: null,
  declined: null,
  'brought-down': 'pack',
  'topped-up': 'pack',
  cycled: 'pack',
  'evidence-stated': 'pack',
  intended: 'pack',
  ...YARD_ABOUT,
  'due-set': null,
  'due-met': null,
  'site-card-set': 'policy',
  'rule-checked': 'policy',
  'summary-filed': 'policy',
  'policy-set': 'policy',
  ...JOB_ABOUT,
  ...DISPATCH_ABOUT,
  'photo-taken': null,
  'instrument-added': 'instrument',
  'instrument-connected': 'instrument',
  'sheet-taken-in': 'model',
};
export const KINDS = Object.keys(ABOUT) as Kind[];
