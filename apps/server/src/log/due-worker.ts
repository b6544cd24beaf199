import { localDay, type PackOwed, type PolicyFacts, workshopDues } from '@gavrel/core';
import { calendarOf } from './calendar';

/** What a workshop owes, as it lies in the database. */
export interface DueTask {
  readonly as: 'json' | 'calendar';
  /** A JSON list of `PackOwed`. */
  readonly packs: string;
  readonly owed: Omit<Parameters<typeof workshopDues>[0], 'packs'>;
  readonly policy: PolicyFacts;
  /** ISO 8601 UTC. */
  readonly now: string;
  readonly name: string;
  readonly zone: string;
}

/** The list of what is due, as it goes out. For many packs it runs in a thread of its own. */
export default function makeDues({ as, packs, owed, policy, now, name, zone }: DueTask): string {
  const moment = new Date(now);
  const all = { ...owed, packs: JSON.parse(packs) as PackOwed[] };
  const list = workshopDues(all, policy, moment, (iso) => localDay(zone, new Date(iso)));
  return as === 'json' ? JSON.stringify(list) : calendarOf({ name, zone }, list, moment);
}
