import type { Problem } from '@gavrel/contract';
import { bodySchema, explain } from '@gavrel/contract/schemas';
import { type Entry, type Kind, type LoggedEntry, NEEDS_SECOND } from '@gavrel/core';
import { problem } from '../problem';

export type Known = ReadonlyMap<string, LoggedEntry>;

export const bad = (field: string, detail: string): Problem =>
  problem(422, 'entry', 'The entry does not fit the log', 'Nothing was stored of it.', [{ field, detail }]);

/** The entry that a correction, or a correction of corrections, rests on. */
export function rootOf(e: LoggedEntry, known: Known): LoggedEntry {
  let at = e;
  // Each step names an entry that came before it: there is no way round.
  for (let next = at.kind === 'corrected' ? known.get(at.replaces ?? '') : undefined; next;) {
    at = next;
    next = at.kind === 'corrected' ? known.get(at.replaces ?? '') : undefined;
  }
  return at;
}

/** How often a statement is corrected upon its correction. Nobody reads further, and every reading walks the whole way. */
const MOST_MENDS = 50;

/** Corrections between an entry and what it rests on. */
function depthOf(e: LoggedEntry, known: Known): number {
  let depth = 0;
  for (let at: LoggedEntry | undefined = e; at?.kind === 'corrected' && depth <= MOST_MENDS; depth++)
    at = known.get(at.replaces ?? '');
  return depth;
}

/** What kind of statement an entry makes or mends. */
export function kindOf(e: Entry | LoggedEntry, known: Known): Kind {
  if (e.kind !== 'corrected' && e.kind !== 'retracted') return e.kind;
  const target = known.get(e.replaces ?? '');
  return target ? rootOf(target, known).kind : e.kind;
}

const sameSubjects = (a: Entry, b: Entry) =>
  a.subjects.length === b.subjects.length && b.subjects.every((s) => a.subjects.includes(s));

/** What waits for whom, also of entries older than that field. */
const waitsOf = (target: LoggedEntry) =>
  target.waits ?? (NEEDS_SECOND.includes(target.kind) || target.kind === 'policy-set' ? 'second' : 'nobody');

/** Does confirming it take somebody trained to assess? An entry older than that field tells by what it would undo. */
export function needsTrained(target: LoggedEntry, known: Known): boolean {
  const undone = target.replaces ? known.get(target.replaces) : undefined;
  return (
    waitsOf(target) === 'trained' ||
    target.kind === 'finding-cleared' ||
    (target.waits === undefined && undone !== undefined && rootOf(undone, known).kind === 'finding-recorded')
  );
}

function mendFits(entry: Entry & { kind: 'corrected' | 'retracted' }, known: Known): Problem | null {
  const target = known.get(entry.replaces ?? '');
  if (!target) return bad('replaces', 'names no entry here: send the entry it mends first');
  if (target.kind === 'confirmed' || target.kind === 'retracted' || target.kind === 'declined')
    return bad('replaces', 'a signature or retraction is not mended; write a new entry');
  if (!sameSubjects(entry, target)) return bad('subjects', 'must name what the mended entry is about, and nothing else');
  if (entry.kind === 'retracted') return null;
  if (depthOf(target, known) >= MOST_MENDS)
    return bad('replaces', `it was corrected ${MOST_MENDS} times already: take it back and say it anew`);
  const { error } = bodySchema(rootOf(target, known).kind).validate(entry.body.body, { abortEarly: false, convert: false });
  if (!error) return null;
  const errors = explain(error).map((e) => ({ ...e, field: `body.body.${e.field}` }));
  return problem(422, 'entry', 'The corrected values are not right', 'Correct the fields named and send it again.', errors);
}

/** What an entry must be beside the entries it names, whoever writes it. Hazards always fit. */
export function fits(entry: Entry, known: Known): Problem | null {
  if (entry.kind === 'corrected' || entry.kind === 'retracted') return mendFits(entry, known);
  if (entry.kind === 'confirmed') {
    const target = known.get(entry.body.confirms);
    if (!target) return bad('body.confirms', 'names no entry here');
    if (waitsOf(target) === 'nobody') return bad('body.confirms', 'this entry needs no second person');
    if (target.by === entry.by) return bad('body.confirms', 'a second person must confirm, not the author');
    if (!sameSubjects(entry, target)) return bad('subjects', 'must name what the confirmed entry is about, and nothing else');
  }
  if (entry.kind === 'declined') {
    const target = known.get(entry.body.declines);
    if (!target) return bad('body.declines', 'names no entry here');
    if (target.by === entry.by) return bad('body.declines', 'take your own entry back instead');
    if (!sameSubjects(entry, target)) return bad('subjects', 'must name what the declined entry is about, and nothing else');
  }
  return null;
}
