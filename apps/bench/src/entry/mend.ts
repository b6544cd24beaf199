import { type Bodies, bodyOf, intakeFindings, type Kind, type LoggedEntry, type Subject, triageFindings } from '@gavrel/core';
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

/** What stays true of a pack however late it is said again; a charge or a voltage of another day is not. */
const LASTING: readonly string[] = ['mass', 'thickness', 'new-thickness'];
const isLasting = (e: LoggedEntry): boolean =>
  e.kind === 'label-read' || e.kind === 'finding-recorded' || (e.kind === 'reading-taken' && LASTING.includes(e.body.quantity));

/**
 * A tag that two devices gave stands for two packs: the one that was added later gets a tag of its own, and what its device said for good goes
 * with it. Its looks are taken back and it is looked at anew; voltages and charges stay where they were said. Until a second person agrees,
 * the first keeps the worse of both.
 * @param twice who added it, first to last. @param all everything on record of the pack.
 */
export function splitTwice(
  pack: { readonly id: string; readonly tag: string },
  twice: readonly { readonly id: string }[],
  all: readonly LoggedEntry[],
  to: { readonly id: string; readonly tag: string },
): Draft[] {
  const later = all.find((e) => e.id === twice[twice.length - 1]?.id);
  if (later?.kind !== 'pack-added') return [];
  const mended = new Set(all.flatMap((e) => (e.replaces ? [e.replaces] : [])));
  const theirs = all.filter((e) => e.device === later.device && isMovable(e, pack.id) && !mended.has(e.id));
  const others = later.subjects.filter((s) => s !== `pack:${pack.id}`);
  const body = { ...(bodyOf(later) as Bodies['pack-added']), tag: to.tag };
  return [
    draft('pack-added', [`pack:${to.id}`, ...others], body),
    ...theirs.filter(isLasting).flatMap((e) => moveTo(e, pack, to)),
    ...theirs
      .filter((e) => e.kind === 'looked')
      .map((e) => draft('retracted', e.subjects, { reason: `two packs: it may have been ${to.tag}` }, e.id)),
    draft('retracted', later.subjects, { reason: `two packs: this one is ${to.tag} now` }, later.id),
  ];
}

/** A tag that two devices gave stands for one pack: the later "added" is taken back. */
export function joinTwice(twice: readonly { readonly id: string }[], all: readonly LoggedEntry[]): Draft[] {
  const later = all.find((e) => e.id === twice[twice.length - 1]?.id);
  return later ? [draft('retracted', later.subjects, { reason: 'one pack, added on two devices' }, later.id)] : [];
}
