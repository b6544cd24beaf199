import { useRef } from 'react';
import { View } from 'react-native';
import Svg, { Path } from 'react-native-svg';
import { useTokens } from '../../theme';

/** A line of the finger, in the units of the box. */
export type Stroke = readonly (readonly [number, number])[];
/** What a signature is drawn in. */
export const BOX = { width: 340, height: 140 };

/** A finger signs here. */
export function SignaturePad({ strokes, onStrokes }: { strokes: readonly Stroke[]; onStrokes: (s: readonly Stroke[]) => void }) {
  const t = useTokens();
  const drawing = useRef(false);
  const at = (e: { clientX: number; clientY: number; currentTarget: Element }): readonly [number, number] => {
    const r = e.currentTarget.getBoundingClientRect();
    return [((e.clientX - r.left) / r.width) * BOX.width, ((e.clientY - r.top) / r.height) * BOX.height];
  };
  const web = {
    onPointerDown: (e: PointerEvent & { currentTarget: Element }) => {
      drawing.current = true;
      onStrokes([...strokes, [at(e)]]);
    },
    onPointerMove: (e: PointerEvent & { currentTarget: Element }) => {
      if (!drawing.current) return;
      const last = strokes[strokes.length - 1] ?? [];
      onStrokes([...strokes.slice(0, -1), [...last, at(e)]]);
    },
    onPointerUp: () => (drawing.current = false),
    onPointerLeave: () => (drawing.current = false),
  };
  return (
    <View
      {...(web as object)}
      testID="signature"
      role="img"
      aria-label="signature, drawn with a finger"
      style={{
        width: '100%',
        aspectRatio: BOX.width / BOX.height,
        borderWidth: 1,
        borderColor: t.line,
        backgroundColor: '#FFFFFF',
        ...({ touchAction: 'none' } as object),
      }}
    >
      <Svg width="100%" height="100%" viewBox={`0 0 ${BOX.width} ${BOX.height}`} aria-hidden>
        {strokes.map((s, i) => (
          <Path
            key={i}
            d={s.map(([x, y], n) => `${n === 0 ? 'M' : 'L'}${x.toFixed(1)} ${y.toFixed(1)}`).join(' ')}
            stroke="#1B1A16"
            strokeWidth={2.5}
            fill="none"
          />
        ))}
      </Svg>
    </View>
  );
}
