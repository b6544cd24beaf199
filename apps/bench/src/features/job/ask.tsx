import { View } from 'react-native';
import { Choice } from '../../ui/keys';
import { Words } from '../../ui/words';

/** One question with its answers; a tap is said at once. */
export function Ask<T extends string>({
  label,
  options,
  value,
  onSay,
  words,
}: {
  label: string;
  options: readonly T[];
  value: T | undefined;
  onSay: (v: T) => void;
  words?: Readonly<Partial<Record<T, string>>>;
}) {
  // Two or three short answers stand beside their question.
  const beside = options.length <= 3 && options.reduce((n, o) => n + (words?.[o] ?? o).length, 0) <= 26;
  return (
    <View style={beside ? { flexDirection: 'row', flexWrap: 'wrap', alignItems: 'center', gap: 6 } : { gap: 4 }}>
      <Words size={15} soft={value !== undefined} style={beside ? { flexGrow: 1, flexBasis: 96 } : undefined}>
        {label}
      </Words>
      <Choice label={label} options={options} value={value ?? null} onChange={onSay} words={words} height={52} />
    </View>
  );
}

/** A short caution: what to do, then why. */
export function Caution({ children }: { children: string }) {
  return (
    <Words size={15} bold>
      {children}
    </Words>
  );
}
