import type { Problem } from '@gavrel/contract';

/** The server answered, and said no. */
export class Refused extends Error {
  constructor(readonly problem: Problem) {
    super(problem.title);
  }
}

/** Nobody answered: offline, or the server or its database is away. Judged by failed requests, never by the browser's opinion. */
export class Away extends Error {}

/** What a failed question says to the person who asked, and what to do. */
export function errorMessage(e: unknown): string {
  if (e instanceof Away) return 'The server does not answer: try again when it does.';
  if (e instanceof Refused) return `${e.problem.title}. ${e.problem.detail ?? ''}`.trim();
  return (e as Error).message;
}

/** Answers that say all there is to say without a body. */
const EMPTY: readonly number[] = [201, 204];

/** Asks, and reads the answer to its end: one that breaks off is none, nor is one that is not ours. @throws Refused, or Away. */
async function ask<T>(path: string, init: RequestInit, ms: number): Promise<T> {
  let answer: { readonly ok: boolean; readonly status: number; readonly json: unknown };
  try {
    const r = await fetch(`/api${path}`, { ...init, signal: AbortSignal.timeout(ms) });
    const text = await r.text();
    answer = { ok: r.ok, status: r.status, json: text === '' && EMPTY.includes(r.status) ? undefined : JSON.parse(text) };
  } catch {
    throw new Away();
  }
  if (answer.status >= 502) throw new Away();
  if (!answer.ok) throw new Refused(answer.json as Problem);
  return answer.json as T;
}

/** Sends bytes or JSON text as they are. @throws Refused, or Away. */
export async function put(path: string, body: Blob | string, type: string): Promise<void> {
  await ask(`/${path}`, { method: 'PUT', headers: { 'content-type': type }, body }, 60_000);
}

/** Asks the server. @throws Refused with what it has against it, or Away. */
export function api<T>(method: 'GET' | 'POST' | 'PUT' | 'PATCH' | 'DELETE', path: string, body?: unknown): Promise<T> {
  const said = body === undefined ? {} : { headers: { 'content-type': 'application/json' }, body: JSON.stringify(body) };
  return ask(path, { method, ...said }, 15_000);
}
