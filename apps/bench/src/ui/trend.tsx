import { differenceInDays, format, parseISO } from 'date-fns';
import { useState } from 'react';
import { View } from 'react-native';
import { useTokens } from '../theme';
import { displayDecimals, displayUnit, displayValue } from '@gavrel/core';
import { LineChart } from './chart';
import { useDisplay, useShownText } from './display';
import { Words } from './words';

/** Most points that a phone's width shows apart. */
const MOST = 8;

interface TrendPoint {
  readonly at: string;
  readonly value: number;
  /** Between which two the truth lies; drawn as thin lines where all points have them. */
  readonly lo?: number;
  readonly hi?: number;
}

/** What was measured over time against a level line; nothing while there is only one. */
export function Trend({
  what,
  points,
  level,
  unit,
  decimals,
  fromZero = false,
  words,
}: {
  /** What is said to who does not see it. */
  what: string;
  points: readonly TrendPoint[];
  level: number | null;
  unit: string;
  decimals: number;
  fromZero?: boolean;
  /** What the lines are, below them. */
  words: string;
}) {
  const t = useTokens();
  const display = useDisplay();
  const text = useShownText();
  const inUnit = (x: number) => displayValue(x, unit, display);
  const [width, setWidth] = useState(0);
  const shown = points.slice(-MOST);
  if (shown.length < 2) return null;
  const years = differenceInDays(parseISO(shown[shown.length - 1]!.at), parseISO(shown[0]!.at)) > 300;
  const said = shown
    .map(
      (p) =>
        `${format(parseISO(p.at), years ? 'd MMM yyyy' : 'd MMM HH:mm')} ${p.value.toFixed(decimals)} ${unit}${p.lo === undefined || p.hi === undefined ? '' : `, ${p.lo.toFixed(decimals)} to ${p.hi.toFixed(decimals)} ${unit}`}`,
    )
    .join('; ');
  const ends = shown.every((p) => p.lo !== undefined && p.hi !== undefined)
    ? [shown.map((p) => inUnit(p.lo!)), shown.map((p) => inUnit(p.hi!))]
    : [];
  const days = new Set(shown.map((p) => p.at.slice(0, 10))).size === shown.length;
  return (
    <View role="img" aria-label={text(`${what}: ${said}`)} onLayout={(e) => setWidth(Math.min(520, e.nativeEvent.layout.width))}>
      {width > 0 ? (
        <LineChart
          data={{
            labels: shown
              .map((p) => format(parseISO(p.at), years ? 'MMM yy' : days ? 'd MMM' : 'EEE HH:mm'))
              .map((l, i) => (i % 2 === 0 || shown.length < 4 ? l : '')),
            datasets: [
              { data: shown.map((p) => inUnit(p.value)), color: () => t.accent, strokeWidth: 3 },
              ...ends.map((data) => ({ data, color: () => t.line, strokeWidth: 1, withDots: false })),
              ...(level === null
                ? []
                : [{ data: shown.map(() => inUnit(level)), color: () => t.ink, strokeWidth: 2, withDots: false }]),
            ],
          }}
          width={width}
          height={170}
          yAxisSuffix={` ${displayUnit(unit, display)}`}
          fromZero={fromZero}
          decimals={displayDecimals(decimals, unit, display)}
        />
      ) : null}
      <Words size={14} soft>
        {words}
      </Words>
    </View>
  );
}
