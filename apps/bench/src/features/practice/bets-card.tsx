import { useState } from 'react';
import { View } from 'react-native';
import { useTokens } from '../../theme';
import { LineChart } from '../../ui/chart';
import { Card } from '../../ui/frame';
import { Words } from '../../ui/words';
import type { Calibration } from './record';
import { calibrationWords } from './words';

/** How the bets came against how sure they were: on the thin line one knows what one knows. */
export function BetsCard({ calibration, brier }: { calibration: readonly Calibration[]; brier: number | null }) {
  const t = useTokens();
  const [width, setWidth] = useState(0);
  const words = calibration.map(calibrationWords);
  const percent = (x: number) => Math.round(x * 100);
  return (
    <Card title="Your bets" testID="calibration">
      {calibration.length > 1 ? (
        <View role="img" aria-label={words.join(' ')} onLayout={(e) => setWidth(Math.min(520, e.nativeEvent.layout.width))}>
          {width > 0 ? (
            <LineChart
              data={{
                labels: calibration.map((c) => `${percent(c.sure)} %`),
                datasets: [
                  { data: calibration.map((c) => percent(c.right / c.bets)), color: () => t.accent, strokeWidth: 3 },
                  { data: calibration.map((c) => percent(c.sure)), color: () => t.ink, strokeWidth: 1, withDots: false },
                ],
              }}
              width={width}
              height={190}
              yAxisSuffix=" %"
              fromZero
              fromNumber={100}
              decimals={0}
            />
          ) : null}
          <Words size={14} soft>
            thick: how often you were right; thin: how sure you said you were
          </Words>
        </View>
      ) : null}
      {words.map((w) => (
        <Words key={w}>{w}</Words>
      ))}
      {brier === null ? null : <Words size={15}>{`Brier score ${brier.toFixed(2)}: 0 is best, 1 is worst.`}</Words>}
    </Card>
  );
}
