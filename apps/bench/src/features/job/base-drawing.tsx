import type { FastenersBody } from '@gavrel/core';
import { useState } from 'react';
import { Image, View } from 'react-native';
import Svg, { Line, Rect } from 'react-native-svg';
import { usePicture } from '../../entry/pictures';
import { useTokens } from '../../theme';
import { ScrewMark, screwWords } from './screw-mark';

const W = 340;

/** The base to scale with its screws. Tapping it answers where, as fractions. */
export function Base({
  body,
  picked,
  onTap,
}: {
  body: FastenersBody;
  picked?: number | null;
  onTap?: (x: number, y: number) => void;
}) {
  const t = useTokens();
  const ratio = body.ratio ?? 1.45;
  const h = W / ratio;
  const url = usePicture(body.photo);
  const [cursor, setCursor] = useState<readonly [number, number] | null>(null);
  const onKey = (e: { key: string; preventDefault: () => void }) => {
    const move = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, -1], ArrowDown: [0, 1] }[e.key];
    const [x, y] = cursor ?? [0.5, 0.5];
    if (move) {
      e.preventDefault();
      setCursor([Math.min(1, Math.max(0, x + move[0]! / 40)), Math.min(1, Math.max(0, y + move[1]! / 28))]);
    } else if (e.key === 'Enter' || e.key === ' ') {
      e.preventDefault();
      onTap?.(x, y);
    }
  };
  const drawing = (
    <Svg width="100%" height="100%" viewBox={`0 0 ${W} ${h}`} aria-hidden>
      <Rect x={2} y={2} width={W - 4} height={h - 4} rx={14} fill="none" stroke={t.ink} strokeWidth={2} />
      <Line x1={W * 0.16} x2={W * 0.36} y1={5} y2={5} stroke={t.ink} strokeWidth={5} />
      <Line x1={W * 0.64} x2={W * 0.84} y1={5} y2={5} stroke={t.ink} strokeWidth={5} />
      {body.screws.map((s) => (
        <ScrewMark key={s.id} s={s} x={s.x * W} y={s.y * h} ink={t.ink} ground={t.card} picked={picked === s.id} />
      ))}
      {cursor ? (
        <>
          <Line
            x1={cursor[0] * W - 10}
            x2={cursor[0] * W + 10}
            y1={cursor[1] * h}
            y2={cursor[1] * h}
            stroke={t.accent}
            strokeWidth={2}
          />
          <Line
            x1={cursor[0] * W}
            x2={cursor[0] * W}
            y1={cursor[1] * h - 10}
            y2={cursor[1] * h + 10}
            stroke={t.accent}
            strokeWidth={2}
          />
        </>
      ) : null}
    </Svg>
  );
  const web = onTap
    ? {
        onClick: (e: { clientX: number; clientY: number; currentTarget: { getBoundingClientRect: () => DOMRect } }) => {
          const r = e.currentTarget.getBoundingClientRect();
          onTap((e.clientX - r.left) / r.width, (e.clientY - r.top) / r.height);
        },
        onKeyDown: onKey,
        onFocus: () => setCursor([0.5, 0.5]),
        onBlur: () => setCursor(null),
        tabIndex: 0 as const,
        role: 'application' as const,
        'aria-label': 'base from below, hinge side up: tap, or move with the arrow keys and press Enter, to place a screw',
      }
    : { role: 'img' as const, 'aria-label': `base with ${body.screws.map(screwWords).join('; ') || 'no screws'}` };
  return (
    <View
      {...(web as object)}
      testID="base"
      style={{
        width: '100%',
        maxWidth: 460,
        aspectRatio: ratio,
        alignSelf: 'center',
        backgroundColor: t.card,
        outlineColor: t.accent,
      }}
    >
      {url ? (
        <Image
          source={{ uri: url }}
          style={{ position: 'absolute', inset: 0, opacity: 0.35 }}
          resizeMode="stretch"
          accessibilityLabel=""
        />
      ) : null}
      {drawing}
    </View>
  );
}
