import { type Bodies, type Entry, isHazard, type Kind, type LoggedEntry, type Subject } from '@gavrel/core';
import { v7 } from 'uuid';

/** Who writes, and where. */
export interface Author {
  readonly workshop: string;
  readonly person: string;
  readonly device: string;
}

export interface Draft<K extends Kind = Kind> {
  readonly kind: K;
  readonly subjects: readonly Subject[];
  readonly body: Bodies[K];
  readonly replaces?: string;
}

/** Keeps the kind and its body together while the list of drafts holds any kind. */
export const draft = <K extends Kind>(kind: K, subjects: readonly Subject[], body: Bodies[K], replaces?: string): Draft =>
  ({ kind, subjects, body, ...(replaces && { replaces }) }) as unknown as Draft;

/** The last millisecond an id was made in, and its counter. */
let lastId = { msecs: 0, seq: 0 };

/** A UUIDv7 of that millisecond; ids made in the same one still sort in the order they were made, and so go out in it. */
export function newId(msecs: number): string {
  lastId = { msecs, seq: lastId.msecs === msecs ? lastId.seq + 1 : Math.floor(Math.random() * 0x3fffffff) };
  return v7(lastId);
}

/**
 * Makes an unsent entry. Its time is never before anything this device has seen on the subject, even when the clock went back.
 * @param lastSeen ISO time of the subject's newest entry, or null.
 */
export function makeEntry(author: Author, d: Draft, now: number, lastSeen: string | null): LoggedEntry {
  const at = Math.max(now, lastSeen === null ? 0 : Date.parse(lastSeen) + 1);
  const entry = {
    id: newId(at),
    v: 1,
    workshop: author.workshop,
    subjects: d.subjects,
    kind: d.kind,
    at: new Date(at).toISOString(),
    tz: Intl.DateTimeFormat().resolvedOptions().timeZone || 'UTC',
    by: author.person,
    device: author.device,
    hazard: isHazard(d.kind),
    body: d.body,
    ...(d.replaces && { replaces: d.replaces }),
  } as unknown as Entry;
  return { ...entry, seq: null, recordedAt: null, effectiveAt: null } as LoggedEntry;
}

/** The entry as it goes over the wire. */
export function wire(e: LoggedEntry): Entry {
  const { seq: _seq, recordedAt: _recordedAt, effectiveAt: _effectiveAt, waits: _waits, ...entry } = e;
  return entry as Entry;
}
