import type { ReactNode } from 'react';
import { type StyleProp, Text as Plain, type TextStyle } from 'react-native';
import { Text } from 'react-native-paper';
import { displayText } from '@gavrel/core';
import { useDisplay } from './display';
import { FIGURES, FIGURES_BOLD, useTokens, WORDS, WORDS_BOLD } from '../theme';

interface Props {
  readonly children: ReactNode;
  readonly size?: number;
  readonly bold?: boolean;
  readonly soft?: boolean;
  readonly color?: string;
  readonly style?: StyleProp<TextStyle>;
  readonly lines?: number;
  readonly testID?: string;
  readonly id?: string;
  /** Read out when it changes. */
  readonly live?: boolean;
}

/** A tag, a day, a UN number, so many screws of a size, a figure with its unit: read as one word, so never broken at its hyphen or space. */
const WHOLE =
  /\b([A-Z]{1,6}-\d{1,6}|\d+ × M\d(?:[.,]\d)? × \d+(?:[.,]\d+)? mm|\d{4}-\d{2}-\d{2}|UN \d{4}|\d+(?:[.,]\d+)? (?:mm|in|kg|g|mV|V|mAh|Ah|mA|A|mWh|Wh|W|mΩ|Ω|°C|°F|%|s|min|h))(?!\w)/;
const UNBROKEN = { whiteSpace: 'nowrap' } as unknown as TextStyle;

/** Parts that stand beside one another as one text; what holds more than text as it is. */
function joined(children: ReactNode): ReactNode {
  if (!Array.isArray(children)) return typeof children === 'number' ? String(children) : children;
  const parts = children.filter((c) => c !== null && c !== undefined && typeof c !== 'boolean');
  return parts.every((c) => typeof c === 'string' || typeof c === 'number') ? parts.join('') : children;
}

/** A text as the workshop reads its figures and days, with what must stay on one line kept there. */
function useShown(children: ReactNode): ReactNode {
  const d = useDisplay();
  const text = joined(children);
  return unbroken(typeof text === 'string' ? displayText(text, d) : text);
}

/** The same text, with what must stay on one line kept there. */
function unbroken(children: ReactNode): ReactNode {
  if (typeof children !== 'string' || !WHOLE.test(children)) return children;
  // What a pattern caught stands at every second place.
  return children.split(WHOLE).map((part, i) =>
    i % 2 === 0 ? (
      part
    ) : (
      <Plain key={i} style={UNBROKEN}>
        {part}
      </Plain>
    ),
  );
}

function Base({ children, size = 16, soft, color, style, lines, live, testID, id, family }: Props & { family: string }) {
  const t = useTokens();
  const shown = useShown(children);
  const look = {
    fontFamily: family,
    fontSize: size,
    lineHeight: Math.round(size * 1.35),
    color: color ?? (soft ? t.soft : t.ink),
  };
  return (
    <Text style={[look, style]} numberOfLines={lines} testID={testID} nativeID={id} aria-live={live ? 'polite' : undefined}>
      {shown}
    </Text>
  );
}

/** Running words. */
export const Words = (p: Props) => <Base {...p} family={p.bold ? WORDS_BOLD : WORDS} />;
/** Figures and codes: monospaced, slashed zero. */
export const Figures = (p: Props) => <Base {...p} family={p.bold ? FIGURES_BOLD : FIGURES} />;

/** A heading of a card or screen. */
export function Heading({
  children,
  level = 2,
  size = 19,
  style,
  color,
}: {
  children: ReactNode;
  level?: 1 | 2 | 3;
  size?: number;
  style?: StyleProp<TextStyle>;
  color?: string;
}) {
  const t = useTokens();
  const shown = useShown(children);
  return (
    <Text
      role="heading"
      aria-level={level}
      style={[{ fontFamily: WORDS_BOLD, fontSize: size, lineHeight: Math.round(size * 1.3), color: color ?? t.ink }, style]}
    >
      {shown}
    </Text>
  );
}
