import { KINDS } from '@gavrel/core';
import type Joi from 'joi';
import { ANSWERS, done, gives, givesPicture, type Json, says } from './answers';
import { LOG_TYPE, PICTURE_TYPES } from './index';
import parse from 'joi-to-json';
import {
  APPEND_SCHEMA,
  BENCH_TEST_QUERY,
  BENCH_TEST_SCHEMA,
  ENTRIES_QUERY,
  ENTRY_SCHEMAS,
  LIST_QUERY,
  NOTICED_QUERY,
  LOGS_SCHEMA,
  OUTSIDE_SCHEMA,
  SIGN_SCHEMA,
  CLASSIFY_SCHEMA,
  PLAN_SCHEMA,
  OWNER_SCHEMA,
  PASSPHRASE_SCHEMA,
  PERSON_CHANGE_SCHEMA,
  PERSON_SCHEMA,
  PIN_SCHEMA,
  PRACTISED_SCHEMA,
  RULING_QUERY,
  SIGN_IN_SCHEMA,
  SWITCH_SCHEMA,
  TRAIL_QUERY,
  TRAINING_SCHEMA,
} from './schemas';

/** A Joi schema as JSON Schema 2020-12, the dialect of OpenAPI 3.1. */
export function jsonSchema(schema: Joi.Schema): Json {
  const { $schema: _dialect, ...rest } = parse(schema, 'json-draft-2019-09') as Json;
  return rest;
}

const ref = (name: string) => ({ $ref: `#/components/schemas/${name}` });
const json = (schema: Json) => ({ content: { 'application/json': { schema } } });
/** Query parameters of a Joi object, one each. */
function query(schema: Joi.ObjectSchema): Json[] {
  const properties = (jsonSchema(schema).properties ?? {}) as Record<string, Json>;
  return Object.entries(properties).map(([name, s]) => ({ name, in: 'query', required: false, schema: s }));
}

const ID = [{ name: 'id', in: 'path', required: true, schema: { type: 'string', format: 'uuid' } }];
const SHA = [{ name: 'sha256', in: 'path', required: true, schema: { type: 'string', pattern: '^[0-9a-f]{64}$' } }];
const PICTURES = Object.fromEntries(
  [...PICTURE_TYPES, LOG_TYPE].map((t) => [t, { schema: { type: 'string', format: 'binary' } }]),
);
const ask = (summary: string, operationId: string, schema: Joi.Schema, responses: Json) => ({
  summary,
  operationId,
  requestBody: { required: true, ...json(jsonSchema(schema)) },
  responses,
});

/** A list of one subject type, with its query. */
const list = (what: string, responses: Json) => ({
  get: { summary: `List ${what}`, operationId: `list-${what}`, parameters: query(LIST_QUERY), responses },
});

/** Signing in, and who may. */
const peoplePaths = (): Json => ({
  '/api/session': {
    get: { summary: 'Who is signed in', operationId: 'session', responses: says('Session') },
    post: {
      summary: 'Sign in',
      operationId: 'sign-in',
      security: [],
      requestBody: { required: true, ...json(jsonSchema(SIGN_IN_SCHEMA)) },
      responses: says('Session'),
    },
    delete: { summary: 'Sign out', operationId: 'sign-out', responses: done() },
  },
  '/api/session/device': {
    get: { summary: 'Who may take over this device by PIN', operationId: 'people-of-device', responses: says('People') },
  },
  '/api/session/switch': { post: ask('Take over this device by PIN', 'switch', SWITCH_SCHEMA, says('Session')) },
  '/api/session/passphrase': { put: ask('Change one’s own passphrase', 'passphrase', PASSPHRASE_SCHEMA, done()) },
  '/api/session/pin': { put: ask('Set one’s own PIN', 'pin', PIN_SCHEMA, done()) },
  '/api/session/practice': { put: ask('Send one’s own practice sessions', 'practised', PRACTISED_SCHEMA, done()) },
  '/api/practice': {
    get: {
      summary: 'Who practised what and how, the newest first (lead)',
      operationId: 'practice',
      responses: says('Practised'),
    },
  },
  '/api/sessions': {
    delete: { summary: 'Sign out everywhere', operationId: 'sign-out-everywhere', responses: done() },
  },
  '/api/trail': {
    get: {
      summary: 'Who was let in, changed, reset or signed in, the newest first (lead)',
      operationId: 'trail',
      parameters: query(TRAIL_QUERY),
      responses: says('Trail'),
    },
  },
  '/api/backup': { get: { summary: 'Age of the newest copy (lead)', operationId: 'backup', responses: says('Backup') } },
  '/api/people': {
    get: { summary: 'Everybody, in detail (lead)', operationId: 'people', responses: says('PeopleInDetail') },
    post: ask('Invite somebody (lead)', 'invite', PERSON_SCHEMA, says('Invited', 201)),
  },
  '/api/people/outside': {
    post: ask('Name somebody outside who signs by one-time code (lead)', 'outside', OUTSIDE_SCHEMA, says('Named', 201)),
  },
  '/api/people/{id}': {
    patch: { ...ask('Change role, disable (lead)', 'change-person', PERSON_CHANGE_SCHEMA, done()), parameters: ID },
  },
  '/api/people/{id}/reset': {
    post: { summary: 'Make a new passphrase (lead)', operationId: 'reset', parameters: ID, responses: says('Invited') },
  },
  '/api/people/{id}/trainings': {
    put: { ...ask('Trained for what, until when (lead)', 'training', TRAINING_SCHEMA, done()), parameters: ID },
  },
});

