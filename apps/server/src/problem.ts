import type { Problem } from '@gavrel/contract';
import type { Context } from 'hono';
import type { ContentfulStatusCode } from 'hono/utils/http-status';

/** An error that a client is told about, as an RFC 9457 problem document. */
export class ProblemError extends Error {
  constructor(readonly problem: Problem) {
    super(problem.title);
  }
}

/** Makes a problem; `title` says what is wrong, `detail` what to do. */
export function problem(status: number, slug: string, title: string, detail?: string, errors?: Problem['errors']): Problem {
  return { type: `urn:gavrel:problem:${slug}`, title, status, ...(detail && { detail }), ...(errors && { errors }) };
}

export const notFound = (what: string) => new ProblemError(problem(404, 'not-found', `No such ${what}`, 'Check the address.'));

export function answer(c: Context, p: Problem): Response {
  return c.json(p, p.status as ContentfulStatusCode, { 'content-type': 'application/problem+json' });
}
