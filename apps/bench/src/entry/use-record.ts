import { broughtBy, type LoggedEntry } from '@gavrel/core';
import { useCallback, useEffect, useRef, useState } from 'react';
import { entriesOfPack } from '../device/store';
import { type Draft, makeEntry } from '../device/write';
import { useAppSelector } from '../state';
import { useApart } from './apart';

/** The record of a pack, to ask of. */
export interface PackRecord {
  /** Everything on record of the pack; null until it was read. */
  readonly entries: readonly LoggedEntry[] | null;
  /** A draft as the entry it would be. */
  readonly made: (d: Draft) => LoggedEntry | null;
  /** What would not add up any more once these are kept: a person is asked first. */
  readonly asks: (drafts: readonly Draft[]) => readonly string[];
  /** Kept here, and perhaps not read back yet: the next number is asked about beside it. */
  readonly kept: (drafts: readonly Draft[]) => void;
}

/** The record of one pack, for asking what a new statement would do to it. */
export function useRecord(packId: string): PackRecord {
  const { policy, version } = useAppSelector((s) => s.logbook);
  const session = useAppSelector((s) => s.session);
  const apart = useApart();
  const [logged, setLogged] = useState<readonly LoggedEntry[] | null>(null);
  const entries = apart ? apart.entries : logged;
  const own = useRef<LoggedEntry[]>([]);
  useEffect(() => {
    if (apart) return;
    let current = true;
    void entriesOfPack(packId).then((e) => current && setLogged(e));
    return () => {
      current = false;
    };
  }, [apart, packId, version]);
  const made = useCallback(
    (d: Draft) => {
      if (!session.session) return null;
      const author = { workshop: session.session.workshop.id, person: session.session.person.id, device: session.device };
      return makeEntry(author, d, Date.now(), null);
    },
    [session],
  );
  const asks = useCallback(
    (drafts: readonly Draft[]) => {
      const fresh = drafts.flatMap((d) => made(d) ?? []);
      return broughtBy(packId, [...(entries ?? []), ...own.current], fresh, policy, new Date()).map((c) => c.sentence);
    },
    [entries, made, packId, policy],
  );
  const kept = useCallback((drafts: readonly Draft[]) => void own.current.push(...drafts.flatMap((d) => made(d) ?? [])), [made]);
  return { entries, made, asks, kept };
}
