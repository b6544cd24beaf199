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
export function saidOf(e: unknown): string {
  if (e instanceof Away) return 'The server does not answer: try again when it does.';
  if (e instanceof Refused) return `${e.problem.title}. ${e.problem.detail ?? ''}`.trim();
  return (e as Error).message;
}

/** Sends bytes or JSON text as they are. @throws Refused, or Away. */
export async function put(path: string, body: Blob | string, type: string): Promise<void> {
  let r: Response;
  try {
    r = await fetch(`/api/${path}`, {
      method: 'PUT',
      headers: { 'content-type': type },
      body,
      signal: AbortSignal.timeout(60_000),
    });
  } catch {
    throw new Away();
  }
  if (r.ok) return;
  if (!(r.headers.get('content-type') ?? '').includes('json') || r.status >= 502) throw new Away();
  throw new Refused((await r.json()) as Problem);
}

/** Asks the server. @throws Refused with what it has against it, or Away. */
export async function api<T>(method: 'GET' | 'POST' | 'PUT' | 'PATCH' | 'DELETE', path: string, body?: unknown): Promise<T> {
  let r: Response;
  try {
    r = await fetch(`/api${path}`, {
      method,
      headers: body === undefined ? {} : { 'content-type': 'application/json' },
      ...(body !== undefined && { body: JSON.stringify(body) }),
      signal: AbortSignal.timeout(15_000),
    });
  } catch {
    throw new Away();
  }
  if (r.status === 204) return undefined as T;
  const type = r.headers.get('content-type') ?? '';
  if (!type.includes('json') || r.status === 502 || r.status === 503 || r.status === 504) throw new Away();
  const json: unknown = await r.json();
  if (!r.ok) throw new Refused(json as Problem);
  return json as T;
}
