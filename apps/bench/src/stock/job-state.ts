import {
  type JobFacts,
  type JobPack,
  modelKey,
  type NotebookFacts,
  opening,
  type Opening,
  packWork,
  railOf,
  type Ruling,
  type Stop,
  type Subject,
} from '@gavrel/core';
import { type Lesson, type ModelSheet, sheetOf, withTaken } from '@gavrel/core/job';
import { v5 } from 'uuid';
import type { RootState } from '../state';
import { judgedAt, rulingOf } from '../state/rulings';

export interface RuledPack extends JobPack {
  readonly ruling: Ruling;
}

/** A job with everything that follows from it. */
export interface JobState {
  readonly job: JobFacts;
  readonly notebook: NotebookFacts | null;
  readonly packs: readonly RuledPack[];
  /** Its packs whose logs this device does not hold. */
  readonly unheld: readonly string[];
  /** Packs that came in the machine. */
  readonly inside: readonly RuledPack[];
  readonly opening: Opening;
  readonly rail: readonly Stop[];
  /** What the model taught, from other jobs and other workshops; null when nothing. */
  readonly sheet: ModelSheet | null;
  readonly model: Subject | null;
}

/** The subject of a model in a workshop: makers and models are compared without case and spaces. */
export const modelSubject = (workshop: string, n: Pick<NotebookFacts, 'maker' | 'model'>): Subject | null =>
  n.model.trim() === '' ? null : `model:${v5(`model:${modelKey(n.maker, n.model)}`, workshop)}`;

type Logbook = RootState['logbook'];

/** The jobs of one model, with what their packs turned out to be. */
export function lessonsOf(s: Logbook, maker: string, model: string, without?: string): Lesson[] {
  const key = modelKey(maker, model);
  return Object.values(s.jobs).flatMap((job) => {
    const notebook = job.notebook === null ? undefined : s.notebooks[job.notebook];
    if (!notebook || job.id === without || notebook.model === '' || modelKey(notebook.maker, notebook.model) !== key) return [];
    const packs = job.packs.flatMap((id) => {
      const facts = s.packs[id];
      if (!facts) return [];
      const j = judgedAt(facts, s.policy, job.closedAt);
      const first = facts.labels[0];
      const swollen = j.findings.some((f) => f.code === 'swollen' && f.state === 'stands');
      return [
        {
          code: j.label.all.typeCode ?? '',
          shapeSeen: swollen || j.looked.shape !== null,
          swollen,
          removed: facts.use === 'removed',
          form: facts.form,
          work: packWork(facts),
          label: first && j.label.disputed.length === 0 ? { body: j.label.sure, by: first.by, at: first.at } : null,
        },
      ];
    });
    return [{ job, notebook, packs }];
  });
}

export interface Around {
  readonly zone: string;
  readonly workshop: string;
  /** Ids of people trained to assess. */
  readonly trained: readonly string[];
}

/** Everything that follows from a job; null while it is not on this device. */
export function viewOf(logbook: Logbook, id: string, around: Around): JobState | null {
  const { zone, workshop, trained } = around;
  const job = logbook.jobs[id];
  if (!job) return null;
  const notebook = (job.notebook === null ? undefined : logbook.notebooks[job.notebook]) ?? null;
  const fitting = job.matches.filter((m) => m.verdict === 'fits').map((m) => m.new);
  const ids = [...new Set([...job.packs, ...(job.fittedPack ? [job.fittedPack] : []), ...fitting])];
  // A pack that was added here is as much on this device as its machine; one of which nothing but later words are here is not.
  const unheld = logbook.holds ? ids.filter((p) => (logbook.packs[p]?.tag ?? '') === '') : [];
  const packs = ids.flatMap((p): RuledPack[] => {
    const facts = logbook.packs[p];
    if (!facts) return [];
    const ruling = rulingOf(facts, logbook.policy, zone);
    return [{ facts, judgement: ruling.judgement, ruling }];
  });
  const inside = packs.filter((p) => p.facts.use !== 'replacement' && p.facts.use !== 'spare' && p.facts.id !== job.fittedPack);
  const charges = inside.flatMap((p) => p.ruling.electrical.charge?.ofFull ?? []);
  const charge = charges.length > 0 ? charges.reduce((a, b) => (a.hi > b.hi ? a : b)) : null;
  const open = opening(
    job,
    notebook,
    inside.map((p) => p.judgement),
    charge,
    trained,
    unheld.length,
  );
  const model = notebook ? modelSubject(workshop, notebook) : null;
  const lessons = notebook && model ? lessonsOf(logbook, notebook.maker, notebook.model, id) : [];
  const taken = model ? (logbook.sheets[model.slice(6)] ?? []) : [];
  return {
    job,
    notebook,
    packs,
    unheld,
    inside,
    opening: open,
    rail: railOf(job, notebook, packs, open),
    sheet: withTaken(lessons.length > 0 ? sheetOf(lessons) : null, taken),
    model,
  };
}
