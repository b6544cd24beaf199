import type { Bodies, Kind } from '@gavrel/core';
import type { OwnEntry, StagedSession } from '@gavrel/core/practice';
import { useMemo } from 'react';
import { v4 } from 'uuid';
import { ChargeCard, type Intake, OutsideCard, OwnerSaysCard, SignsCard } from '../../entry/intake-cards';

/** The intake of a real machine, for one that does not exist: what is answered goes into the session and nowhere else. */
export function MachineStations({ session, onOwn }: { session: StagedSession; onOwn: (e: Omit<OwnEntry, 'after'>) => void }) {
  const record = useMemo(() => session.course.byHand?.record(session.actions, session.own ?? []), [session]);
  if (!record) return null;
  const write = <K extends Kind>(kind: K, body: Bodies[K]) => onOwn({ id: v4(), kind, body });
  const of: Intake = {
    triage: record.notebook.triage,
    triageHistory: record.notebook.triageHistory,
    intake: record.job.intake,
    intakeHistory: record.job.intakeHistory,
    sayTriage: (field, value) => write('triaged', { [field]: value }),
    sayIntake: (field, value) => write('intake-noted', { [field]: value }),
  };
  return (
    <>
      <OutsideCard of={of} onClear={(rest) => write('triaged', rest)} />
      <SignsCard of={of} onClear={(rest) => write('intake-noted', rest)} />
      <OwnerSaysCard of={of} />
      <ChargeCard of={of} />
    </>
  );
}
