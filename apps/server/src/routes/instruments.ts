import { foldInstrument } from '@gavrel/core';
import { Hono } from 'hono';
import { logsOf } from '../log/offline';
import { logged } from '../log/read';
import { readInstrument } from '../operate/instrument';
import { answer, notFound, problem } from '../problem';
import { inWorkshop } from '../store/db';
import { type Env, idOf, type Services } from './env';

/** Instruments that talk: read at the address the lead registered, one at a time. */
export function instrumentRoutes(s: Services): Hono<Env> {
  const app = new Hono<Env>();
  app.post('/instruments/:id/reading', async (c) => {
    const id = idOf(c, 'instrument');
    const entries = await inWorkshop(s.db, s.workshop.id, (trx) => logsOf(trx, s.workshop.id, [`instrument:${id}`]));
    const facts = foldInstrument(id, entries.map(logged));
    if (!facts) throw notFound('instrument');
    const fault = (words: string) => answer(c, problem(409, 'instrument', `${facts.name} gave no reading`, words));
    if (!facts.address) return fault('It is not connected: the lead enters its address under More.');
    const { address, measures } = facts;
    const read = await inWorkshop(s.db, s.workshop.id, async (trx) => {
      // Two who ask at once would read half of each other's lines: one at a time, whatever it is called here and whichever server asks.
      const { rows } = await trx.raw<{ rows: { free: boolean }[] }>(
        'select pg_try_advisory_xact_lock(hashtextextended(?, 0)) as free',
        [`instrument ${address.host}:${address.port}`],
      );
      return rows[0]!.free ? readInstrument(address, measures) : null;
    });
    if (read === null) return fault('Somebody is reading it: again in a moment.');
    return read.kind === 'fault' ? fault(read.words) : c.json({ digits: read.digits, unit: read.unit });
  });
  return app;
}
