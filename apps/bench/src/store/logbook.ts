import {
  DEFAULT_POLICY,
  type IncidentFacts,
  type InstrumentFacts,
  type JobFacts,
  type NotebookFacts,
  type PackFacts,
  type PlaceFacts,
  type PolicyFacts,
  type RoundFacts,
  type TakenSheet,
} from '@gavrel/core';
import type { Problem } from '@gavrel/contract';
import type { Holds } from '../log/held';
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

export type Folded = Pick<
  LogbookState,
  'packs' | 'notebooks' | 'jobs' | 'places' | 'instruments' | 'sheets' | 'rounds' | 'incidents'
> & {
  readonly policy: PolicyFacts | null;
};
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
    replaced: (s, a: PayloadAction<Folded>) => ({
      ...s,
      ...a.payload,
      policy: a.payload.policy ?? DEFAULT_POLICY,
      ready: true,
      version: s.version + 1,
    }),
    folded: (s, { payload: p }: PayloadAction<Folded>) => ({
      ...s,
      packs: { ...s.packs, ...p.packs },
      notebooks: { ...s.notebooks, ...p.notebooks },
      jobs: { ...s.jobs, ...p.jobs },
      places: { ...s.places, ...p.places },
      instruments: { ...s.instruments, ...p.instruments },
      sheets: { ...s.sheets, ...p.sheets },
      rounds: { ...s.rounds, ...p.rounds },
      incidents: { ...s.incidents, ...p.incidents },
      policy: p.policy ?? s.policy,
      version: s.version + 1,
    }),
    waitingCame: (s, a: PayloadAction<Waiting>) => ({ ...s, ...a.payload }),
    /** Nobody answers; with when somebody answered last, null where no one ever did. */
    serverAway: (s, a: PayloadAction<string | null>) => (s.away ? s : { ...s, away: true, asOf: a.payload }),
    serverHere: (s) => (s.away ? { ...s, away: false, asOf: null } : s),
    holdsCame: (s, a: PayloadAction<Holds | null>) => ({ ...s, holds: a.payload }),
  },
});

export const { replaced, folded, waitingCame, serverAway, serverHere, holdsCame } = slice.actions;
export const logbookReducer = slice.reducer;
