import { MAX_PRACTISED } from '@gavrel/contract';
import { useCallback, useEffect, useState } from 'react';
import { api } from '../../device/api';
import { readPractice, writePractice } from '../../device/store';
import { useAppSelector } from '../../state';
import { NOTHING_YET, type PracticeRecord } from './record';

/** By person, as this page knows it: what was just written is there before the disk has it. */
const known = new Map<string, PracticeRecord>();

/** Sessions the server has, by person, as far as this page knows. */
const told = new Map<string, Set<string>>();

/**
 * Tells the server what it does not have, for the lead to see. Without the server it is told the next time: what was practised is on this
 * device.
 */
async function tell(person: string, { played }: PracticeRecord): Promise<void> {
  const known = told.get(person) ?? new Set<string>();
  const fresh = played.filter((p) => !known.has(`${p.scenario} ${p.begun}`)).slice(-MAX_PRACTISED);
  if (fresh.length === 0) return;
  await api('PUT', '/session/practice', { person, sessions: fresh });
  for (const p of fresh) known.add(`${p.scenario} ${p.begun}`);
  told.set(person, known);
}

/**
 * What the person signed in practised on this device; null until it is read. @returns it, and how to change it: what another tab wrote
 * meanwhile stays.
 */
export function useRecord(): readonly [PracticeRecord | null, (change: (r: PracticeRecord) => PracticeRecord) => void] {
  const person = useAppSelector((s) => s.session.session?.person.id ?? '');
  const [record, setRecord] = useState<PracticeRecord | null>(known.get(person) ?? null);
  useEffect(() => {
    let here = true;
    readPractice()
      // Where the device keeps nothing one practises all the same.
      .catch(() => ({}) as Readonly<Record<string, unknown>>)
      .then((all) => {
        if (!here) return;
        const read = known.get(person) ?? (all[person] as PracticeRecord | undefined) ?? NOTHING_YET;
        known.set(person, read);
        setRecord(read);
        void tell(person, read).catch(() => undefined);
      });
    return () => {
      here = false;
    };
  }, [person]);
  const change = useCallback(
    (by: (r: PracticeRecord) => PracticeRecord) => {
      const next = by(known.get(person) ?? NOTHING_YET);
      known.set(person, next);
      setRecord(next);
      void tell(person, next).catch(() => undefined);
      void readPractice()
        .then((all) => {
          const disk = all[person] as PracticeRecord | undefined;
          // Another tab may have gone on: its sessions stay, and this one is added to them.
          return writePractice({ ...all, [person]: disk && disk.played.length >= next.played.length ? by(disk) : next });
        })
        .catch(() => undefined);
    },
    [person],
  );
  return [record, change];
}
