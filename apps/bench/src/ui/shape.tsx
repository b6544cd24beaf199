import type { Condition } from '@gavrel/core';
import { View } from 'react-native';
import Svg, { Circle, Path, Rect } from 'react-native-svg';
import { useTokens } from '../theme';

/** The five conditions, each with a shape and fill of its own, readable in grey at 16 px. */
export function ConditionShape({
  condition,
  size = 20,
  color,
  named,
}: {
  condition: Condition;
  size?: number;
  color?: string;
  named?: boolean;
}) {
  const t = useTokens();
  const c = color ?? (condition === 'critical' ? t.critical : t.ink);
  const stroke = { stroke: c, strokeWidth: 2.6, fill: 'none' };
  const body = {
    sound: <Circle cx={12} cy={12} r={8.6} {...stroke} />,
    spent: (
      <>
        <Circle cx={12} cy={12} r={8.6} {...stroke} />
        <Path d="M3.4 12 a8.6 8.6 0 0 0 17.2 0 Z" fill={c} />
      </>
    ),
    unproven: <Circle cx={12} cy={12} r={8.6} {...stroke} strokeDasharray="5.6 3.4" />,
    damaged: <Path d="M12 2 L22.5 21 H1.5 Z" fill={c} />,
    critical: (
      <>
        <Rect x={2} y={2} width={20} height={20} fill={c} />
        <Rect x={5} y={10} width={14} height={4} fill={color ? t.critical : t.onCritical} />
      </>
    ),
  }[condition];
  return (
    // Read out only where the word does not stand beside it.
    <View {...(named ? { role: 'img' as const, 'aria-label': condition } : { 'aria-hidden': true })}>
      <Svg width={size} height={size} viewBox="0 0 24 24">
        {body}
      </Svg>
    </View>
  );
}
