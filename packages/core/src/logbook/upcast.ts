import type { Kind, LoggedEntry } from './entry';

/** Raises a body from one version to the next. Stored bodies are never rewritten; this runs when they are read. */
export type Upcaster = (body: unknown) => unknown;

/** One list per kind, oldest first: the first entry raises version 1 to 2. Kinds at their first version have none. */
export const UPCASTERS: Partial<Record<Kind, readonly Upcaster[]>> = {};

/** The entry with its body at the version this program knows. */
export function upcast(e: LoggedEntry): LoggedEntry {
  const steps = UPCASTERS[e.kind]?.slice(e.v - 1) ?? [];
  if (steps.length === 0) return e;
  return { ...e, body: steps.reduce<unknown>((b, step) => step(b), e.body) } as LoggedEntry;
}

/** Raised with every change of a fold: a server that finds another number in its tables rebuilds them before it serves. */
export const FOLD_VERSION = 12;
