import { intakeOf, localDay, type LoggedEntry, type PolicyFacts, subjectType, triageOf } from '@gavrel/core';
import { type Known, mayWait, waitsFor } from '@gavrel/core/confirm';
import type { BySubject, Concerned, Context } from './project';

/**
 * Notes on each new entry whom it waits for, one after another: each is asked against what stood when it came in.
 * The entries are changed in place, before anything is made of them.
 * @param named entries that the new ones name, and what those rest on.
 */
export function markWaits(
  ctx: Context,
  { packs, of }: Concerned,
  bySubject: BySubject,
  named: readonly LoggedEntry[],
  fresh: readonly LoggedEntry[],
  policy: PolicyFacts,
): void {
  const later = new Set(fresh.map((e) => e.id));
  const before = (list: readonly LoggedEntry[] | undefined) => (list ?? []).filter((x) => !later.has(x.id));
  for (const e of fresh) {
    if (mayWait(e)) {
      const about = (type: 'notebook' | 'job') => {
        const subject = e.subjects.find((s) => subjectType(s) === type);
        return subject ? before(bySubject.get(subject)) : [];
      };
      const own = e.subjects.flatMap((s) => before(bySubject.get(s)));
      const known: Known = {
        packs: new Map([...packs].map(([id, list]) => [id, before(list)])),
        of: (s) => before(of(s)),
        entries: [...new Map([...own, ...before(named)].map((x) => [x.id, x])).values()],
        triage: e.kind === 'triaged' ? triageOf(about('notebook')) : {},
        intake: e.kind === 'intake-noted' ? intakeOf(about('job')) : {},
        policy,
        now: ctx.now,
        on: localDay(ctx.zone, ctx.now),
      };
      const waits = waitsFor(e, known);
      if (waits) (e as { waits?: typeof waits }).waits = waits;
    }
    later.delete(e.id);
  }
}
