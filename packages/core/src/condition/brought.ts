import type { Contradiction } from '../coherence/relation';
import type { LoggedEntry } from '../logbook/entry';
import { foldPack, type PolicyFacts } from '../logbook/fold';
import { condition } from './condition';

/**
 * Contradictions that new entries would bring: what a person is asked before they are kept. What contradicted itself before is not asked
 * again.
 * @param entries everything on record of the pack. @param fresh as they would be once they count.
 */
export function broughtBy(
  pack: string,
  entries: readonly LoggedEntry[],
  fresh: readonly LoggedEntry[],
  policy: PolicyFacts,
  now: Date,
): readonly Contradiction[] {
  const told = (all: readonly LoggedEntry[]) => {
    const facts = foldPack(pack, all);
    return facts ? condition(facts, policy, now).contradictions : [];
  };
  const before = new Set(told(entries).map((c) => c.sentence));
  const inForce = fresh.map(
    (e, i) => ({ ...e, seq: Number.MAX_SAFE_INTEGER - fresh.length + i, waits: 'nobody' }) as LoggedEntry,
  );
  return told([...entries, ...inForce]).filter((c) => !before.has(c.sentence));
}
