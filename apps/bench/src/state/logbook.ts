import {
  type BoxFacts,
  type CarrierFacts,
  type ConsignmentFacts,
  DEFAULT_POLICY,
  type IncidentFacts,
  type InstrumentFacts,
  type JobFacts,
  type NotebookFacts,
  type NoticeFacts,
  type PackFacts,
  type PlaceFacts,
  type PolicyFacts,
  type RoundFacts,
  type TakenSheet,
} from '@gavrel/core';
import type { Problem } from '@gavrel/contract';
import type { Holds } from '../device/on-device';
import { createSlice, type PayloadAction } from '@reduxjs/toolkit';

export interface Refusal {
  readonly id: string;
  readonly problem: Problem;
}

/** What the log folds to on this device. Entries themselves stay in IndexedDB. */
export interface LogbookState {
  readonly ready: boolean;
  readonly packs: Readonly<Record<string, PackFacts>>;
  readonly notebooks: Readonly<Record<string, NotebookFacts>>;
  readonly jobs: Readonly<Record<string, JobFacts>>;
  readonly places: Readonly<Record<string, PlaceFacts>>;
  readonly instruments: Readonly<Record<string, InstrumentFacts>>;
  /** Walks through the yard. */
  readonly rounds: Readonly<Record<string, RoundFacts>>;
  readonly incidents: Readonly<Record<string, IncidentFacts>>;
  readonly consignments: Readonly<Record<string, ConsignmentFacts>>;
  readonly boxes: Readonly<Record<string, BoxFacts>>;
  readonly carriers: Readonly<Record<string, CarrierFacts>>;
  /** Recalls and safety notices of makers. */
  readonly notices: Readonly<Record<string, NoticeFacts>>;
  /** Model sheets that came from other workshops, by model. */
  readonly sheets: Readonly<Record<string, readonly TakenSheet[]>>;
  readonly policy: PolicyFacts;
  readonly unsent: number;
  readonly unsentHazards: number;
  readonly refused: readonly Refusal[];
  readonly away: boolean;
  /** While it is away: when the server answered last, ISO time. */
  readonly asOf: string | null;
  /** Null where the whole log is on this device. */
  readonly holds: Holds | null;
  /** Raised with every fold, for views that read entries themselves. */
  readonly version: number;
}

const RECORDS = [
  'packs',
  'notebooks',
  'jobs',
  'places',
  'instruments',
  'sheets',
  'rounds',
  'incidents',
  'consignments',
  'boxes',
  'carriers',
  'notices',
] as const;
type RecordName = (typeof RECORDS)[number];

/** What subjects are now, by id; null where nothing is left of one. */
export type Changes = {
  readonly [R in RecordName]: Readonly<Record<string, LogbookState[R][string] | null>>;
} & { readonly policy?: PolicyFacts | null };

/** A record with what changed in it; the same one where nothing did, so that nobody looks at it again. */
function merged<T>(
  before: Readonly<Record<string, T>>,
  changes: Readonly<Record<string, T | null>>,
): Readonly<Record<string, T>> {
  const entries = Object.entries(changes).filter(([id, facts]) => facts !== null || id in before);
  if (entries.length === 0) return before;
  const after: Record<string, T> = { ...before };
  for (const [id, facts] of entries) {
    if (facts === null) delete after[id];
    else after[id] = facts;
  }
  return after;
}

const recordsOf = (before: Pick<LogbookState, RecordName>, changes: Changes): Pick<LogbookState, RecordName> =>
  Object.fromEntries(RECORDS.map((r) => [r, merged<unknown>(before[r], changes[r])])) as Pick<LogbookState, RecordName>;

export type Waiting = Pick<LogbookState, 'unsent' | 'unsentHazards' | 'refused'>;

const initialState: LogbookState = {
  ready: false,
  packs: {},
  notebooks: {},
  jobs: {},
  places: {},
  instruments: {},
  rounds: {},
  incidents: {},
  consignments: {},
  boxes: {},
  carriers: {},
  notices: {},
  sheets: {},
  policy: DEFAULT_POLICY,
  unsent: 0,
  unsentHazards: 0,
  refused: [],
  away: false,
  asOf: null,
  holds: null,
  version: 0,
};

const slice = createSlice({
  name: 'logbook',
  initialState,
  reducers: {
    /** Everything, from a cold start or after a device forgot another workshop. */
    replaced: (s, { payload: p }: PayloadAction<Changes>) => ({
      ...s,
      ...recordsOf(initialState, p),
      policy: p.policy ?? DEFAULT_POLICY,
      ready: true,
      version: s.version + 1,
    }),
    /** What entries changed, and nothing else. */
    changed: (s, { payload: p }: PayloadAction<Changes>) => ({
      ...s,
      ...recordsOf(s, p),
      policy: p.policy === undefined ? s.policy : (p.policy ?? DEFAULT_POLICY),
      version: s.version + 1,
    }),
    waitingCame: (s, a: PayloadAction<Waiting>) => ({ ...s, ...a.payload }),
    /** Nobody answers; with when somebody answered last, null where no one ever did. */
    serverAway: (s, a: PayloadAction<string | null>) => (s.away ? s : { ...s, away: true, asOf: a.payload }),
    serverHere: (s) => (s.away ? { ...s, away: false, asOf: null } : s),
    holdsCame: (s, a: PayloadAction<Holds | null>) => ({ ...s, holds: a.payload }),
  },
});

export const { replaced, changed, waitingCame, serverAway, serverHere, holdsCame } = slice.actions;
export const logbookReducer = slice.reducer;
