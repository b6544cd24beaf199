import { KINDS } from '@gavrel/core';
import type Joi from 'joi';
import { PICTURE_TYPES } from './index';
import parse from 'joi-to-json';
import {
  APPEND_SCHEMA,
  ENTRIES_QUERY,
  ENTRY_SCHEMAS,
  LIST_QUERY,
  LOGS_SCHEMA,
  OUTSIDE_SCHEMA,
  SIGN_SCHEMA,
  CLASSIFY_SCHEMA,
  OWNER_SCHEMA,
  PASSPHRASE_SCHEMA,
  PERSON_CHANGE_SCHEMA,
  PERSON_SCHEMA,
  PIN_SCHEMA,
  RULING_QUERY,
  SIGN_IN_SCHEMA,
  SWITCH_SCHEMA,
  TRAIL_QUERY,
  TRAINING_SCHEMA,
} from './schemas';

type Json = Record<string, unknown>;

/** A Joi schema as JSON Schema 2020-12, the dialect of OpenAPI 3.1. */
export function jsonSchema(schema: Joi.Schema): Json {
  const { $schema: _dialect, ...rest } = parse(schema, 'json-draft-2019-09') as Json;
  return rest;
}

const ref = (name: string) => ({ $ref: `#/components/schemas/${name}` });
const json = (schema: Json) => ({ content: { 'application/json': { schema } } });
const ok = (description: string, schema: Json = { type: 'object' }) => ({
  200: { description, ...json(schema) },
  default: { $ref: '#/components/responses/Problem' },
});

/** Query parameters of a Joi object, one each. */
function query(schema: Joi.ObjectSchema): Json[] {
  const properties = (jsonSchema(schema).properties ?? {}) as Record<string, Json>;
  return Object.entries(properties).map(([name, s]) => ({ name, in: 'query', required: false, schema: s }));
}

const ID = [{ name: 'id', in: 'path', required: true, schema: { type: 'string', format: 'uuid' } }];
const SHA = [{ name: 'sha256', in: 'path', required: true, schema: { type: 'string', pattern: '^[0-9a-f]{64}$' } }];
const PICTURES = Object.fromEntries(PICTURE_TYPES.map((t) => [t, { schema: { type: 'string', format: 'binary' } }]));
const picture = (description: string) => ({
  200: { description, content: PICTURES },
  default: { $ref: '#/components/responses/Problem' },
});
const page = (of: string) => ({
  type: 'object',
  required: ['items', 'next'],
  properties: { items: { type: 'array', items: { type: 'object', description: of } }, next: { type: ['string', 'null'] } },
});

const done = { 204: { description: 'Done' }, default: { $ref: '#/components/responses/Problem' } };
const ask = (summary: string, operationId: string, schema: Joi.Schema) => ({
  summary,
  operationId,
  requestBody: { required: true, ...json(jsonSchema(schema)) },
  responses: { ...ok('Done'), ...done },
});