/** The log: appended to, read, signed, told of. */
function logPaths(): Json {
  const append = jsonSchema(APPEND_SCHEMA) as { properties: Record<string, Json> };
  append.properties.entries = { ...append.properties.entries, items: ref('Entry') };
  return {
    '/api/entries': {
      get: {
        summary: 'Entries after a sequence number',
        operationId: 'entries',
        parameters: query(ENTRIES_QUERY),
        responses: says('Entries'),
      },
      post: {
        summary: 'Append up to 500 entries, idempotent by id',
        operationId: 'append',
        requestBody: { required: true, ...json(append as Json) },
        responses: says('Appended'),
      },
    },
    '/api/offline-set': {
      get: {
        summary: 'What a device is to hold to work without the server',
        operationId: 'offline-set',
        responses: says('OfflineSet'),
      },
    },
    '/api/entries/of': {
      post: {
        summary: 'The whole logs of up to 200 subjects',
        operationId: 'logs',
        requestBody: { required: true, ...json(jsonSchema(LOGS_SCHEMA)) },
        responses: says('Entries'),
      },
    },
    '/api/entries/sign': {
      post: ask(
        'A second person signs on another’s device, by PIN, passphrase or one-time code',
        'sign',
        SIGN_SCHEMA,
        says('Appended'),
      ),
    },
    '/api/news': {
      get: {
        summary: 'Server-sent events: the newest sequence number',
        operationId: 'news',
        responses: gives('text/event-stream'),
      },
    },
  };
}

/** What follows from the log. */
const readPaths = (): Json => ({
  '/api/packs': list('packs', says('Packs')),
  '/api/packs/{id}': {
    get: {
      summary: 'One pack: facts, ruling, history',
      operationId: 'pack',
      parameters: [...ID, ...query(RULING_QUERY)],
      responses: says('Pack'),
    },
  },
  '/api/notices/{id}/packs': {
    get: {
      summary: 'Packs of the whole stock that a notice concerns, or may, a stretch at a time',
      operationId: 'noticed-packs',
      parameters: [...ID, ...query(NOTICED_QUERY)],
      responses: says('NoticedPacks'),
    },
  },
  '/api/notebooks': list('notebooks', says('Notebooks')),
  '/api/notebooks/{id}': {
    get: { summary: 'One notebook', operationId: 'notebook', parameters: ID, responses: says('Facts') },
  },
  '/api/jobs': list('jobs', says('Jobs')),
  '/api/jobs/{id}': { get: { summary: 'One job', operationId: 'job', parameters: ID, responses: says('Facts') } },
  '/api/places': {
    get: { summary: 'Places', operationId: 'places', responses: says('Places') },
  },
  '/api/due': {
    get: { summary: 'What is due', operationId: 'due', responses: says('Due') },
  },
  '/api/calendar': {
    get: {
      summary: 'When the calendar’s address was made; for the lead',
      operationId: 'calendar',
      responses: says('Calendar'),
    },
    post: {
      summary: 'Make a new secret address of the calendar; the one before ends',
      operationId: 'make-calendar',
      responses: says('CalendarMade', 201),
    },
    delete: {
      summary: 'Revoke the calendar’s address',
      operationId: 'revoke-calendar',
      responses: done(),
    },
  },
  '/api/calendar/{secret}.ics': {
    get: {
      summary: 'What is due as iCalendar (RFC 5545), for whoever has the address',
      operationId: 'calendar-feed',
      security: [],
      parameters: [{ name: 'secret', in: 'path', required: true, schema: { type: 'string' } }],
      responses: gives('text/calendar'),
    },
  },
});

