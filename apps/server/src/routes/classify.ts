import { localDay } from '@gavrel/core';
import { readCase, ruleRow } from '@gavrel/core/batch';
import { CLASSIFY_SCHEMA } from '@gavrel/contract/schemas';
import { Hono } from 'hono';
import { bodyLimit } from 'hono/body-limit';
import { answer, problem } from '../problem';
import { body, type Env, type Services } from './env';

/** Rows ruled on before others get a turn. */
const TURN = 200;

/** Rules on packs that other programs send; nothing is stored. */
export function classifyRoutes(s: Services): Hono<Env> {
  const app = new Hono<Env>();
  const limit = bodyLimit({
    maxSize: 5_000_000,
    onError: (c) => answer(c, problem(413, 'too-large', 'The body is larger than 5 MB', 'Send at most 2000 packs at a time.')),
  });
  app.post('/classify', limit, async (c) => {
    const { items } = await body<{ items: readonly unknown[] }>(c, CLASSIFY_SCHEMA);
    const today = localDay(s.workshop.zone, new Date());
    const results = [];
    for (const [i, item] of items.entries()) {
      if (i % TURN === TURN - 1) await new Promise((r) => setImmediate(r));
      results.push(ruleRow(readCase(item, i + 1, today)));
    }
    return c.json({ results });
  });
  return app;
}
