import { localDay } from '@gavrel/core';
import { Hono } from 'hono';
import { answer, problem } from '../problem';
import { type Env, onlyJson, type Services } from './env';
import { atMost } from './limit';

const BUSY = problem(503, 'busy', 'Too many tables are being classified', 'Send it again in a minute; nothing was stored.');

/** Rules on packs that other programs send, and plans packages for them, on threads of their own; nothing is stored. */
export function classifyRoutes(s: Services): Hono<Env> {
  const app = new Hono<Env>();
  const limit = atMost(
    5_000_000,
    problem(413, 'too-large', 'The body is larger than 5 MB', 'Send at most 2000 packs at a time.'),
  );
  for (const what of ['classify', 'plan'] as const) {
    app.post(`/${what}`, limit, async (c) => {
      onlyJson(c);
      // Read to its end first: a connection with half a request in it would be cut, and the answer lost.
      const text = await c.req.text();
      if (s.classify.queueSize >= s.classify.options.maxQueue) return answer(c, BUSY);
      const task = { what, text, today: localDay(s.workshop.zone, new Date()) };
      const done = await s.classify.run(task, { signal: c.req.raw.signal });
      return 'problem' in done ? answer(c, done.problem) : c.body(done.text, 200, { 'content-type': 'application/json' });
    });
  }
  return app;
}
