import { displayText, type Nature } from '@gavrel/core';
import { Pressable, View } from 'react-native';
import Svg, { Line, Rect } from 'react-native-svg';
import { useTokens } from '../theme';
import { useDisplay } from './display';
import { Figures } from './words';

/** Measuring points on the flat of the pack, as fractions of its width and height. */
export const POINTS = {
  'rear-left': [0.16, 0.2],
  'rear-right': [0.84, 0.2],
  centre: [0.5, 0.5],
  'front-left': [0.16, 0.8],
  'front-right': [0.84, 0.8],
} as const;
export type Point = keyof typeof POINTS;

const W = 330;
const H = 150;

/** The pack with its cells as blocks, its connector at the rear edge, and the measuring points to tap. */
export function PackDrawing({
  nature,
  readings,
  onPoint,
}: {
  nature: Nature;
  readings: Readonly<Partial<Record<Point, string>>>;
  onPoint?: (p: Point) => void;
}) {
  const t = useTokens();
  const display = useDisplay();
  const series = nature.series ?? 3;
  const parallel = nature.parallel ?? 1;
  const known = nature.series !== null;
  const cw = (W - 20) / series;
  const ch = (H - 26) / parallel;
  const blocks = Array.from({ length: series * parallel }, (_, i) => ({
    x: 10 + (i % series) * cw,
    y: 18 + Math.floor(i / series) * ch,
  }));
  const named = known ? `${series}S${parallel}P` : 'cells not known';
  return (
    <View
      style={{ width: '100%', maxWidth: W, aspectRatio: W / H, alignSelf: 'center' }}
      role={onPoint ? 'group' : 'img'}
      aria-label={`pack, ${named}`}
    >
      <Svg width="100%" height="100%" viewBox={`0 0 ${W} ${H}`} aria-hidden>
        <Rect x={W / 2 - 26} y={2} width={52} height={10} fill={t.ink} />
        {[0, 1, 2, 3, 4].map((i) => (
          <Line key={i} x1={W / 2 - 16 + i * 8} x2={W / 2 - 16 + i * 8} y1={4} y2={10} stroke={t.card} strokeWidth={2} />
        ))}
        <Rect x={4} y={12} width={W - 8} height={H - 16} fill="none" stroke={t.ink} strokeWidth={2.5} />
        {blocks.map((b, i) => (
          <Rect
            key={i}
            x={b.x + 3}
            y={b.y + 2}
            width={cw - 6}
            height={ch - 6}
            fill={t.ground}
            stroke={t.line}
            strokeWidth={1.5}
            strokeDasharray={known ? undefined : '5 4'}
          />
        ))}
      </Svg>
      {onPoint
        ? (Object.keys(POINTS) as Point[]).map((p) => {
            const [fx, fy] = POINTS[p];
            const value = readings[p];
            const shown = value && displayText(`${value} mm`, display);
            return (
              <Pressable
                key={p}
                role="button"
                aria-label={`thickness at ${p}${shown ? `, ${shown}` : ', not measured'}`}
                onPress={() => onPoint(p)}
                testID={`point-${p}`}
                style={{
                  position: 'absolute',
                  left: `${fx * 100}%`,
                  top: `${fy * 100}%`,
                  width: 68,
                  height: 48,
                  marginLeft: -34,
                  marginTop: -24,
                  alignItems: 'center',
                  justifyContent: 'center',
                }}
              >
                <View
                  style={{
                    minWidth: 34,
                    minHeight: 30,
                    paddingHorizontal: 4,
                    alignItems: 'center',
                    justifyContent: 'center',
                    backgroundColor: value ? t.ink : t.card,
                    borderWidth: 2,
                    borderColor: t.ink,
                  }}
                >
                  <Figures size={15} bold color={value ? t.ground : t.ink}>
                    {shown?.split(' ')[0] ?? '+'}
                  </Figures>
                </View>
              </Pressable>
            );
          })
        : null}
    </View>
  );
}
