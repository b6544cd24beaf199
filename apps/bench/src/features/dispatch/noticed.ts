import type { NoticedPacks } from '@gavrel/contract';
import type { JobFacts, NoticeFacts, PackFacts } from '@gavrel/core';
import { indexNotice, noticed, type NoticedPack } from '@gavrel/core/dispatch';
import { useEffect, useMemo, useState } from 'react';
import { api } from '../../device/api';
import { useAppSelector } from '../../state';
import { inNaturalOrder } from '../../state/natural';

/** The sure ones first, those nobody can tell of last. */
const doubt = ({ hit }: NoticedPack): number => (hit === null ? 2 : hit.sure ? 0 : 1);
const inOrder = (a: NoticedPack, b: NoticedPack): number => doubt(a) - doubt(b) || inNaturalOrder(a.tag, b.tag);

export const openOf = (jobs: Readonly<Record<string, JobFacts>>): ReadonlySet<string> =>
  new Set(Object.values(jobs).flatMap((j) => (j.closedAt === null ? [j.id] : [])));

/** Packs of this device that a notice concerns, or may. Of one whose log is here in part nobody says that its type code was never read. */
export function noticedHere(
  notice: Pick<NoticeFacts, 'ranges'>,
  packs: readonly PackFacts[],
  openJobs: ReadonlySet<string>,
): NoticedPack[] {
  const index = indexNotice(notice);
  return packs
    .flatMap((pack) => {
      const found = noticed(index, pack, openJobs);
      return found && (found.hit !== null || pack.partial !== true) ? [found] : [];
    })
    .sort(inOrder);
}

/**
 * What this device knows, and what the server knows of the packs whose logs are not here, or in part: a recall written down here meanwhile counts for
 * those too.
 */
export function joined(
  here: readonly NoticedPack[],
  elsewhere: readonly NoticedPack[],
  packs: Readonly<Record<string, PackFacts>>,
): NoticedPack[] {
  const whole = (id: string) => packs[id] !== undefined && packs[id].partial !== true;
  const others = elsewhere
    .filter((p) => !whole(p.id))
    .map((p) => ({ ...p, found: p.found || (packs[p.id]?.findings ?? []).some((f) => f.body.code === 'safety-recall') }));
  const known = new Set(others.map((p) => p.id));
  return [...here.filter((p) => !known.has(p.id)), ...others].sort(inOrder);
}

/**
 * Every pack that a notice concerns, or may. Where this device holds a part of a long log the server is asked for the rest: packs that left long
 * ago are what most recalls are about.
 * @returns `said` how far that came, empty when all was looked through.
 */
export function useNoticed(notice: NoticeFacts): { readonly packs: readonly NoticedPack[]; readonly said: string } {
  const partly = useAppSelector((s) => s.logbook.holds !== null);
  const { packs, jobs, away } = useAppSelector((s) => s.logbook);
  const [elsewhere, setElsewhere] = useState<readonly NoticedPack[]>([]);
  const [said, setSaid] = useState('');
  useEffect(() => {
    if (!partly) return;
    let over = false;
    const ask = async () => {
      const found: NoticedPack[] = [];
      let next: string | null = '';
      while (next !== null && !over) {
        const page: NoticedPacks = await api('GET', `/notices/${notice.id}/packs${next && `?cursor=${next}`}`);
        found.push(...page.items);
        next = page.next;
      }
      if (over) return;
      setElsewhere(found);
      setSaid('');
    };
    setSaid('The server is looking through packs that this device does not hold…');
    ask().catch(() => over || setSaid('Not complete: the server could not be asked for packs that this device does not hold.'));
    return () => void (over = true);
  }, [partly, notice.id, away]);
  const all = useMemo(
    () => joined(noticedHere(notice, Object.values(packs), openOf(jobs)), elsewhere, packs),
    [notice, packs, jobs, elsewhere],
  );
  return { packs: all, said };
}
