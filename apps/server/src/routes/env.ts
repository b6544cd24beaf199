import type { Person } from '@gavrel/contract';
import { explain } from '@gavrel/contract/schemas';
import { localDay } from '@gavrel/core';
import type { Context as HonoContext, MiddlewareHandler } from 'hono';
import { getCookie } from 'hono/cookie';
import { getConnInfo } from '@hono/node-server/conninfo';
import type Joi from 'joi';
import type { Knex } from 'knex';
import { checkedJson, notJson } from '../checked';
import type { ClassifyPool } from '../classify/pool';
import type { DuePool } from '../log/due-pool';
import type { Streams } from '../log/streams';
import type { Writer } from '../log/writer';
import { answer, notFound, problem, ProblemError } from '../problem';
import type { Asking, Known, Place } from '../people/sessions';
import type { Refresher } from '../projection/refresher';
import type { BenchTests } from '../operate/bench-tests';
import type { Metrics } from '../operate/metrics';
import type { WorkshopRow } from '../store/workshop';

export interface Env {
  Variables: { person: Person; token: string; known: Known; requestId: string };
}

/** What every route may use. Nothing here is state of the process alone, but for the tests under way on a load. */
export interface Services {
  readonly db: Knex;
  readonly workshop: WorkshopRow;
  readonly writer: Writer;
  readonly classify: ClassifyPool;
  readonly dues: DuePool;
  readonly refresher: Refresher;
  readonly streams: Streams;
  readonly metrics: Metrics;
  readonly benchTests: BenchTests;
  readonly backups: string | null;
  /** Most entries a device is told to hold. */
  readonly deviceLimit: number;
  /** A proxy of ours stands before the server: its word on who asks is believed. */
  readonly trustProxy: boolean;
  /** Entries that are no danger which one person may write in an hour. */
  readonly quota: number;
  /** Requests an address may make in a minute. */
  readonly perMinute: number;
  /** Bytes of pictures the workshop keeps. */
  readonly pictureQuota: number;
  /** Names this server answers to besides those of the machine itself and its addresses; empty where a proxy checks them. */
  readonly hosts: readonly string[];
  /** Demo accounts to show on the sign-in screen; empty outside the demo. */
  readonly accounts: readonly { readonly name: string; readonly passphrase: string; readonly role: Person['role'] }[];
}

/** Is the body said to be JSON? @throws ProblemError 415: a form on another site cannot say so. */
export function onlyJson(c: HonoContext): void {
  if (!/^application\/json\b/i.test(c.req.header('content-type') ?? ''))
    throw new ProblemError(
      problem(415, 'content-type', 'The body is not said to be JSON', 'Send it with content-type application/json.'),
    );
}

/** The checked JSON body. @throws ProblemError naming each wrong field. */
export async function body<T>(c: HonoContext, schema: Joi.Schema): Promise<T> {
  onlyJson(c);
  let text: string;
  try {
    text = await c.req.text();
  } catch {
    throw notJson();
  }
  return checkedJson<T>(text, schema);
}

/** The checked query. @throws ProblemError naming each wrong parameter. */
export function query<T>(c: HonoContext, schema: Joi.ObjectSchema): T {
  const { error, value } = schema.validate(c.req.query(), { abortEarly: false });
  if (error)
    throw new ProblemError(problem(400, 'query', 'The query is not right', 'Correct the parameters named.', explain(error)));
  return value as T;
}

/** Where and when a person is asked about. */
export const placeOf = (s: Services): Place => ({
  db: s.db,
  workshop: s.workshop.id,
  today: localDay(s.workshop.zone, new Date()),
});

export const COOKIE = 'gavrel';
export const DEVICE_COOKIE = 'gavrel-device';

/** The same, with who asks for it. */
export const askingOf = (s: Services, c: HonoContext): Asking => ({
  ...placeOf(s),
  address: addressOf(s, c),
  cookie: getCookie(c, DEVICE_COOKIE),
});

const UUID = /^[0-9a-f]{8}(-[0-9a-f]{4}){3}-[0-9a-f]{12}$/;

/** The id in the address. @throws ProblemError 404 when it is none. */
export function idOf(c: HonoContext, what = 'person'): string {
  const id = c.req.param('id') ?? '';
  if (!UUID.test(id)) throw notFound(what);
  return id;
}

export const onlyLead: MiddlewareHandler<Env> = async (c, next) => {
  if (c.get('person').role !== 'lead') return answer(c, problem(403, 'role', 'Only a lead may do this', 'Ask the lead.'));
  return next();
};

/** Who asks, for counting: the address of the connection; the one a proxy of ours names, where there is one. */
export function addressOf(s: Services, c: HonoContext): string {
  // The last name on the list is the one our own proxy wrote; what stands before it the client may have made up.
  const named = s.trustProxy ? c.req.header('x-forwarded-for')?.split(',').pop()?.trim() : undefined;
  return named ?? getConnInfo(c).remote.address ?? 'unknown';
}

/** Did this request come over TLS, to us or to our proxy? The cookie is Secure then. */
export const isSecure = (s: Services, c: HonoContext): boolean =>
  c.req.url.startsWith('https:') || (s.trustProxy && c.req.header('x-forwarded-proto') === 'https');
