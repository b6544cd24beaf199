import { useCallback, useRef, useState } from 'react';
import { beginning, keepBeginning } from '../device/drafts';
import { useAppSelector } from './index';

/**
 * A form's state that outlives Escape, Back, another station, a reload and a crash of the page: it is kept on the device for this person until
 * the form says that it is done.
 * @param form its name, with what it is about. @param empty what it starts from, and what is not worth keeping.
 * @returns the value, its setter, and what ends it.
 */
export function useDraft<T>(form: string, empty: T): readonly [T, (next: T | ((before: T) => T)) => void, () => void] {
  const person = useAppSelector((s) => s.session.session?.person.id ?? '');
  const name = `${person} ${form}`;
  const start = useRef(empty);
  const [value, setValue] = useState<T>(() => (beginning(name) as T | undefined) ?? empty);
  const latest = useRef(value);
  latest.current = value;
  const set = useCallback(
    (next: T | ((before: T) => T)) => {
      const v = typeof next === 'function' ? (next as (before: T) => T)(latest.current) : next;
      latest.current = v;
      setValue(v);
      keepBeginning(name, JSON.stringify(v) === JSON.stringify(start.current) ? undefined : v);
    },
    [name],
  );
  const done = useCallback(() => keepBeginning(name, undefined), [name]);
  return [value, set, done];
}
