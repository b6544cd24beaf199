import type { Practised, PractisedBy } from '@gavrel/contract';
import { gradesLeft } from '@gavrel/core/practice';
import type { Knex } from 'knex';
import { problem, ProblemError } from '../problem';
import { inWorkshop } from '../store/db';

/** Sessions kept of one person: older ones say little of what somebody can do now. */
const MOST = 2000;
/** Sessions a lead is shown. */
const SHOWN = 2000;

interface Row {
  readonly person_id: string;
  readonly scenario: string;
  readonly begun: Date;
  readonly ended: Date;
  readonly full_marks: boolean;
  readonly harm: number;
  readonly found: boolean;
  readonly sure: number | null;
  readonly bet_right: boolean | null;
}

const shown = (r: Row): PractisedBy => ({
  person: r.person_id,
  scenario: r.scenario,
  begun: r.begun.toISOString(),
  at: r.ended.toISOString(),
  full: r.full_marks,
  harm: r.harm,
  found: r.found,
  bet: r.sure === null || r.bet_right === null ? null : { sure: Math.round(r.sure * 1e6) / 1e6, right: r.bet_right },
});

/** Keeps what a person practised; what was sent before is known, and stays as it was first told. */
export async function keepPractised(db: Knex, workshop: string, person: string, sessions: readonly Practised[]): Promise<void> {
  // A clock that runs ahead must not make its session the last one for ever.
  const now = new Date().toISOString();
  await inWorkshop(db, workshop, async (trx) => {
    await trx('practised')
      .insert(
        sessions.map((p) => ({
          workshop_id: workshop,
          person_id: person,
          scenario: p.scenario,
          begun: p.begun,
          ended: p.at < now ? p.at : now,
          full_marks: p.full,
          harm: p.harm,
          found: p.found,
          sure: p.bet?.sure ?? null,
          bet_right: p.bet?.right ?? null,
        })),
      )
      .onConflict(['workshop_id', 'person_id', 'scenario', 'begun'])
      .ignore();
    await trx.raw(
      `delete from practised where workshop_id = ? and person_id = ? and (scenario, begun) in
         (select scenario, begun from practised where workshop_id = ? and person_id = ? order by ended desc, begun desc, scenario offset ${MOST})`,
      [workshop, person, workshop, person],
    );
  });
}

/** What everybody practised, the newest first, and how each written scenario went last for each, however long ago: grades depend on that. */
export const practised = (db: Knex, workshop: string): Promise<PractisedBy[]> =>
  inWorkshop(db, workshop, async (trx) => {
    const { rows } = await trx.raw<{ rows: Row[] }>(
      `(select * from practised where workshop_id = ? order by ended desc limit ${SHOWN})
       union
       (select distinct on (person_id, scenario) * from practised where workshop_id = ? and scenario not like 'endless-%'
        order by person_id, scenario, ended desc)
       order by ended desc`,
      [workshop, workshop],
    );
    return rows.map(shown);
  });

/** @throws ProblemError where the person has not passed every grade of practice. */
export async function passedPractice(trx: Knex.Transaction, workshop: string, person: string): Promise<void> {
  const rows: Row[] = await trx('practised').where({ workshop_id: workshop, person_id: person });
  const left = gradesLeft(rows.map(shown));
  if (left.length === 0) return;
  const detail = `By the policy practice comes first. Not passed yet: ${left.join(', ')}.`;
  throw new ProblemError(problem(422, 'practice', 'They have not passed every grade', detail, [{ field: 'kind', detail }]));
}
