import type { Answer, Station } from '@gavrel/core';
import { createContext, useContext } from 'react';
import { View } from 'react-native';
import { useAppDispatch, useAppSelector } from '../state';
import { cautionRead } from '../state/view';
import { Choice, Button } from '../ui/buttons';
import { agoWords } from '../ui/say';
import { Words } from '../ui/words';

/** One question with its answers; a tap is said at once. */
export function Ask<T extends string>({
  label,
  options,
  value,
  onSay,
  words,
  history = [],
}: {
  label: string;
  options: readonly T[];
  value: T | undefined;
  onSay: (v: T) => void;
  words?: Readonly<Partial<Record<T, string>>>;
  /** What was said before: shown where it differs from what stands. */
  history?: readonly Answer[];
}) {
  // Two or three short answers stand beside their question.
  const beside = options.length <= 3 && options.reduce((n, o) => n + (words?.[o] ?? o).length, 0) <= 26;
  return (
    <View style={beside ? { flexDirection: 'row', flexWrap: 'wrap', alignItems: 'center', gap: 6 } : { gap: 4 }}>
      <Words size={15} soft={value !== undefined} style={beside ? { flexGrow: 1, flexBasis: 96 } : undefined}>
        {label}
      </Words>
      <Choice
        label={label}
        options={options}
        value={value ?? null}
        onChange={(o) => (o === value ? undefined : onSay(o))}
        words={words}
        height={52}
      />
      <Before history={history} value={value} />
    </View>
  );
}

/** Who said otherwise, when, and whether it waits. */
function Before({ history, value }: { history: readonly Answer[]; value: unknown }) {
  const people = useAppSelector((s) => s.session.session?.people ?? []);
  if (history.every((a) => a.value === value)) return null;
  return (
    <View style={{ flexBasis: '100%' }}>
      {history.slice(-3).map((a) => (
        <Words key={`${a.id} ${String(a.value)}`} size={14} soft={!a.waits} bold={a.waits}>
          {`${String(a.value)}: ${people.find((p) => p.id === a.by)?.name ?? 'somebody'}, ${agoWords(a.at)}${a.waits ? ', waits for a second person' : ''}`}
        </Words>
      ))}
    </View>
  );
}

/** Leads to another station of the job that is open, and there to one of its packs. */
export const GoTo = createContext<(s: Station, pack?: string) => void>(() => undefined);

/** The pack that a station shows first; null: the first of the machine. */
export const PackShown = createContext<string | null>(null);

/** The job whose cautions can be put away; null elsewhere. */
export const CautionsOf = createContext<string | null>(null);

/** A short caution: what to do, then why. Read once, it can be put away for this job. */
export function Caution({ children }: { children: string }) {
  const dispatch = useAppDispatch();
  const job = useContext(CautionsOf);
  const key = `${job ?? ''} ${children}`;
  const away = useAppSelector((s) => s.view.putAway.includes(key));
  if (job !== null && away) return null;
  return (
    <View style={{ flexDirection: 'row', alignItems: 'center', gap: 8 }}>
      <Words size={15} bold style={{ flex: 1 }}>
        {children}
      </Words>
      {job === null ? null : (
        <Button
          label="Read"
          tone="quiet"
          size={14}
          hint={children}
          onPress={() => dispatch(cautionRead(key))}
          testID="caution-read"
        />
      )}
    </View>
  );
}
