import { type ComponentProps, lazy, Suspense } from 'react';
import { View } from 'react-native';
import type { LineChart as Drawn } from 'react-native-chart-kit';
import { displayDigits, displayText } from '@gavrel/core';
import { useTokens, WORDS } from '../theme';
import { useDisplay } from './display';

/** Fetched with the screens that come later, so that the first load does not carry it. */
export const loadChart = () => import('./line-chart');
const Later = lazy(loadChart);

type Props = Omit<ComponentProps<typeof Drawn>, 'chartConfig'> & {
  readonly decimals: number;
  /** What it stands on; a card where nothing is said. */
  readonly ground?: string;
};

/** A line chart as this program draws them; its place is kept while it is fetched. */
export function LineChart({ decimals, ground, ...p }: Props) {
  const t = useTokens();
  const d = useDisplay();
  const data = { ...p.data, labels: p.data.labels.map((l) => displayText(l, d)) };
  return (
    <Suspense fallback={<View style={{ height: p.height }} />}>
      <Later
        withShadow={false}
        withInnerLines={false}
        segments={4}
        style={{ marginLeft: -12 }}
        chartConfig={{
          backgroundGradientFrom: ground ?? t.card,
          backgroundGradientTo: ground ?? t.card,
          decimalPlaces: decimals,
          color: () => t.ink,
          labelColor: () => t.ink,
          propsForLabels: { fontFamily: WORDS, fontSize: 12 },
          propsForDots: { r: '4' },
        }}
        formatYLabel={(y) => displayDigits(y, d)}
        {...p}
        data={data}
      />
    </Suspense>
  );
}
