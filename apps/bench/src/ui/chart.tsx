import { type ComponentProps, lazy, Suspense } from 'react';
import { View } from 'react-native';
import type { LineChart as Drawn } from 'react-native-chart-kit';

/** Fetched with the screens that come later, so that the first load does not carry it. */
export const loadChart = () => import('./line-chart');
const Later = lazy(loadChart);

/** A line chart; its place is kept while it is fetched. */
export const LineChart = (p: ComponentProps<typeof Drawn>) => (
  <Suspense fallback={<View style={{ height: p.height }} />}>
    <Later {...p} />
  </Suspense>
);
