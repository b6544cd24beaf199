import type { Person } from '@gavrel/contract';
import { explain } from '@gavrel/contract/schemas';
import type { Context as HonoContext } from 'hono';
import type Joi from 'joi';
import type { Knex } from 'knex';
import type { News } from '../log/news';
import type { Writer } from '../log/writer';
import { problem, ProblemError } from '../problem';
import type { WorkshopRow } from '../store/workshop';

export interface Env {
  Variables: { person: Person; token: string };
}

/** What every route may use. Nothing here is state of the process alone. */
export interface Services {
  readonly db: Knex;
  readonly workshop: WorkshopRow;
  readonly writer: Writer;
  readonly news: News;
  /** Demo accounts to show on the sign-in screen; empty outside the demo. */
  readonly accounts: readonly { readonly name: string; readonly passphrase: string; readonly role: Person['role'] }[];
}

/** The checked JSON body. @throws ProblemError naming each wrong field. */
export async function body<T>(c: HonoContext, schema: Joi.Schema): Promise<T> {
  let raw: unknown;
  try {
    raw = await c.req.json();
  } catch {
    throw new ProblemError(problem(400, 'not-json', 'The body is not JSON', 'Send JSON with content-type application/json.'));
  }
  const { error, value } = schema.validate(raw, { abortEarly: false, convert: false });
  if (error)
    throw new ProblemError(
      problem(422, 'body', 'The request is not right', 'Correct the fields named and send it again.', explain(error)),
    );
  return value as T;
}

/** The checked query. @throws ProblemError naming each wrong parameter. */
export function query<T>(c: HonoContext, schema: Joi.ObjectSchema): T {
  const { error, value } = schema.validate(c.req.query(), { abortEarly: false });
  if (error)
    throw new ProblemError(problem(400, 'query', 'The query is not right', 'Correct the parameters named.', explain(error)));
  return value as T;
}
