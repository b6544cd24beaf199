import { type Gathered, intakeOf, localDay, type LoggedEntry, subjectId, subjectType, triageOf } from '@gavrel/core';
import { type Known, mayWait, waitsFor } from '@gavrel/core/confirm';
import type { JudgeContext } from '../projection/rows';

/**
 * Notes on each new entry whom it waits for, one after another: each is asked against what stood when it came in.
 * The entries are changed in place, before anything is made of them.
 * @param named entries that the new ones name, and what those rest on.
 */
export function markWaits(
  { policy, now, zone }: JudgeContext,
  { own, entriesOf }: Gathered,
  named: readonly LoggedEntry[],
  fresh: readonly LoggedEntry[],
): void {
  const later = new Set(fresh.map((e) => e.id));
  const before = (list: readonly LoggedEntry[] | undefined) => (list ?? []).filter((x) => !later.has(x.id));
  const packs = [...own].filter(([s]) => subjectType(s) === 'pack');
  for (const e of fresh) {
    if (mayWait(e)) {
      const about = (type: 'notebook' | 'job') => {
        const subject = e.subjects.find((s) => subjectType(s) === type);
        return subject ? before(own.get(subject)) : [];
      };
      const said = e.subjects.flatMap((s) => before(own.get(s)));
      const known: Known = {
        packs: new Map(packs.map(([s, list]) => [subjectId(s), before(list)])),
        of: (s) => before(entriesOf(s)),
        entries: [...new Map([...said, ...before(named)].map((x) => [x.id, x])).values()],
        triage: e.kind === 'triaged' ? triageOf(about('notebook')) : {},
        intake: e.kind === 'intake-noted' ? intakeOf(about('job')) : {},
        policy,
        now,
        on: localDay(zone, now),
      };
      const waits = waitsFor(e, known);
      if (waits) (e as { waits?: typeof waits }).waits = waits;
    }
    later.delete(e.id);
  }
}
