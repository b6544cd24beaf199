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
  /** An instrument is one thing: two who ask at once would read half of each other's lines. */
  const busy = new Set<string>();
  app.post('/instruments/:id/reading', async (c) => {
    const id = idOf(c, 'instrument');
    const entries = await inWorkshop(s.db, s.workshop.id, (trx) => logsOf(trx, s.workshop.id, [`instrument:${id}`]));
    const facts = foldInstrument(id, entries.map(logged));
    if (!facts) throw notFound('instrument');
    const fault = (words: string) => answer(c, problem(409, 'instrument', `${facts.name} gave no reading`, words));
    if (!facts.address) return fault('It is not connected: the lead enters its address under More.');
    if (busy.has(id)) return fault('Somebody is reading it: again in a moment.');
    busy.add(id);
    try {
      const read = await readInstrument(facts.address, facts.measures);
      return read.kind === 'fault' ? fault(read.words) : c.json({ digits: read.digits, unit: read.unit });
    } finally {
      busy.delete(id);
    }
  });
  return app;
}
