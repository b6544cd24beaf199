import type { Connector, Mounting } from '../fastener/connector';
import type { Screw, ScrewCount } from '../fastener/screw';
import type { Figure } from '../quantity/figure';

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
  /** The pack's cable, where it is a part of its own. */
  readonly cable?: 'kept' | 'replaced';
  readonly fan?: 'cleaned' | 'not looked';
  /** Left-over, missing or swapped screws, in words. */
  readonly note?: string;
}

export const PROOFS = ['starts', 'seen', 'charges', 'gauge'] as const;
export type ProofPoint = (typeof PROOFS)[number];
export type ProofBody = { readonly [P in ProofPoint]?: 'yes' | 'no' | 'owed' } & { readonly note?: string };

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

/** What is said at the stations of a job. */
export interface JobBodies {
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
  'station-skipped': { readonly station: Station; readonly why?: string };
}

export const JOB_ABOUT = {
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
  'station-skipped': 'job',
} as const satisfies Record<keyof JobBodies, string | null>;
