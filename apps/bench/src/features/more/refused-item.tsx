import type { Problem } from '@gavrel/contract';
import { type LoggedEntry, upcast } from '@gavrel/core';
import { useEffect, useState } from 'react';
import { View } from 'react-native';
import { entryById } from '../../device/store';
import { useActions } from '../../state/context';
import { Field } from '../../ui/field';
import { Row } from '../../ui/frame';
import { Button } from '../../ui/buttons';
import { entryWords } from '../../ui/say';
import { Words } from '../../ui/words';
import { mended, wrongValues } from './mend-refused';

/** What the server sent back: what was said, what is wrong with it, and the wrong value to type anew. */
export function RefusedItem({ id, problem }: { id: string; problem: Problem }) {
  const actions = useActions();
  const [entry, setEntry] = useState<LoggedEntry | null>(null);
  const [typed, setTyped] = useState<Readonly<Record<number, string>>>({});
  useEffect(() => {
    let here = true;
    void entryById(id).then((e) => here && setEntry(e ? upcast(e) : null));
    return () => void (here = false);
  }, [id]);
  const wrong = entry ? wrongValues(entry, problem.errors ?? []) : [];
  const values = wrong.map((w, i) => typed[i] ?? w.value);
  const told = new Set(wrong.map((w) => w.path.join('.')));
  const send = async () => {
    // The new one first: were it not kept, the old one would still be here.
    const kept = await actions.write([mended(entry!, wrong, values)], `mended: ${entryWords(entry!)}`).catch(() => null);
    if (kept) await actions.discard(id);
  };
  return (
    <View style={{ gap: 6 }} testID="refused">
      <Words bold>{`${problem.title}. ${problem.detail ?? ''}`}</Words>
      {entry ? <Words>{`You wrote: ${entryWords(entry)}`}</Words> : null}
      {problem.errors
        ?.filter((e) => !told.has(e.field.replace(/^body\./, '')))
        .map((e) => (
          <Words key={e.field}>{`${e.field}: ${e.detail}`}</Words>
        ))}
      {wrong.map((w, i) => (
        <View key={w.path.join('.')} style={{ gap: 2 }}>
          <Words>{w.why}</Words>
          <Field
            label={w.label}
            value={values[i]!}
            onChange={(v) => setTyped((s) => ({ ...s, [i]: v }))}
            multiline={w.value.length > 60}
            testID={`mend-${w.path.join('.')}`}
          />
        </View>
      ))}
      <Row>
        {wrong.length > 0 ? (
          <Button
            label="Send it mended"
            tone="next"
            disabled={wrong.every((w, i) => w.value === values[i])}
            onPress={() => send()}
            testID="mend-send"
          />
        ) : null}
        <Button
          label="Put it away"
          hint="it was not taken in; write it again where you wrote it"
          onPress={() => actions.discard(id)}
        />
      </Row>
    </View>
  );
}
