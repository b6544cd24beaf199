import type { Bodies, Kind, Subject } from '@gavrel/core';
import { useMemo } from 'react';
import { draft, type Draft } from '../../device/write';
import { useAppSelector } from '../../state';
import { useActions } from '../../state/context';
import { useMinute, useZone } from '../../state/rulings';
import { type JobState, viewOf } from '../../stock/job-state';

export type { RuledPack } from '../../stock/job-state';

/** A job with everything that follows from it, and the one way to say something at a station. */
export interface JobView extends JobState {
  readonly say: <K extends Kind>(kind: K, body: Bodies[K], words: string, more?: readonly Draft[]) => Promise<unknown>;
  readonly write: (drafts: readonly Draft[], words: string) => Promise<unknown>;
}

/** Everything a station shows, and its way to say something. */
export function useJobView(id: string): JobView | null {
  const actions = useActions();
  const logbook = useAppSelector((s) => s.logbook);
  const zone = useZone();
  const minute = useMinute();
  const people = useAppSelector((s) => s.session.session?.people);
  const workshop = useAppSelector((s) => s.session.session?.workshop.id ?? '');
  return useMemo(() => {
    const trained = (people ?? []).filter((p) => p.competent).map((p) => p.id);
    const v = viewOf(logbook, id, { zone, workshop, trained });
    if (!v) return null;
    const about: Subject[] = [`job:${id}`, ...(v.job.notebook ? [`notebook:${v.job.notebook}` as const] : [])];
    return {
      ...v,
      say: (kind, body, words, more = []) => actions.write([draft(kind, about, body), ...more], words),
      write: (drafts, words) => actions.write(drafts, words),
    };
  }, [actions, id, logbook, people, workshop, zone, minute]);
}
