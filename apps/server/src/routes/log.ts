import { MAX_BODY } from '@gavrel/contract';
import type { AppendRequest, AppendResponse, EntriesResponse, LogsRequest, Person, SignRequest } from '@gavrel/contract';
import { APPEND_SCHEMA, ENTRIES_QUERY, LOGS_SCHEMA, SIGN_SCHEMA } from '@gavrel/contract/schemas';
import { isHazard } from '@gavrel/core';
import { Hono, type MiddlewareHandler } from 'hono';
import { streamSSE } from 'hono/streaming';
import { logsOf, offlineSet } from '../log/offline';
import { entriesAfter, stored } from '../log/read';
import { tokenHash } from '../people/sessions';
import { signer } from '../people/sign';
import { Quota } from '../operate/quota';
import { answer, problem, ProblemError } from '../problem';
import { inWorkshop } from '../store/db';
import { askingOf, body, type Env, query, type Services } from './env';
import { atMost } from './limit';

const TOO_MANY = problem(
  429,
  'quota',
  'More than one person writes in an hour',
  'It stays on the device and goes out later; danger goes at once.',
);

/** The one way in, and the ways to follow it. */
export function logRoutes(s: Services, guessing: MiddlewareHandler<Env>): Hono<Env> {
  const app = new Hono<Env>();
  const tooLarge = atMost(
    MAX_BODY,
    problem(413, 'too-large', 'The request is larger than 2 MB', 'Send the entries in smaller batches; nothing was stored.'),
  );

  const quota = new Quota(s.quota);
  /** Danger is always taken. Of everything else one person writes so much in an hour; what is more stays on the device until later. */
  const append = async (person: Person, { deviceTime, entries }: AppendRequest): Promise<AppendResponse> => {
    const plain = entries.filter((e) => !isHazard(e.kind));
    const later = plain.length > 0 && !quota.take(person.id, plain.length);
    const taken = later ? entries.filter((e) => isHazard(e.kind)) : entries;
    if (taken.length === 0) throw new ProblemError(TOO_MANY);
    const results = await s.writer.append({ person, clockOffset: Date.now() - Date.parse(deviceTime), entries: taken });
    for (const r of results) s.metrics.entries.inc({ status: r.status });
    if (!later) return { results };
    const known = new Map(results.map((r) => [r.id, r]));
    return { results: entries.map((e) => known.get(e.id) ?? { id: e.id, status: 'later', problem: TOO_MANY }) };
  };

  app.post('/entries', tooLarge, async (c) => c.json(await append(c.get('person'), await body<AppendRequest>(c, APPEND_SCHEMA))));

  app.get('/offline-set', async (c) => {
    const set = await inWorkshop(s.db, s.workshop.id, (trx) => offlineSet(trx, s.workshop.id, new Date(), s.deviceLimit));
    return c.json(set);
  });

  app.post('/entries/of', tooLarge, async (c) => {
    const { subjects } = await body<LogsRequest>(c, LOGS_SCHEMA);
    return c.json(
      await inWorkshop(s.db, s.workshop.id, async (trx) => {
        const { last_seq } = await trx('workshops').where('id', s.workshop.id).first<{ last_seq: string }>('last_seq');
        const rows = await logsOf(trx, s.workshop.id, subjects);
        return { entries: rows.map(stored), last: Number(last_seq) } satisfies EntriesResponse;
      }),
    );
  });

  app.post('/entries/sign', guessing, tooLarge, async (c) => {
    const ask = await body<SignRequest>(c, SIGN_SCHEMA);
    const person = await signer(askingOf(s, c), ask, c.get('known').deviceId);
    if (!person)
      return answer(
        c,
        problem(403, 'signature', 'It does not fit', 'Try again. A one-time code is good once, for half a minute.'),
      );
    return c.json(await append(person, ask));
  });

  app.get('/entries', async (c) => {
    const { after, limit } = query<{ after: number; limit: number }>(c, ENTRIES_QUERY);
    const answerBody = await inWorkshop(s.db, s.workshop.id, async (trx) => {
      const rows = await entriesAfter(trx, s.workshop.id, after, limit);
      const { last_seq } = await trx('workshops').where('id', s.workshop.id).first<{ last_seq: string }>('last_seq');
      return { entries: rows.map(stored), last: Number(last_seq) } satisfies EntriesResponse;
    });
    return c.json(answerBody);
  });

  app.get('/news', (c) => {
    const session = tokenHash(c.get('token'));
    let end = () => {};
    const ended = new Promise<void>((done) => (end = done));
    let write = (_text: string): unknown => undefined;
    const forget = s.streams.add({ session, write: (text) => write(text), end: () => end() });
    if (!forget)
      return answer(
        c,
        problem(429, 'lines', 'This session waits for news on many lines already', 'Ask for entries now and then.'),
      );
    return streamSSE(c, async (stream) => {
      stream.onAbort(end);
      write = (text) => stream.write(text).catch(end);
      await stream.writeSSE({ event: 'alive', data: '' });
      await ended;
      forget();
    });
  });
  return app;
}
