import type { Context, MiddlewareHandler } from 'hono';
import type { Logger } from 'pino';
import { answer, problem, ProblemError } from '../problem';
import type { Env } from '../routes/env';
import { isAway, isFull } from '../store/db';

/** What is written of an error: where it happened, never its words. A database's words repeat what was sent. */
function traceOf(e: unknown): object {
  const { name, code, stack } = e as { name?: string; code?: string; stack?: string };
  return {
    name,
    code,
    at: stack
      ?.split('\n')
      .filter((l) => /^\s+at /.test(l))
      .slice(0, 8)
      .map((l) => l.trim()),
  };
}

/** The answer to what a route threw: never a trace, and never a word on what is stored that nobody knows. */
export function failed(log: Logger): (e: unknown, c: Context<Env>) => Response {
  return (e, c) => {
    if (e instanceof ProblemError) return answer(c, e.problem);
    if (isFull(e)) {
      log.error({ err: traceOf(e), reqId: c.get('requestId') }, 'disk full');
      return answer(
        c,
        problem(
          503,
          'disk',
          'The server’s disk is full',
          'Free some space on it. The devices keep what they have and send it again.',
        ),
      );
    }
    if (isAway(e)) {
      log.warn({ err: traceOf(e), reqId: c.get('requestId') }, 'database away');
      return answer(
        c,
        problem(
          503,
          'database',
          'The database does not answer',
          'Whether it was stored is not known. The device keeps its entries and sends them again by itself: each is stored once.',
        ),
      );
    }
    log.error({ err: traceOf(e), reqId: c.get('requestId') }, 'unexpected');
    return answer(
      c,
      problem(
        500,
        'unexpected',
        'Something went wrong here',
        'Whether it was stored is not known; try again: nothing is stored twice. If it stays, look in the server’s log.',
      ),
    );
  };
}

/** The framework hands only its own kind of error to a handler; anything else thrown would end as an empty answer. */
export function caught(fail: ReturnType<typeof failed>): MiddlewareHandler<Env> {
  return async (c, next) => {
    try {
      return await next();
    } catch (e) {
      return fail(e, c);
    }
  };
}
