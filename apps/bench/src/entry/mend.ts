import { bodyOf, intakeFindings, type Kind, type LoggedEntry, type Subject, triageFindings } from '@gavrel/core';
import { draft, type Draft } from '../device/write';

/** Statements about one pack that may have been said of the wrong one. */
const MOVABLE: readonly Kind[] = ['reading-taken', 'gauge-read', 'finding-recorded', 'looked', 'label-read'];

/** Can it be moved to the pack it was meant for? */
export const isMovable = (e: LoggedEntry, pack: string): boolean =>
  MOVABLE.includes(e.kind) && e.subjects.length === 1 && e.subjects[0] === `pack:${pack}`;

/** The findings that an answer brought with it and that nobody mended: they go when it goes. */
export function linkedFindings(e: LoggedEntry, all: readonly LoggedEntry[]): LoggedEntry[] {
  const meant = e.kind === 'triaged' ? triageFindings(e.body) : e.kind === 'intake-noted' ? intakeFindings(e.body) : [];
  const mended = new Set(all.flatMap((x) => (x.replaces ? [x.replaces] : [])));
  return all.filter(
    (x) =>
      x.kind === 'finding-recorded' &&
      x.by === e.by &&
      !mended.has(x.id) &&
      meant.some((m) => m.code === x.body.code && m.note === x.body.note),
  );
}

/** Takes an entry back, and the findings it brought. */
export const takeBack = (e: LoggedEntry, all: readonly LoggedEntry[], reason: string): Draft[] =>
  [e, ...linkedFindings(e, all)].map((x) => draft('retracted', x.subjects, { reason }, x.id));

/** It was said of the wrong pack: taken back there, said of the right one. Until a second person agrees the worse of both counts. */
export function moveTo(
  e: LoggedEntry,
  from: { readonly tag: string },
  to: { readonly id: string; readonly tag: string },
): Draft[] {
  const on: Subject = `pack:${to.id}`;
  const said = draft(e.kind, [on], bodyOf(e) as never);
  return [said, draft('retracted', e.subjects, { reason: `wrong pack: it is ${to.tag}, not ${from.tag}` }, e.id)];
}
