import { createSlice, type PayloadAction } from '@reduxjs/toolkit';

export interface UndoBar {
  readonly ids: readonly string[];
  readonly words: string;
  readonly until: number;
}

export interface ViewState {
  readonly theme: 'auto' | 'light' | 'dark';
  readonly undo: UndoBar | null;
  /** Take-overs that this device has read: pack and what made it critical. */
  readonly readCritical: readonly string[];
}

const initialState: ViewState = { theme: 'auto', undo: null, readCritical: [] };

const slice = createSlice({
  name: 'view',
  initialState,
  reducers: {
    screenRemembered: (s, a: PayloadAction<Pick<ViewState, 'theme' | 'readCritical'>>) => ({ ...s, ...a.payload }),
    themeChosen: (s, a: PayloadAction<ViewState['theme']>) => ({ ...s, theme: a.payload }),
    undoOffered: (s, a: PayloadAction<UndoBar | null>) => ({ ...s, undo: a.payload }),
    criticalRead: (s, a: PayloadAction<readonly string[]>) => ({
      ...s,
      readCritical: [...new Set([...s.readCritical, ...a.payload])],
    }),
  },
});

export const { screenRemembered, themeChosen, undoOffered, criticalRead } = slice.actions;
export const viewReducer = slice.reducer;
