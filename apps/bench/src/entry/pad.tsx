import { View } from 'react-native';
import { BIG_TARGET } from '../theme';
import { Button } from '../ui/buttons';
import { displayDigits, type Figure } from '@gavrel/core';
import { useDisplay } from '../ui/display';
import { Figures } from '../ui/words';
import type { NumberTask } from './number-task';

const ROWS = [
  ['7', '8', '9', '⌫'],
  ['4', '5', '6', '±'],
  ['1', '2', '3', 'unit'],
  [',', '0', 'last'],
] as const;

interface PadProps {
  readonly task: NumberTask;
  readonly unit: string;
  readonly onUnit: () => void;
  readonly onPress: (k: string) => void;
  readonly last: Figure | undefined;
  readonly onLast: () => void;
}

/** One key of the pad: a digit, or one of the four at its right edge. */
function PadKey({
  name,
  task,
  unit,
  last,
  onUnit,
  onPress,
  onLast,
}: PadProps & { readonly name: (typeof ROWS)[number][number] }) {
  const d = useDisplay();
  const lastDigits = last && displayDigits(last.digits, d);
  const special = {
    '⌫': { label: 'delete', shown: '⌫', act: () => onPress('⌫'), off: false },
    '±': { label: 'change the sign', shown: '±', act: () => onPress('±'), off: !task.signed },
    unit: { label: `unit ${unit}`, shown: unit, act: onUnit, off: task.units.length < 2 },
    last: {
      label: lastDigits === undefined ? '=, no last time' : `= ${lastDigits}, same as last time`,
      shown: lastDigits === undefined ? '=' : `= ${lastDigits}`,
      act: onLast,
      off: last === undefined,
    },
    ',': { label: 'decimal mark', shown: displayDigits(',', d), act: () => onPress(','), off: false },
  }[name as '⌫'];
  return (
    <Button
      label={special?.label ?? name}
      sign
      height={BIG_TARGET}
      style={{ flex: name === 'last' ? 2.07 : 1, paddingHorizontal: 2 }}
      disabled={special?.off}
      onPress={special?.act ?? (() => onPress(name))}
      testID={`key-${name}`}
    >
      <Figures size={special && name !== ',' ? 19 : 26} bold>
        {special?.shown ?? name}
      </Figures>
    </Button>
  );
}

/** The keys of the keypad: digits, delete, sign, unit, and the number of last time. */
export function Pad(props: PadProps) {
  return (
    <View style={{ gap: 6 }}>
      {ROWS.map((row) => (
        <View key={row[0]} style={{ flexDirection: 'row', gap: 6 }}>
          {row.map((k) => (
            <PadKey key={k} name={k} {...props} />
          ))}
        </View>
      ))}
    </View>
  );
}
