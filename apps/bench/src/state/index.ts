import { configureStore } from '@reduxjs/toolkit';
import { useDispatch, useSelector } from 'react-redux';
import { logbookReducer } from './logbook';
import { sessionReducer } from './session';
import { viewReducer } from './view';

export const makeStore = () =>
  configureStore({
    reducer: { session: sessionReducer, logbook: logbookReducer, view: viewReducer },
    // Folded facts are plain JSON by construction; walking them on every action would cost more than the fold.
    middleware: (defaults) => defaults({ serializableCheck: false, immutableCheck: false }),
  });

export type Store = ReturnType<typeof makeStore>;
export type RootState = ReturnType<Store['getState']>;
export type Dispatch = Store['dispatch'];
export const useAppSelector = useSelector.withTypes<RootState>();
export const useAppDispatch = useDispatch.withTypes<Dispatch>();