/** The OpenAPI 3.1 document, made from the very schemas that check the requests. */
export function openApi(version: string): Json {
  const schemas: Record<string, Json> = {};
  for (const kind of KINDS) schemas[`Entry.${kind}`] = jsonSchema(ENTRY_SCHEMAS[kind]);
  const entry = {
    oneOf: KINDS.map((k) => ref(`Entry.${k}`)),
    discriminator: { propertyName: 'kind', mapping: Object.fromEntries(KINDS.map((k) => [k, ref(`Entry.${k}`).$ref])) },
  };
  const append = jsonSchema(APPEND_SCHEMA) as { properties: Record<string, Json> };
  append.properties.entries = { ...append.properties.entries, items: ref('Entry') };
  const list = (what: string) => ({
    get: {
      summary: `List ${what}`,
      operationId: `list-${what}`,
      parameters: query(LIST_QUERY),
      responses: ok(`A page of ${what}`, page(what)),
    },
  });
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
      '/api/about': {
        get: { summary: 'The workshop, before signing in', operationId: 'about', security: [], responses: ok('About') },
      },
      '/api/health': {
        get: { summary: 'Is the database reachable?', operationId: 'health', security: [], responses: ok('Reachable') },
      },
      '/api/session': {
        get: { summary: 'Who is signed in', operationId: 'session', responses: ok('Session') },
        post: {
          summary: 'Sign in',
          operationId: 'sign-in',
          security: [],
          requestBody: { required: true, ...json(jsonSchema(SIGN_IN_SCHEMA)) },
          responses: ok('Session'),
        },
        delete: { summary: 'Sign out', operationId: 'sign-out', responses: { 204: { description: 'Signed out' } } },
      },
      '/api/session/device': {
        get: { summary: 'Who may take over this device by PIN', operationId: 'people-of-device', responses: ok('People') },
      },
      '/api/session/switch': { post: ask('Take over this device by PIN', 'switch', SWITCH_SCHEMA) },
      '/api/session/passphrase': { put: ask('Change one’s own passphrase', 'passphrase', PASSPHRASE_SCHEMA) },
      '/api/session/pin': { put: ask('Set one’s own PIN', 'pin', PIN_SCHEMA) },
      '/api/sessions': {
        delete: { summary: 'Sign out everywhere', operationId: 'sign-out-everywhere', responses: done },
      },
      '/api/trail': {
        get: {
          summary: 'Who was let in, changed, reset or signed in, the newest first (lead)',
          operationId: 'trail',
          parameters: query(TRAIL_QUERY),
          responses: ok('Trail', { type: 'array', items: { type: 'object' } }),
        },
      },
      '/api/backup': { get: { summary: 'Age of the newest copy (lead)', operationId: 'backup', responses: ok('Copy') } },
      '/api/people': {
        get: { summary: 'Everybody, in detail (lead)', operationId: 'people', responses: ok('People') },
        post: ask('Invite somebody (lead)', 'invite', PERSON_SCHEMA),
      },
      '/api/people/outside': { post: ask('Name somebody outside who signs by one-time code (lead)', 'outside', OUTSIDE_SCHEMA) },
      '/api/people/{id}': {
        patch: { ...ask('Change role, disable (lead)', 'change-person', PERSON_CHANGE_SCHEMA), parameters: ID },
      },
      '/api/people/{id}/reset': {
        post: { summary: 'Make a new passphrase (lead)', operationId: 'reset', parameters: ID, responses: ok('Said once') },
      },
      '/api/people/{id}/trainings': {
        put: { ...ask('Trained for what, until when (lead)', 'training', TRAINING_SCHEMA), parameters: ID },
      },
      '/api/entries': {
        get: {
          summary: 'Entries after a sequence number',
          operationId: 'entries',
          parameters: query(ENTRIES_QUERY),
          responses: ok('Entries in order'),
        },
        post: {
          summary: 'Append up to 500 entries, idempotent by id',
          operationId: 'append',
          requestBody: { required: true, ...json(append as Json) },
          responses: ok('One result for each entry, in order'),
        },
      },
      '/api/offline-set': {
        get: { summary: 'What a device is to hold to work without the server', operationId: 'offline-set', responses: ok('Set') },
      },
      '/api/entries/of': {
        post: {
          summary: 'The whole logs of up to 200 subjects',
          operationId: 'logs',
          requestBody: { required: true, ...json(jsonSchema(LOGS_SCHEMA)) },
          responses: ok('Entries in order'),
        },
      },
      '/api/entries/sign': {
        post: ask('A second person signs on another’s device, by PIN, passphrase or one-time code', 'sign', SIGN_SCHEMA),
      },
      '/api/packs': list('packs'),
      '/api/packs/{id}': {
        get: {
          summary: 'One pack: facts, ruling, history',
          operationId: 'pack',
          parameters: [...ID, ...query(RULING_QUERY)],
          responses: ok('Pack'),
        },
      },
      '/api/notebooks': list('notebooks'),
      '/api/notebooks/{id}': {
        get: { summary: 'One notebook', operationId: 'notebook', parameters: ID, responses: ok('Notebook') },
      },
      '/api/jobs': list('jobs'),
      '/api/jobs/{id}': { get: { summary: 'One job', operationId: 'job', parameters: ID, responses: ok('Job') } },
      '/api/places': {
        get: { summary: 'Places', operationId: 'places', responses: ok('Places', { type: 'array', items: { type: 'object' } }) },
      },
      '/api/due': {
        get: { summary: 'What is due', operationId: 'due', responses: ok('Due', { type: 'array', items: { type: 'object' } }) },
      },
      '/api/blobs/{sha256}': {
        get: { summary: 'A picture', operationId: 'picture', parameters: SHA, responses: picture('The picture') },
        put: {
          summary:
            'Store a picture under the hash of what is sent, at most 5 MB, JPEG or PNG; it is drawn anew, without anything but its pixels',
          operationId: 'put-picture',
          parameters: SHA,
          requestBody: { required: true, content: PICTURES },
          responses: { 201: { description: 'Stored' }, default: { $ref: '#/components/responses/Problem' } },
        },
        delete: {
          summary: 'Erase the bytes of a picture; its hash stays',
          operationId: 'erase-picture',
          parameters: SHA,
          responses: { 204: { description: 'Erased' }, default: { $ref: '#/components/responses/Problem' } },
        },
      },
      '/api/kept': { get: { summary: 'Room that pictures take (lead)', operationId: 'kept', responses: ok('Bytes') } },
      '/api/owners/{id}': {
        get: { summary: 'An owner', operationId: 'owner', parameters: ID, responses: ok('Owner') },
        put: {
          summary: 'Write an owner’s name and contact',
          operationId: 'put-owner',
          parameters: ID,
          requestBody: { required: true, ...json(jsonSchema(OWNER_SCHEMA)) },
          responses: ok('Owner'),
        },
        delete: {
          summary: 'Erase an owner',
          operationId: 'erase-owner',
          parameters: ID,
          responses: { 204: { description: 'Erased' }, default: { $ref: '#/components/responses/Problem' } },
        },
      },
      '/api/classify': {
        post: {
          summary: 'Rule on up to 2000 packs: objects with facts and route; missing means unknown',
          operationId: 'classify',
          requestBody: {
            required: true,
            ...json(jsonSchema(CLASSIFY_SCHEMA)),
          },
          responses: ok('One result for each, in their order', { type: 'array', items: { type: 'object' } }),
        },
      },
      '/api/calendar': {
        get: {
          summary: 'When the calendar’s address was made; for the lead',
          operationId: 'calendar',
          responses: ok('Calendar'),
        },
        post: {
          summary: 'Make a new secret address of the calendar; the one before ends',
          operationId: 'make-calendar',
          responses: { 201: { description: 'Made' }, default: { $ref: '#/components/responses/Problem' } },
        },
        delete: {
          summary: 'Revoke the calendar’s address',
          operationId: 'revoke-calendar',
          responses: { 204: { description: 'Revoked' }, default: { $ref: '#/components/responses/Problem' } },
        },
      },
      '/api/calendar/{secret}.ics': {
        get: {
          summary: 'What is due as iCalendar (RFC 5545), for whoever has the address',
          operationId: 'calendar-feed',
          security: [],
          parameters: [{ name: 'secret', in: 'path', required: true, schema: { type: 'string' } }],
          responses: { 200: { description: 'Calendar', content: { 'text/calendar': { schema: { type: 'string' } } } } },
        },
      },
      '/api/news': {
        get: {
          summary: 'Server-sent events: the newest sequence number',
          operationId: 'news',
          responses: { 200: { description: 'Events', content: { 'text/event-stream': { schema: { type: 'string' } } } } },
        },
      },
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
        Problem: {
          type: 'object',
          required: ['type', 'title', 'status'],
          properties: {
            type: { type: 'string' },
            title: { type: 'string' },
            status: { type: 'integer' },
            detail: { type: 'string' },
            errors: {
              type: 'array',
              items: { type: 'object', properties: { field: { type: 'string' }, detail: { type: 'string' } } },
            },
          },
        },
      },
    },
  };
}
