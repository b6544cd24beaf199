import { type KeyboardEvent, type ReactNode, useRef, useState } from 'react';
import { Pressable, type StyleProp, View, type ViewStyle } from 'react-native';
import { SPACE, TARGET, useTokens } from '../theme';
import { useShownText } from './display';
import { Words } from './words';

interface ButtonProps {
  readonly label: string;
  /** What it returns is waited for, not for ever: until then another press is the same tap, done twice. */
  readonly onPress: () => unknown;
  readonly children?: ReactNode;
  /** `next` is the one accent on a screen: the next action. */
  readonly tone?: 'plain' | 'next' | 'quiet' | 'critical';
  readonly selected?: boolean;
  readonly disabled?: boolean;
  readonly height?: number;
  readonly style?: StyleProp<ViewStyle>;
  readonly size?: number;
  readonly testID?: string;
  readonly role?: 'button' | 'radio' | 'checkbox' | 'switch' | 'option';
  readonly hint?: string;
  /** The children are a sign, not words: the label names the key. */
  readonly sign?: boolean;
}

/** What takes longer may be asked for again, ms: a file dialog that was closed may never answer. */
const SAME_TAP_MS = 3000;

/** A square key, as on an instrument. State shows by fill and frame, never by colour alone. */
export function Button({
  label,
  onPress,
  children,
  tone = 'plain',
  selected,
  disabled,
  height = TARGET,
  style,
  size = 16,
  testID,
  role = 'button',
  hint,
  sign,
}: ButtonProps) {
  const t = useTokens();
  const shown = useShownText();
  const [focus, setFocus] = useState(false);
  const busy = useRef(Number.NEGATIVE_INFINITY);
  const press = () => {
    const at = performance.now();
    if (at - busy.current < SAME_TAP_MS) return;
    const work = onPress();
    if (!(work instanceof Promise)) return;
    busy.current = at;
    void work.finally(() => (busy.current = Number.NEGATIVE_INFINITY));
  };
  const filled = tone === 'next' || tone === 'critical' || selected;
  const ground =
    tone === 'next' ? t.accent : tone === 'critical' ? t.critical : selected ? t.ink : tone === 'quiet' ? 'transparent' : t.card;
  const ink = tone === 'next' ? t.onAccent : tone === 'critical' ? t.onCritical : selected ? t.ground : t.ink;
  const state =
    role === 'button'
      ? selected === undefined
        ? {}
        : { 'aria-pressed': selected }
      : role === 'option'
        ? { 'aria-selected': selected ?? false }
        : { 'aria-checked': selected ?? false };
  return (
    <Pressable
      role={role}
      // What stands on a key is its name; a label is needed only where a sign or nothing stands on it.
      aria-label={children && !sign ? undefined : shown(hint ? `${label}, ${hint}` : label)}
      {...state}
      aria-disabled={disabled}
      disabled={disabled}
      onPress={press}
      onFocus={() => setFocus(true)}
      onBlur={() => setFocus(false)}
      testID={testID}
      style={({ pressed }) => [
        {
          minHeight: height,
          minWidth: TARGET,
          paddingHorizontal: SPACE,
          paddingVertical: 6,
          alignItems: 'center',
          justifyContent: 'center',
          borderWidth: filled ? 0 : tone === 'quiet' ? 0 : 1,
          borderColor: t.line,
          backgroundColor: pressed && !filled ? t.wash : ground,
          opacity: disabled ? 0.45 : 1,
          outlineStyle: 'solid',
          outlineWidth: focus ? 3 : 0,
          outlineColor: t.accent,
          outlineOffset: 2,
        },
        style,
      ]}
    >
      {children ?? (
        <Words bold={filled} size={size} color={ink} style={{ textAlign: 'center' }}>
          {label}
        </Words>
      )}
    </Pressable>
  );
}

const STEPS: Readonly<Record<string, number>> = { ArrowRight: 1, ArrowDown: 1, ArrowLeft: -1, ArrowUp: -1 };

/** Arrows go from key to key of a group; they choose nothing by themselves, since what is chosen is written. */
export function onArrows(e: KeyboardEvent<Element>): void {
  const step = STEPS[e.key];
  const keys = [...e.currentTarget.querySelectorAll<HTMLElement>('[role="radio"], [role="option"]')];
  const at = keys.indexOf(document.activeElement as HTMLElement);
  if (step === undefined || at < 0) return;
  e.preventDefault();
  keys[(at + step + keys.length) % keys.length]!.focus();
}

/** A row of keys of which one is chosen. */
export function Choice<T extends string>({
  label,
  options,
  value,
  onChange,
  words,
  height,
}: {
  label: string;
  options: readonly T[];
  value: T | null;
  onChange: (v: T) => void;
  words?: Readonly<Partial<Record<T, string>>>;
  height?: number;
}) {
  return (
    <View
      role="radiogroup"
      aria-label={label}
      style={{ flexDirection: 'row', flexWrap: 'wrap', gap: 6 }}
      {...({ onKeyDown: onArrows } as object)}
    >
      {options.map((o) => (
        <Button key={o} label={words?.[o] ?? o} role="radio" selected={o === value} onPress={() => onChange(o)} height={height} />
      ))}
    </View>
  );
}
