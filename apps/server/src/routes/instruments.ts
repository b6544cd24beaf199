import { whyNot } from '@gavrel/contract';
import { BENCH_TEST_QUERY, BENCH_TEST_SCHEMA } from '@gavrel/contract/schemas';
import { foldInstrument, type InstrumentAddress, type InstrumentFacts } from '@gavrel/core';
import { benchRefusals, orderTroubles } from '@gavrel/core/discharge';
import { Hono } from 'hono';
import { logsOf } from '../log/offline';
import { logged } from '../log/read';
import { rulingOf } from '../log/ruling';
import { NotBegun } from '../operate/bench-store';
import { readGaugeReport, readInstrument } from '../operate/instrument';
import { answer, notFound, problem, ProblemError } from '../problem';
import { inWorkshop } from '../store/db';
import { body, type Env, idOf, query, type Services } from './env';

const fault = (name: string, words: string): ProblemError =>
  new ProblemError(problem(409, 'instrument', `${name} gave no reading`, words));
const refused = (title: string, words: string): ProblemError => new ProblemError(problem(409, 'bench-test', title, words));

/** Instruments that talk: read at the address the lead registered, one at a time; and tests on a load. */
export function instrumentRoutes(s: Services): Hono<Env> {
  const app = new Hono<Env>();
  const reached = async (id: string): Promise<InstrumentFacts & { readonly address: InstrumentAddress }> => {
    const entries = await inWorkshop(s.db, s.workshop.id, (trx) => logsOf(trx, s.workshop.id, [`instrument:${id}`]));
    const facts = foldInstrument(id, entries.map(logged));
    if (!facts) throw notFound('instrument');
    const { address } = facts;
    if (!address) throw fault(facts.name, 'It is not connected: the lead enters its address under More.');
    return { ...facts, address };
  };
  // Two who ask at once would read half of each other's lines: one at a time, whatever it is called here and whichever server asks.
  const alone = async <T>({ name, address }: { name: string; address: InstrumentAddress }, read: () => Promise<T>): Promise<T> =>
    inWorkshop(s.db, s.workshop.id, async (trx) => {
      const { rows } = await trx.raw<{ rows: { free: boolean }[] }>(
        'select pg_try_advisory_xact_lock(hashtextextended(?, 0)) as free',
        [`instrument ${address.host}:${address.port}`],
      );
      if (!rows[0]!.free) throw fault(name, 'Somebody is reading it: again in a moment.');
      return read();
    });
  app.post('/instruments/:id/reading', async (c) => {
    const i = await reached(idOf(c, 'instrument'));
    const read = await alone(i, () => readInstrument(i.address, i.measures));
    if (read.kind === 'fault') throw fault(i.name, read.words);
    return c.json({ digits: read.digits, unit: read.unit });
  });
  app.post('/instruments/:id/report', async (c) => {
    const i = await reached(idOf(c, 'instrument'));
    if (i.measures !== 'gauge') throw fault(i.name, 'It is no gauge reader.');
    const read = await alone(i, () => readGaugeReport(i.address));
    if (read.kind === 'fault') throw fault(i.name, read.words);
    return c.json({ text: read.text });
  });

  const loadOf = async (id: string) => {
    const i = await reached(id);
    if (i.measures !== 'discharge' || i.address.speaks !== 'scpi')
      throw fault(i.name, 'It is no load that can be told what to do.');
    return i;
  };
  app.post('/instruments/:id/bench-test', async (c) => {
    const ask = await body<{ pack: string; amperes: number; cutOff: number }>(c, BENCH_TEST_SCHEMA);
    const person = c.get('person');
    const not = whyNot('log-measured', person);
    if (not) return answer(c, problem(403, 'role', 'This person may not begin a test', not));
    const id = idOf(c, 'instrument');
    const { name, address } = await loadOf(id);
    const ruling = await rulingOf(s.db, s.workshop, s.writer.policy, ask.pack);
    const [why] = [...benchRefusals(ruling), ...orderTroubles(ruling, ask)];
    if (why !== undefined) throw refused(`${name} is not switched on`, why);
    const order = { amperes: ask.amperes, cutOff: ask.cutOff, series: ruling.shipping.series! };
    try {
      const test = await s.benchTests.begin(id, address, { pack: ask.pack, order, by: person });
      await s.benchTests.drawn(test);
      return c.json(s.benchTests.tell(test), 201);
    } catch (e) {
      if (e instanceof NotBegun) throw refused(`${name} is not switched on`, e.message);
      throw e;
    }
  });
  app.get('/instruments/:id/bench-test', async (c) => {
    const { from } = query<{ from: number }>(c, BENCH_TEST_QUERY);
    return c.json(await s.benchTests.watch(idOf(c, 'instrument'), from));
  });
  // Whoever sees that it should stop may stop it.
  app.delete('/instruments/:id/bench-test', async (c) => {
    const id = idOf(c, 'instrument');
    const { address } = await loadOf(id);
    return c.json({ off: await s.benchTests.stop(id, address, `Stopped by ${c.get('person').name}.`) });
  });
  return app;
}
