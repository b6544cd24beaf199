import type { CapacityUnit, EnergyUnit, Figure, VoltUnit } from '../quantity/figure';
import type { Instrument } from '../quantity/uncertainty';
import type { LabelBody } from '../pack/label';
import type { Flow } from '../pack/rest';
import type { SwellingSchool } from '../pack/swelling';
import type { Connector, Mounting } from '../fastener/connector';
import type { Screw, ScrewCount } from '../fastener/screw';
import { type DistanceSchool, type WatchSchool, YARD_ABOUT, type YardBodies } from './entry-yard';

export type { LabelBody };
export * from './entry-yard';

export const SUBJECT_TYPES = ['job', 'notebook', 'pack', 'place', 'policy', 'instrument', 'model', 'round', 'incident'] as const;
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

export interface ReadingBody {
  readonly quantity: Quantity;
  readonly figure: Figure;
  /** Measuring point: thickness `centre`, `front-left` ...; cell voltage `1`, `2` ... from the negative end. */
  readonly point?: string;
  readonly instrument?: Instrument;
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

export interface SiteCard {
  readonly emergencyNumber: string;
  readonly assemblyPoint: string;
  readonly callFirst: string;
}

export const YES_NO_UNKNOWN = ['yes', 'no', 'unknown'] as const;
export type YesNoUnknown = (typeof YES_NO_UNKNOWN)[number];

/** Ten seconds a machine. A field that is missing was not looked at. */
export interface TriageBody {
  readonly lid?: 'flush' | 'not flush';
  readonly base?: 'steady' | 'rocks';
  readonly smell?: 'none' | 'smell';
  readonly touch?: 'cool' | 'warm' | 'hot';
}

/** What the owner says and what is seen before a screw turns. Later notes add to earlier ones. */
export interface IntakeBody {
  readonly complaint?: string;
  readonly ownerSaw?: string;
  readonly keyboard?: 'even' | 'uneven';
  readonly trackpad?: 'clicks' | 'stiff';
  readonly seam?: 'closed' | 'gapes';
  readonly sound?: 'none' | 'hiss';
  readonly liquid?: YesNoUnknown;
  readonly drop?: YesNoUnknown;
  readonly charger?: 'tried' | 'not tried';
  readonly warranty?: 'none' | 'running' | 'unknown';
  readonly consent?: 'given' | 'refused' | 'not asked';
  /** Charge in % of full, as the machine showed it. */
  readonly charge?: number;
  readonly agreed?: string;
  readonly oldPack?: 'stays here' | 'owner wants it back';
}

export interface FastenersBody {
  readonly habit: 'map' | 'tray';
  /** Width over depth of the base. */
  readonly ratio?: number;
  /** Picture under the map. */
  readonly photo?: string;
  readonly screws: readonly Screw[];
}

export const PRY_STARTS = ['hinge side', 'vent', 'front left', 'front right', 'front middle', 'left', 'right'] as const;
export const LIFTS = ['straight', 'slides', 'hinges', 'shroud first', 'corners squeezed'] as const;
export const CABLE_NAMES = ['fan', 'speaker', 'antenna', 'touchpad', 'keyboard', 'fingerprint', 'to the cover'] as const;

export interface CoverBody {
  readonly pryStart?: (typeof PRY_STARTS)[number];
  readonly tool?: 'plastic' | 'thin metal' | 'none';
  readonly lifts?: (typeof LIFTS)[number];
  readonly cables?: readonly string[];
  readonly note?: string;
}

/** One thing that can make the machine live. */
export interface Source {
  readonly what: 'pack' | 'adapter' | 'coin cell' | 'dock';
  readonly tag?: string;
  readonly state: 'off' | 'live' | 'none';
}

export interface IsolatedBody {
  readonly connector?: Connector;
  readonly tape?: boolean;
  readonly reach?: 'free' | 'pack screws first';
  readonly drained?: boolean;
  readonly firmware?: 'used' | 'none';
  readonly coinCell?: 'left' | 'removed' | 'not seen';
  readonly school?: 'always' | 'off is enough';
  readonly sources?: readonly Source[];
}

export interface PackRemovedBody {
  readonly mounting?: readonly Mounting[];
  readonly screws?: readonly ScrewCount[];
  readonly cables?: 'routed on it' | 'free';
  readonly cable?: 'keep it' | 'part of the pack';
  readonly stuck?: 'no' | 'let go slowly' | 'stopped';
  /** The bay, mm. */
  readonly bay?: { readonly length?: Figure<'mm'>; readonly width?: Figure<'mm'>; readonly depth?: Figure<'mm'> };
  readonly note?: string;
}

/** Outline, connector, ears and cable of a pack, as seen. */
export interface FormBody {
  readonly length?: Figure<'mm'>;
  readonly width?: Figure<'mm'>;
  readonly thickness?: Figure<'mm'>;
  readonly connector?: Connector;
  /** Screw ears. */
  readonly ears?: number;
  readonly cable?: 'with it' | 'without';
}

export const SOURCE_SCHOOLS = ['new from maker', 'known-good used', 'compatible'] as const;

export interface SourceBody {
  readonly school?: (typeof SOURCE_SCHOOLS)[number];
  readonly supplier?: string;
  readonly lot?: string;
  readonly receivedOn?: string;
  readonly summary?: 'on file' | 'asked for' | 'none';
}

export interface RefittedBody {
  readonly back: readonly ScrewCount[];
  readonly plugs?: 'all, the pack last' | 'not all';
  readonly clips?: 'before screws' | 'not closed';
  readonly feet?: 'back' | 'not all' | 'none';
  readonly hinge?: 'tight' | 'tightened' | 'not looked';
  readonly fan?: 'cleaned' | 'not looked';
  /** Left-over, missing or swapped screws, in words. */
  readonly note?: string;
}

export const PROOFS = ['starts', 'seen', 'charges', 'gauge'] as const;
export type ProofPoint = (typeof PROOFS)[number];
export type ProofBody = { readonly [P in ProofPoint]?: 'yes' | 'no' | 'owed' } & { readonly note?: string };

export const PHOTO_OF = ['label', 'swelling', 'base', 'damage', 'other'] as const;
export interface PhotoBody {
  /** Lower-case hex of the picture's bytes, which lie outside the log and can be erased. */
  readonly sha256: string;
  readonly type: 'image/jpeg' | 'image/png';
  readonly width: number;
  readonly height: number;
  readonly bytes: number;
  readonly of: (typeof PHOTO_OF)[number];
}

export const INSTRUMENT_KINDS = ['volts', 'thickness', 'temperature', 'mass'] as const;
export interface InstrumentBody extends Instrument {
  readonly measures: (typeof INSTRUMENT_KINDS)[number];
  /** Last day of its calibration, YYYY-MM-DD. */
  readonly calibratedUntil?: string;
}

/** Stops of a job in the order of the work. */
export const STATIONS = [
  'intake',
  'swollen',
  'open',
  'isolate',
  'label',
  'measure',
  'remove',
  'judge',
  'match',
  'fit',
  'prove',
] as const;
export type Station = (typeof STATIONS)[number];

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
export interface Bodies extends YardBodies {
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
  'label-read': LabelBody;
  'reading-taken': ReadingBody;
  'gauge-read': GaugeBody;
  looked: { readonly groups: readonly LookGroup[]; readonly where?: 'pack' | 'outside' };
  'finding-recorded': { readonly code: string; readonly note?: string; readonly dwellHours?: number; readonly point?: string };
  'finding-cleared': { readonly clears: readonly string[]; readonly reason: string };
  'quiet-declared': { readonly ends: readonly string[]; readonly reason: string };
  corrected: { readonly body: Record<string, unknown>; readonly reason: string };
  retracted: { readonly reason: string };
  confirmed: { readonly confirms: string };
  /** Meant to be charged or discharged: readings before and after say nothing of what it loses at rest. */
  'brought-down': { readonly to: number; readonly how: 'notebook' | 'resistor' };
  'topped-up': { readonly to: number };
  'evidence-stated': { readonly typeTested: 'yes' | 'no' };
  intended: { readonly purpose: Purpose };
  'due-set': { readonly what: DueKind; readonly on: string; readonly note?: string };
  'due-met': { readonly meets: string; readonly note?: string };
  'site-card-set': SiteCard;
  /** A rule was compared with the printed edition; on is the day of that. */
  'rule-checked': { readonly rule: string; readonly edition: string; readonly on: string };
  'summary-filed': SummaryBody;
  'policy-set': {
    readonly swelling?: SwellingSchool;
    readonly innerCellLimit?: boolean;
    readonly wasteCode?: string;
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
  triaged: TriageBody;
  'intake-noted': IntakeBody;
  /** Name and address lie outside the log, under this id. */
  'owner-linked': { readonly owner: string; readonly of: 'machine' | 'pack' | 'both' };
  /** A trained person stands at the swollen machine: charge as found, screws under tension, never pry over the pack. */
  'swollen-prepared': { readonly charge: 'as found'; readonly note?: string };
  'fasteners-mapped': FastenersBody;
  'cover-opened': CoverBody;
  isolated: IsolatedBody;
  'pack-removed': PackRemovedBody;
  'form-noted': FormBody;
  'source-stated': SourceBody;
  'match-decided': {
    readonly old: string;
    readonly new: string;
    readonly verdict: 'fits' | 'does not fit';
    readonly reason?: string;
  };
  'return-opened': { readonly to: string; readonly reason: string; readonly until: string };
  refitted: RefittedBody;
  'proof-taken': ProofBody;
  'job-taken': { readonly note?: string };
  'job-put-down': { readonly note?: string };
  'handed-over': {
    readonly oldPack: 'stays here' | 'given back' | 'none';
    /** sha256 of the signature's picture. */
    readonly signature?: string;
    readonly note?: string;
  };
  'photo-taken': PhotoBody;
  'instrument-added': InstrumentBody;
  'sheet-taken-in': { readonly from: string; readonly sheet: Record<string, unknown> };
  'station-skipped': { readonly station: Station; readonly why?: string };
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
};

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
  looked: 'pack',
  'finding-recorded': null,
  'finding-cleared': 'pack',
  'quiet-declared': 'pack',
  corrected: null,
  retracted: null,
  confirmed: null,
  'brought-down': 'pack',
  'topped-up': 'pack',
  'evidence-stated': 'pack',
  intended: 'pack',
  ...YARD_ABOUT,
  'due-set': null,
  'due-met': null,
  'site-card-set': 'policy',
  'rule-checked': 'policy',
  'summary-filed': 'policy',
  'policy-set': 'policy',
  triaged: 'notebook',
  'intake-noted': 'job',
  'owner-linked': null,
  'swollen-prepared': 'job',
  'fasteners-mapped': 'job',
  'cover-opened': 'job',
  isolated: 'job',
  'pack-removed': 'pack',
  'form-noted': 'pack',
  'source-stated': 'pack',
  'match-decided': 'pack',
  'return-opened': 'pack',
  refitted: 'job',
  'proof-taken': 'job',
  'job-taken': 'job',
  'job-put-down': 'job',
  'handed-over': 'job',
  'photo-taken': null,
  'instrument-added': 'instrument',
  'sheet-taken-in': 'model',
  'station-skipped': 'job',
};
export const KINDS = Object.keys(ABOUT) as Kind[];
