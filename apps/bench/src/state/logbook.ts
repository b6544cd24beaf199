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
import { createAction, type UnknownAction } from '@reduxjs/toolkit';

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

/** Everything, from a cold start or after a device forgot another workshop. */
export const replaced = createAction<Changes>('logbook/replaced');
/** What entries changed, and nothing else. */
export const changed = createAction<Changes>('logbook/changed');
export const waitingCame = createAction<Waiting>('logbook/waitingCame');
/** Nobody answers; with when somebody answered last, null where no one ever did. */
export const serverAway = createAction<string | null>('logbook/serverAway');
export const serverHere = createAction('logbook/serverHere');
export const holdsCame = createAction<Holds | null>('logbook/holdsCame');

/**
 * A plain reducer, not a slice: a slice walks and freezes whatever comes in, and makes a draft of every record that is copied. With
 * thousands of packs that took longer than folding them.
 */
export function logbookReducer(s: LogbookState = initialState, a: UnknownAction): LogbookState {
  if (replaced.match(a)) {
    const policy = a.payload.policy ?? DEFAULT_POLICY;
    return { ...s, ...recordsOf(initialState, a.payload), policy, ready: true, version: s.version + 1 };
  }
  if (changed.match(a)) {
    const p = a.payload.policy;
    const policy = p === undefined ? s.policy : (p ?? DEFAULT_POLICY);
    return { ...s, ...recordsOf(s, a.payload), policy, version: s.version + 1 };
  }
  if (waitingCame.match(a)) return { ...s, ...a.payload };
  if (serverAway.match(a)) return s.away ? s : { ...s, away: true, asOf: a.payload };
  if (serverHere.match(a)) return s.away ? { ...s, away: false, asOf: null } : s;
  if (holdsCame.match(a)) return { ...s, holds: a.payload };
  return s;
}
