import type { PackFacts } from '@gavrel/core';
import { useState } from 'react';
import { draft } from '../device/write';
import { Field } from '../ui/field';
import { Button } from '../ui/buttons';
import { Sheet } from '../ui/sheet';
import { Words } from '../ui/words';
import type { Keep } from './card';

/** One full cycle in a host, where its cells cannot be seen one by one. */
export function CycleKey({ facts, onKeep }: { facts: PackFacts; onKeep: Keep }) {
  const [open, setOpen] = useState(false);
  const [note, setNote] = useState('');
  const went = (how: 'as-usual' | 'not-as-usual') =>
    onKeep(
      draft('cycled', [`pack:${facts.id}`], { went: how, ...(note.trim() && { note: note.trim() }) }),
      'one full cycle',
    ).then(() => setOpen(false));
  return (
    <>
      <Button label="One full cycle in a host…" onPress={() => setOpen(true)} testID="open-cycle" />
      {open ? (
        <Sheet title="One full cycle in a host" onClose={() => setOpen(false)}>
          <Words>
            Charged full, run down and charged again in a machine it fits, somebody beside it. Only a pack on which nothing was
            found.
          </Words>
          <Field label="A few words (optional)" value={note} onChange={setNote} testID="cycle-note" />
          <Button
            label="As usual: full, down and full again"
            tone="next"
            height={64}
            onPress={() => went('as-usual')}
            testID="cycle-as-usual"
          />
          <Button
            label="Not as usual: heat, a jump, an early end"
            height={64}
            onPress={() => went('not-as-usual')}
            testID="cycle-not"
          />
        </Sheet>
      ) : null}
    </>
  );
}
