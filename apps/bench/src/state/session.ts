import type { About, SessionResponse } from '@gavrel/contract';
import { createSlice, type PayloadAction } from '@reduxjs/toolkit';

export interface SessionState {
  readonly status: 'loading' | 'out' | 'in';
  readonly session: SessionResponse | null;
  readonly about: About | null;
  readonly device: string;
  /** The session ended at the server while work waits here. */
  readonly expired: boolean;
}

const initialState: SessionState = { status: 'loading', session: null, about: null, device: '', expired: false };

const slice = createSlice({
  name: 'session',
  initialState,
  reducers: {
    aboutCame: (s, a: PayloadAction<About>) => ({ ...s, about: a.payload }),
    deviceNamed: (s, a: PayloadAction<string>) => ({ ...s, device: a.payload }),
    signedIn: (s, a: PayloadAction<SessionResponse>) => ({ ...s, status: 'in' as const, session: a.payload, expired: false }),
    signedOut: (s, a: PayloadAction<{ expired: boolean }>) => ({
      ...s,
      status: 'out' as const,
      session: null,
      expired: a.payload.expired,
    }),
  },
});

export const { aboutCame, deviceNamed, signedIn, signedOut } = slice.actions;
export const sessionReducer = slice.reducer;
