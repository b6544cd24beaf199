import {
  type Answer,
  answerWords,
  INTAKE_SIGNS,
  type IntakeBody,
  intakeFindings,
  milderAnswers,
  type Subject,
  TRIAGE_SIGNS,
  type TriageBody,
  triageFindings,
} from '@gavrel/core';
import { useEffect, useRef } from 'react';
import { draft, type Draft } from '../../device/write';
import { STATION_UNDO_MS, UNDO_MS } from '../../state/actions';
import { useActions } from '../../state/context';
import { isUrgent } from '../../state/sync';
import type { JobView } from './view';

type Triage = Required<TriageBody>;

interface Meant {
  readonly code: string;
  readonly note: string;
}

/** Is a finding one of those that an answer means? */
const isOf = (f: { readonly code: string; readonly note?: string }, meant: readonly Meant[]): boolean =>
  meant.some((m) => m.code === f.code && m.note === f.note);

/**
 * Answers of the intake. Signs of danger are findings on the machine and reach its packs. An answer of a moment ago that nobody else has
 * seen is simply another one; a milder answer to one that was sent waits for a second person.
 */
export function useAnswers({ job, notebook }: JobView) {
  const t = notebook?.triage ?? {};
  const i = job.intake;
  const actions = useActions();
  // What was answered here a moment ago and is not sent yet, by question.
  const fresh = useRef(new Map<string, { ids: readonly string[]; until: number }>());
  useEffect(() => () => void actions.release(), [actions]);
  const book = notebook ? [`notebook:${notebook.id}` as const] : [];
  const findings = (list: readonly { code: string; note: string }[]) =>
    book.flatMap((on) => list.map((f) => draft('finding-recorded', [on], f)));
  const answer = async (
    field: string,
    said: Draft,
    meant: readonly Meant[],
    stood: readonly Meant[],
    history: readonly Answer[],
  ) => {
    const value = (said.body as Record<string, unknown>)[field];
    // It was said, and waits: twice is not more.
    if (history.some((a) => a.waits && a.value === value)) return;
    const before = fresh.current.get(field);
    const slip = before !== undefined && Date.now() < before.until;
    if (slip) await actions.undo(before.ids);
    const milder = milderAnswers({ ...TRIAGE_SIGNS, ...INTAKE_SIGNS }, { ...t, ...i }, said.body).length > 0;
    const gone = (slip || !milder ? [] : (notebook?.findings ?? [])).filter((f) => isOf(f.body, stood) && !isOf(f.body, meant));
    const reason = `answered anew: ${answerWords(field, value)}`;
    const mends = gone.flatMap((f) => book.map((on) => draft('retracted', [on], { reason }, f.id)));
    const until = Date.now() + STATION_UNDO_MS - UNDO_MS;
    const written = await actions.write([said, ...findings(meant), ...mends], answerWords(field, value), STATION_UNDO_MS);
    if (written.some(isUrgent)) fresh.current.delete(field);
    else fresh.current.set(field, { ids: written.map((e) => e.id), until });
  };
  const sayTriage = <F extends keyof Triage>(field: F, value: Triage[F]) => {
    const body = { [field]: value } as TriageBody;
    if (!notebook) return;
    const said = draft('triaged', [`notebook:${notebook.id}`], body);
    void answer(field, said, triageFindings(body), triageFindings({ [field]: t[field] }), notebook.triageHistory[field] ?? []);
  };
  const sayIntake = <F extends keyof IntakeBody>(field: F, value: IntakeBody[F]) => {
    const body = { [field]: value } as IntakeBody;
    const on: Subject[] = [`job:${job.id}`, ...book];
    const said = draft('intake-noted', on, body);
    return answer(field, said, intakeFindings(body), intakeFindings({ [field]: i[field] }), job.intakeHistory[field] ?? []);
  };
  return { sayTriage, sayIntake };
}
