import { beyondWords, type Limit } from '@gavrel/core';
import { View } from 'react-native';
import Svg, { Line, Path, Rect } from 'react-native-svg';
import { useTokens } from '../theme';
import { useShownText } from './display';
import { Figures, Words } from './words';

const W = 320;
const H = 44;

/**
 * One drawing for every decision with a number: the limit as a line, the reading as a mark with its uncertainty, the undecided zone
 * shaded, the consequence written on each side.
 */
export function LimitScale({ limit: l }: { limit: Limit }) {
  const t = useTokens();
  const shown = useShownText();
  const reach = Math.max(Math.abs(l.value - l.limit) * 1.35 + l.u, l.u * 4, Math.abs(l.limit) * 0.02, 1e-6);
  const x = (v: number) => Math.min(W - 6, Math.max(6, W / 2 + ((v - l.limit) / reach) * (W / 2 - 12)));
  const digits = (v: number) => v.toFixed(l.decimals);
  const figure = (v: number) => `${digits(v)} ${l.unit}`.trim();
  const verdict = l.verdict === 'pass' ? 'inside' : l.verdict === 'fail' ? 'beyond' : 'too close to tell';
  const said = `${l.label}: ${figure(l.value)}${l.u === 0 ? '' : `, plus or minus ${figure(l.u)}`}; limit ${figure(l.limit)}; ${verdict}`;
  const worse = beyondWords(l);
  const sides = l.side === 'max' ? ['ok', worse] : [worse, 'ok'];
  const side = (i: 0 | 1) => (
    <View style={{ flex: 1 }}>
      <Words size={14} bold={sides[i] === worse} soft={sides[i] === 'ok'} style={{ textAlign: i === 0 ? 'left' : 'right' }}>
        {sides[i]}
      </Words>
    </View>
  );
  return (
    <View role="img" aria-label={shown(said)} style={{ gap: 2, width: '100%', maxWidth: 520 }}>
      <View style={{ flexDirection: 'row', justifyContent: 'space-between', flexWrap: 'wrap', gap: 6 }}>
        <Words size={15}>{l.label}</Words>
        <Figures size={15} bold>
          {l.u === 0 ? figure(l.value) : `${digits(l.value)} ±${figure(l.u)}`}
        </Figures>
      </View>
      <Svg width="100%" height={H} viewBox={`0 0 ${W} ${H}`} preserveAspectRatio="none">
        <Rect x={x(l.limit - l.u)} y={8} width={Math.max(2, x(l.limit + l.u) - x(l.limit - l.u))} height={28} fill={t.wash} />
        <Line x1={4} x2={W - 4} y1={22} y2={22} stroke={t.line} strokeWidth={1.5} />
        <Line x1={x(l.limit)} x2={x(l.limit)} y1={3} y2={41} stroke={t.ink} strokeWidth={3} />
        <Line x1={x(l.value - l.u)} x2={x(l.value + l.u)} y1={22} y2={22} stroke={t.accent} strokeWidth={5} />
        <Path d={`M${x(l.value)} 16 l6 -12 h-12 Z`} fill={t.accent} />
      </Svg>
      <View style={{ flexDirection: 'row', gap: 6 }}>
        {side(0)}
        <Figures size={14} soft>
          {figure(l.limit)}
        </Figures>
        {side(1)}
      </View>
    </View>
  );
}
