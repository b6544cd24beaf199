import { useRef } from 'react';
import { useDraft } from '../state/use-draft';

/**
 * Words that are kept when their field is left, and lie as a draft until then: nobody has to press a key for them, and nothing is lost.
 * @param form its name, with what it is about. @param before what stands on record. @param longest characters; longer ones stay a draft.
 * @param keep writes one of them down.
 */
export function useWords<F extends string>(
  form: string,
  before: Readonly<Record<F, string>>,
  longest: number,
  keep: (field: F, text: string) => Promise<unknown>,
) {
  const [touched, setTouched] = useDraft<Partial<Record<F, string>>>(`words ${form}`, {});
  // A field that is left twice while it is being written is written once.
  const writing = useRef(new Map<F, string>());
  const text = (f: F): string => touched[f] ?? before[f];
  const leave = (f: F): void => {
    const x = text(f).trim();
    // What stands on record is taken back in the history: a field that was emptied shows that it still stands.
    if (x === '' && before[f] !== '') setTouched(({ [f]: _emptied, ...rest }) => rest as typeof touched);
    if (x === '' || x === before[f] || x.length > longest || writing.current.get(f) === x) return;
    writing.current.set(f, x);
    keep(f, x)
      // What was typed on meanwhile stays.
      .then(() => setTouched(({ [f]: now, ...rest }) => (now?.trim() === x ? rest : { ...rest, [f]: now }) as typeof touched))
      .catch(() => undefined)
      .finally(() => writing.current.delete(f));
  };
  return (f: F) => ({
    value: text(f),
    onChange: (x: string) => setTouched((s) => ({ ...s, [f]: x })),
    onLeave: () => leave(f),
    onSubmit: () => leave(f),
    longest,
  });
}
