import type { Problem } from '@gavrel/contract';
import type { MiddlewareHandler } from 'hono';
import { bodyLimit } from 'hono/body-limit';
import { answer } from '../problem';
import type { Env } from './env';

/** How much of a body that is refused is read all the same, bytes and ms: whoever is cut off while sending never sees the answer. */
const READ_ON_BYTES = 20_000_000;
const READ_ON_MS = 5000;

/** Reads on and keeps nothing, to the end or as far as is fair. */
async function readOn(body: ReadableStream<Uint8Array> | null): Promise<void> {
  if (!body || body.locked) return;
  const reader = body.getReader();
  const until = Date.now() + READ_ON_MS;
  const late = setTimeout(() => void reader.cancel().catch(() => undefined), READ_ON_MS);
  try {
    for (let size = 0; size < READ_ON_BYTES && Date.now() < until;) {
      const { done, value } = await reader.read();
      if (done) break;
      size += value.length;
    }
  } catch {
    // The line broke: nobody is there to be answered.
  } finally {
    clearTimeout(late);
  }
}

/** Refuses a body of more than so many bytes, once its sender has had the time to listen. */
export const atMost = (maxSize: number, tooLarge: Problem): MiddlewareHandler<Env> =>
  bodyLimit({
    maxSize,
    onError: async (c) => {
      await readOn(c.req.raw.body);
      return answer(c, tooLarge);
    },
  });
