import { lazy, Suspense } from 'react';
import { Words } from '../words';
import type { Grid as GridOf, GridProps } from './grid';

/** Fetched after the first screen stands: what several screens share would else be in the first load. */
export const loadGrid = () =>
  import('./grid').then((m) => ({ default: m.Grid as (p: GridProps<unknown>) => ReturnType<typeof GridOf> }));

const Lazy = lazy(loadGrid);

/** A grid, once its code is there. */
export function Grid<T>(props: GridProps<T>) {
  return (
    <Suspense fallback={<Words soft>…</Words>}>
      <Lazy {...(props as unknown as GridProps<unknown>)} />
    </Suspense>
  );
}