/** Pictures and owners: what can be erased. */
const keptPaths = (): Json => ({
  '/api/blobs/{sha256}': {
    get: { summary: 'A picture', operationId: 'picture', parameters: SHA, responses: givesPicture },
    put: {
      summary:
        'Store a picture under the hash of what is sent, at most 5 MB, JPEG or PNG; it is drawn anew, without anything but its pixels. A discharge log is stored as it is, packed with gzip',
      operationId: 'put-picture',
      parameters: SHA,
      requestBody: { required: true, content: PICTURES },
      responses: done(201),
    },
    delete: {
      summary: 'Erase the bytes of a picture; its hash stays',
      operationId: 'erase-picture',
      parameters: SHA,
      responses: done(),
    },
  },
  '/api/kept': { get: { summary: 'Room that pictures take (lead)', operationId: 'kept', responses: says('Kept') } },
  '/api/owners/{id}': {
    get: { summary: 'An owner', operationId: 'owner', parameters: ID, responses: says('Owner') },
    put: {
      summary: 'Write an owner’s name and contact',
      operationId: 'put-owner',
      parameters: ID,
      requestBody: { required: true, ...json(jsonSchema(OWNER_SCHEMA)) },
      responses: says('Owner'),
    },
    delete: {
      summary: 'Erase an owner',
      operationId: 'erase-owner',
      parameters: ID,
      responses: done(),
    },
  },
});

/** The interface about itself, and what is computed without the log. */
const otherPaths = (): Json => ({
  '/api/about': {
    get: { summary: 'The workshop, before signing in', operationId: 'about', security: [], responses: says('About') },
  },
  '/api/openapi.json': {
    get: { summary: 'This document', operationId: 'openapi', security: [], responses: says('Facts') },
  },
  '/api/health': {
    get: { summary: 'Is the database reachable?', operationId: 'health', security: [], responses: says('Health') },
  },
  '/api/classify': {
    post: {
      summary: 'Rule on up to 2000 packs: objects with facts and route; missing means unknown',
      operationId: 'classify',
      requestBody: {
        required: true,
        ...json(jsonSchema(CLASSIFY_SCHEMA)),
      },
      responses: says('Classified'),
    },
  },
  '/api/plan': {
    post: {
      summary:
        'Plan packages for packs: kinds with facts and outline, boxes in stock, a route; the fewest packages, then the lowest price, with a bound',
      operationId: 'plan',
      requestBody: { required: true, ...json(jsonSchema(PLAN_SCHEMA)) },
      responses: says('Planned'),
    },
  },
  '/api/instruments/{id}/reading': {
    post: {
      summary: 'Read an instrument at the address the lead registered, until it stands still',
      operationId: 'read-instrument',
      parameters: ID,
      responses: says('InstrumentReading'),
    },
  },
  '/api/instruments/{id}/report': {
    post: {
      summary: 'Read what a gauge reader sends of a pack: its registers as text',
      operationId: 'read-gauge-report',
      parameters: ID,
      responses: says('GaugeReport'),
    },
  },
  '/api/instruments/{id}/bench-test': {
    post: {
      summary: 'Begin a discharge of a pack on an electronic load; refused for packs that are dangerous, doubtful or not known',
      operationId: 'begin-bench-test',
      parameters: ID,
      requestBody: { required: true, ...json(jsonSchema(BENCH_TEST_SCHEMA)) },
      responses: says('BenchTest', 201),
    },
    get: {
      summary: 'The last discharge on this load, with its rows from one on, null where there was none; whoever asks watches it',
      operationId: 'watch-bench-test',
      parameters: [...ID, ...query(BENCH_TEST_QUERY)],
      responses: says('BenchTestOrNone'),
    },
    delete: {
      summary: 'Switch this load off, whatever runs on it; says whether it is',
      operationId: 'stop-bench-test',
      parameters: ID,
      responses: says('LoadOff'),
    },
  },
});

/** The OpenAPI 3.1 document, made from the very schemas that check the requests. */
export function openApi(version: string): Json {
  const schemas: Record<string, Json> = {};
  for (const kind of KINDS) schemas[`Entry.${kind}`] = jsonSchema(ENTRY_SCHEMAS[kind]);
  const entry = {
    oneOf: KINDS.map((k) => ref(`Entry.${k}`)),
    discriminator: { propertyName: 'kind', mapping: Object.fromEntries(KINDS.map((k) => [k, ref(`Entry.${k}`).$ref])) },
  };
  return {
    openapi: '3.1.0',
    info: {
      title: 'Gavrel',
      version,
      description:
        'Append entries, read what follows from them. Figures of rules are our copy, from memory: check the current edition.',
    },
    servers: [{ url: '/' }],
    security: [{ session: [] }],
    paths: {
      ...otherPaths(),
      ...peoplePaths(),
      ...logPaths(),
      ...readPaths(),
      ...keptPaths(),
    },
    components: {
      securitySchemes: { session: { type: 'apiKey', in: 'cookie', name: 'gavrel' } },
      responses: {
        Problem: {
          description: 'RFC 9457 problem document',
          content: { 'application/problem+json': { schema: ref('Problem') } },
        },
      },
      schemas: {
        ...schemas,
        Entry: entry,
        ...ANSWERS,
      },
    },
  };
}
