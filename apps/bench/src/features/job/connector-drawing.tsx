import type { Connector } from '@gavrel/core';
import Svg, { Circle, Path, Rect } from 'react-native-svg';
import { useTokens } from '../../theme';

/** Each connector with the move that releases it, as a small line drawing. */
export function ConnectorDrawing({ kind, ink }: { kind: Connector; ink?: string }) {
  const t = useTokens();
  const c = ink ?? t.ink;
  const line = { stroke: c, strokeWidth: 2, fill: 'none' } as const;
  const move = { stroke: c, strokeWidth: 1.8, fill: 'none' } as const;
  const socket = <Rect x={6} y={24} width={44} height={12} {...line} />;
  const body = {
    'pull-out plug': (
      <>
        {socket}
        <Rect x={14} y={12} width={28} height={14} {...line} />
        <Path d="M18 12 V4 M28 12 V4 M38 12 V4" {...line} />
        <Path d="M8 18 l-4 -4 m4 4 h-6 M48 18 l4 -4 m-4 4 h6" {...move} />
      </>
    ),
    'side tabs': (
      <>
        {socket}
        <Rect x={14} y={10} width={28} height={16} {...line} />
        <Path d="M14 14 h-4 v8 h4 M42 14 h4 v8 h-4" {...line} />
        <Path d="M2 18 h5 l-2 -2 m2 2 l-2 2 M54 18 h-5 l2 -2 m-2 2 l2 2" {...move} />
      </>
    ),
    'push-ridge slider': (
      <>
        {socket}
        <Rect x={12} y={12} width={32} height={12} {...line} />
        <Path d="M18 12 v12 M38 12 v12" {...line} />
        <Path d="M22 6 h14 l-4 -3 m4 3 l-4 3" {...move} />
      </>
    ),
    'locking bar': (
      <>
        {socket}
        <Rect x={14} y={14} width={28} height={10} {...line} />
        <Path d="M8 28 V10 H48 V28" {...line} strokeWidth={3.4} />
        <Path d="M28 10 V3 l-3 3 m3 -3 l3 3" {...move} />
      </>
    ),
    'lift-off': (
      <>
        <Rect x={8} y={30} width={40} height={6} {...line} />
        <Rect x={12} y={16} width={32} height={9} {...line} />
        <Path d="M20 12 V4 l-3 3 m3 -3 l3 3 M36 12 V4 l-3 3 m3 -3 l3 3" {...move} />
      </>
    ),
    flap: (
      <>
        {socket}
        <Path d="M8 24 L16 8 H40 L48 24" {...line} />
        <Path d="M22 16 a8 8 0 0 1 12 -6 l-4 -3 m4 3 l-2 4" {...move} />
      </>
    ),
    'blade dock': (
      <>
        <Path d="M6 36 V22 H14 V28 H20 V22 H26 V28 H32 V22 H38 V28 H44 V22 H50 V36 Z" {...line} />
        <Path d="M8 16 L48 8" {...line} />
        <Path d="M50 18 V6 l-3 3 m3 -3 l3 3" {...move} />
      </>
    ),
    'latched external': (
      <>
        <Rect x={4} y={8} width={32} height={24} {...line} />
        <Rect x={36} y={14} width={10} height={12} {...line} />
        <Circle cx={41} cy={20} r={2} fill={c} />
        <Path d="M50 20 h5 l-2 -2 m2 2 l-2 2" {...move} />
      </>
    ),
  }[kind];
  return (
    <Svg width={56} height={40} viewBox="0 0 56 40" aria-hidden>
      {body}
    </Svg>
  );
}
