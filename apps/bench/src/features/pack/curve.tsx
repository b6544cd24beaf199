import { atSteps, type Point } from '@gavrel/core/discharge';
import { useState } from 'react';
import { View } from 'react-native';
import { useTokens } from '../../theme';
import { LineChart } from '../../ui/chart';
import { useShownText } from '../../ui/display';
import { Words } from '../../ui/words';

/** Points along the hours of a drawing. */
const POINTS = 40;

/** How a time along a drawing is written: minutes tell nothing in hours. @param most of the drawing, h. @returns words for so many hours. */
function timeWords(most: number): (hours: number) => string {
  if (most >= 3) return (x) => `${x.toFixed(1)} h`;
  return most * 60 >= 3 ? (x) => `${Math.round(x * 60)} min` : (x) => `${Math.round(x * 3600)} s`;
}

const courseWords = (points: readonly Point[]): string => {
  const [first, last] = [points[0]!, points[points.length - 1]!];
  return `from ${first.y.toFixed(2)} to ${last.y.toFixed(2)} V in ${timeWords(last.x)(last.x)}`;
};

/** Volts over hours; a second log as a thin line over the same hours. */
export function Curve({
  points,
  second,
  ground,
}: {
  points: readonly Point[];
  second: readonly Point[] | null;
  /** What it stands on; a card where nothing is said. */
  ground?: string;
}) {
  const t = useTokens();
  const text = useShownText();
  const [width, setWidth] = useState(0);
  if (points.length < 2 || second?.length === 1) return null;
  const hours = Math.max(points[points.length - 1]!.x, second?.[second.length - 1]?.x ?? 0);
  const step = hours / (POINTS - 1);
  const time = timeWords(hours);
  return (
    <View
      role="img"
      aria-label={text([courseWords(points), second && `the second: ${courseWords(second)}`].filter(Boolean).join('; '))}
      onLayout={(e) => setWidth(Math.min(520, e.nativeEvent.layout.width))}
    >
      {width > 0 && step > 0 ? (
        <LineChart
          data={{
            labels: (second ? Array.from({ length: POINTS }, (_, i) => i * step) : points.map((p) => p.x)).map((x, i) =>
              i % 10 === 0 ? time(x) : '',
            ),
            datasets: [
              // The peaks of a log alone are kept; two are drawn over the same hours.
              {
                data: second ? atSteps(points, step, POINTS) : points.map((p) => p.y),
                color: () => t.accent,
                strokeWidth: 3,
              },
              ...(second ? [{ data: atSteps(second, step, POINTS), color: () => t.ink, strokeWidth: 1 }] : []),
            ],
          }}
          width={width}
          height={180}
          yAxisSuffix=" V"
          withDots={false}
          decimals={2}
          {...(ground && { ground })}
        />
      ) : null}
      {second ? (
        <Words size={14} soft>
          thick: the first; thin: the second
        </Words>
      ) : null}
    </View>
  );
}
