import type { LoggedEntry, Subject } from '@gavrel/core';

/**
 * Danger that a full device could not keep: it is in memory until it is kept or the page is closed, so that it is on the screen all the same. What
 * the server does not have yet has no number.
 */
const entries = new Map<string, LoggedEntry>();

export function addVolatile(list: readonly LoggedEntry[]): void {
  for (const e of list) entries.set(e.id, e);
}

export function removeVolatile(list: readonly LoggedEntry[]): void {
  for (const e of list) entries.delete(e.id);
}

export const clearVolatile = (): void => entries.clear();

/** What nobody but this page has. */
export const unsentDanger = (): LoggedEntry[] => [...entries.values()].filter((e) => e.seq === null);

export const isVolatile = (e: LoggedEntry): boolean => entries.has(e.id);

/** What is kept, and what is not: of one subject, or of all. */
export function withVolatile(kept: readonly LoggedEntry[], subject?: Subject): LoggedEntry[] {
  if (entries.size === 0) return [...kept];
  const known = new Set(kept.map((e) => e.id));
  const more = [...entries.values()].filter(
    (e) => !known.has(e.id) && (subject === undefined || (e.subjects as readonly Subject[]).includes(subject)),
  );
  return [...kept, ...more];
}
