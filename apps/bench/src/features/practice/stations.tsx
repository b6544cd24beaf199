import type { Ruling } from '@gavrel/core';
import { foundBy, type OwnEntry, recordUntil, ruledOn, type Session, SIMULATED_PACK } from '@gavrel/core/practice';
import { useCallback, useEffect, useMemo, useState } from 'react';
import { v4 } from 'uuid';
import type { Draft } from '../../device/write';
import { ApartContext } from '../../entry/apart';
import { Keypad } from '../../entry/keypad';
import { LabelCard } from '../../entry/label-card';
import { LookCard } from '../../entry/look-card';
import { MeasureCard } from '../../entry/measure-card';
import type { NumberTask } from '../../entry/number-task';
import { SwellingCard } from '../../entry/swelling-card';
import { useDraft } from '../../state/use-draft';
import { shownWords } from './shown';

/** The ruling without what it amounts to: whoever bets judges by themselves. What was written stands on the cards all the same. */
const withoutVerdict = (r: Ruling): Ruling => ({
  ...r,
  limits: [],
  judgement: {
    ...r.judgement,
    condition: 'unproven',
    notExcluded: [],
    findings: r.judgement.findings.filter((f) => f.from === 'recorded'),
  },
});

/** The stations of a real pack, for one that does not exist: what is kept on them goes into the session and nowhere else. */
export function Stations({ session, onOwn }: { session: Session; onOwn: (e: Omit<OwnEntry, 'after'>) => void }) {
  const [task, setTask] = useState<NumberTask | null>(null);
  const [, , forget] = useDraft(`label ${SIMULATED_PACK}`, {});
  const fresh = session.own?.length === 0;
  useEffect(() => {
    // What was begun on the label of another pack of practice is none of this one's.
    if (fresh) forget();
  }, [fresh, forget]);
  const { facts, entries, ruling } = useMemo(() => {
    const record = recordUntil(session, new Date());
    return { ...record, ruling: withoutVerdict(ruledOn(record)) };
  }, [session]);
  const onKeep = useCallback(
    (d: Draft) => {
      onOwn({ id: v4(), kind: d.kind, body: d.body, ...(d.replaces && { replaces: d.replaces }) });
      return Promise.resolve();
    },
    [onOwn],
  );
  const close = useCallback(() => setTask(null), []);
  const apart = useMemo(() => {
    const shown = foundBy(session).flatMap((w) =>
      w.entries.flatMap((e) =>
        shownWords(e).map((words) => ({ kind: e.kind, ...(e.kind === 'reading-taken' && { quantity: e.body.quantity }), words })),
      ),
    );
    return { entries, shown };
  }, [entries, session]);
  const shared = { facts, ruling, onTask: setTask, onKeep };
  return (
    <ApartContext.Provider value={apart}>
      <LookCard {...shared} />
      <LabelCard {...shared} />
      <MeasureCard {...shared} />
      <SwellingCard {...shared} />
      {task ? <Keypad key={task.title} packId={SIMULATED_PACK} first={task} onKeep={onKeep} onClose={close} /> : null}
    </ApartContext.Provider>
  );
}
