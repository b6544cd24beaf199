import type { NoticedPacks } from '@gavrel/contract';
import { foldNotice, type JobFacts, type PackFacts, type Subject } from '@gavrel/core';
import { indexNotice, noticed } from '@gavrel/core/dispatch';
import { notFound } from '../problem';
import { sqlPort } from '../projection/sql-port';
import { inWorkshop } from '../store/db';
import type { Services } from './env';

/** Packs of one stretch: what is looked through before somebody else's request gets its turn. */
const STRETCH = 2000;

type Asked = Pick<PackFacts, 'id' | 'tag' | 'labels' | 'left' | 'use' | 'job' | 'findings'>;

/**
 * A stretch of the whole stock held against a notice: packs that are gone or in machines too, which devices do not hold when the log is long.
 * @param cursor the last pack of the stretch before. @throws ProblemError 404 where nobody filed it.
 */
export async function noticedPacks({ db, workshop }: Services, id: string, cursor?: string): Promise<NoticedPacks> {
  return inWorkshop(db, workshop.id, async (trx) => {
    const subject: Subject = `notice:${id}`;
    const log = await sqlPort(trx, workshop.id).entriesOf([subject]);
    const notice = foldNotice(id, log.get(subject) ?? []);
    if (!notice) throw notFound('notice');
    const part = trx('packs').where('workshop_id', workshop.id).orderBy('id').limit(STRETCH);
    if (cursor) void part.where('id', '>', cursor);
    const packs = await part.select<Asked[]>(
      'id',
      'tag',
      'use',
      ...['labels', 'left', 'job', 'findings'].map((k) => trx.raw('facts -> ? as ??', [k, k])),
    );
    const jobs = [...new Set(packs.flatMap((p) => p.job ?? []))];
    const known = await trx('jobs').where('workshop_id', workshop.id).whereIn('id', jobs).select<{ facts: JobFacts }[]>('facts');
    const open = new Set(known.flatMap(({ facts }) => (facts.closedAt === null ? [facts.id] : [])));
    const index = indexNotice(notice);
    return {
      items: packs.flatMap((p) => noticed(index, p, open) ?? []),
      next: packs.length === STRETCH ? packs[STRETCH - 1]!.id : null,
    };
  });
}
