import type { DueKind, LoggedEntry } from './entry';

export interface DueItem {
  readonly id: string;
  readonly what: DueKind;
  /** YYYY-MM-DD. */
  readonly on: string;
  readonly note: string;
}

/** What was set due and not met. */
export function openDues(all: readonly LoggedEntry[]): DueItem[] {
  const met = new Set(all.flatMap((e) => (e.kind === 'due-met' ? [e.body.meets] : [])));
  return all.flatMap((e) =>
    e.kind === 'due-set' && !met.has(e.id) ? [{ id: e.id, what: e.body.what, on: e.body.on, note: e.body.note ?? '' }] : [],
  );
}
