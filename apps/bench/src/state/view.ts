import type { Cable } from '../device/serial';
import type { ScreenMemory, Shift } from '../device/store';
import type { Region } from '@gavrel/core';
import { createSlice, type PayloadAction } from '@reduxjs/toolkit';

export interface UndoBar {
  readonly ids: readonly string[];
  readonly words: string;
  readonly until: number;
}

export interface ViewState {
  readonly theme: 'auto' | 'light' | 'dark';
  readonly undo: UndoBar | null;
  /** What the device could not keep, and why; until something is kept again. */
  readonly lost: { readonly words: string; readonly why: string } | null;
  /** Why this device keeps nothing beyond the page; null where it keeps what is written. */
  readonly volatile: { readonly why: string; readonly read: boolean } | null;
  /** Take-overs that this device has read: pack and what made it critical. */
  readonly readCritical: readonly string[];
  readonly shift: Shift | null;
  /** Instruments on a cable of this device, by id. */
  readonly cables: Readonly<Record<string, Cable>>;
  /** Numbers are spoken back when they are kept. */
  readonly speak: boolean;
  /** Cautions read and put away: the job and the words. */
  readonly putAway: readonly string[];
  /** Whose rules of road and rail are shown. */
  readonly region: Region;
  /** Nobody goes on here before they showed who they are; the session and what waits stay. */
  readonly locked: boolean;
  /** Somebody went on while the server was away and could not check them: only hazards go out until it has. */
  readonly unchecked: boolean;
  /** Minutes without a touch after which this device locks; null: never by itself. */
  readonly lockAfter: number | null;
  /** Single letters are shortcuts; with Alt they always are. */
  readonly letters: boolean;
  /** Packs chosen to be sent or placed together, by id. */
  readonly chosen: readonly string[];
  /** The finder is open. */
  readonly finding: boolean;
  /** Minutes of the clock since 1970: what stands on an idle screen changes with it. */
  readonly minute: number;
}

export const minuteOf = (ms: number): number => Math.floor(ms / 60_000);

const initialState: ViewState = {
  theme: 'auto',
  undo: null,
  lost: null,
  volatile: null,
  readCritical: [],
  shift: null,
  cables: {},
  speak: false,
  putAway: [],
  region: 'eu',
  locked: false,
  unchecked: false,
  lockAfter: null,
  letters: true,
  chosen: [],
  finding: false,
  minute: minuteOf(Date.now()),
};

const slice = createSlice({
  name: 'view',
  initialState,
  reducers: {
    screenRemembered: (s, a: PayloadAction<ScreenMemory>) => ({ ...s, ...a.payload }),
    themeChosen: (s, a: PayloadAction<ViewState['theme']>) => ({ ...s, theme: a.payload }),
    storageErrorCame: (s, a: PayloadAction<ViewState['lost']>) => (s.lost === a.payload ? s : { ...s, lost: a.payload }),
    storageFailed: (s, a: PayloadAction<string>) => ({ ...s, volatile: { why: a.payload, read: false } }),
    storageFailureRead: (s) => ({ ...s, volatile: s.volatile && { ...s.volatile, read: true } }),
    undoOffered: (s, a: PayloadAction<UndoBar | null>) => ({ ...s, undo: a.payload }),
    shiftChosen: (s, a: PayloadAction<Shift>) => ({ ...s, shift: a.payload }),
    cableChosen: (s, { payload: { id, cable } }: PayloadAction<{ id: string; cable: Cable | null }>) => {
      const { [id]: _before, ...others } = s.cables;
      return { ...s, cables: cable ? { ...others, [id]: cable } : others };
    },
    speakChosen: (s, a: PayloadAction<boolean>) => ({ ...s, speak: a.payload }),
    regionChosen: (s, a: PayloadAction<Region>) => ({ ...s, region: a.payload }),
    screenLocked: (s) => ({ ...s, locked: true, undo: null, finding: false }),
    screenOpened: (s, a: PayloadAction<{ unchecked: boolean }>) => ({ ...s, locked: false, unchecked: a.payload.unchecked }),
    lockAfterChosen: (s, a: PayloadAction<number | null>) => ({ ...s, lockAfter: a.payload }),
    finderOpened: (s) => ({ ...s, finding: true }),
    finderClosed: (s) => ({ ...s, finding: false }),
    minuteCame: (s, a: PayloadAction<number>) => (s.minute === a.payload ? s : { ...s, minute: a.payload }),
    lettersChosen: (s, a: PayloadAction<boolean>) => ({ ...s, letters: a.payload }),
    packsChosen: (s, a: PayloadAction<readonly string[]>) => ({ ...s, chosen: a.payload }),
    // The oldest are forgotten: a caution that comes back does no harm.
    cautionRead: (s, a: PayloadAction<string>) => ({ ...s, putAway: [...s.putAway, a.payload].slice(-400) }),
    criticalRead: (s, a: PayloadAction<readonly string[]>) => ({
      ...s,
      readCritical: [...new Set([...s.readCritical, ...a.payload])],
    }),
  },
});

export const {
  screenRemembered,
  themeChosen,
  undoOffered,
  storageFailed,
  storageFailureRead,
  storageErrorCame,
  criticalRead,
  shiftChosen,
  cableChosen,
  speakChosen,
  cautionRead,
  regionChosen,
  finderOpened,
  finderClosed,
  minuteCame,
  lettersChosen,
  packsChosen,
  screenLocked,
  screenOpened,
  lockAfterChosen,
} = slice.actions;
export const viewReducer = slice.reducer;
