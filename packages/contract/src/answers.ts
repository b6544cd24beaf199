import { CONDITIONS, KINDS } from '@gavrel/core';
import { NOTICE_GROUPS } from '@gavrel/core/dispatch';
import { LOG_TYPE, PICTURE_TYPES, ROLES, TRAIL_WHATS, TRAININGS } from './index';

/** What the server answers, as JSON Schema 2020-12. Tests hold every answer to it. */
export type Json = Record<string, unknown>;

const text = { type: 'string' };
const flag = { type: 'boolean' };
const uuid = { type: 'string', format: 'uuid' };
const time = { type: 'string', format: 'date-time' };
const count = { type: 'integer', minimum: 0 };
const figure = { type: 'number', minimum: 0 };
const anything = { type: 'object' };
const one = (of: readonly string[]) => ({ enum: [...of] });
const orNull = (schema: Json) => ({ anyOf: [schema, { type: 'null' }] });
const list = (items: Json) => ({ type: 'array', items });

/** An object of these fields and no others. @param optional fields that may be missing. */
const object = (properties: Json, optional: Json = {}): Json => ({
  type: 'object',
  required: Object.keys(properties),
  properties: { ...properties, ...optional },
  additionalProperties: false,
});

const role = one([...ROLES, 'outside']);
const person = { id: uuid, name: text, role, competent: flag };
const trainings = { trainings: list(object({ kind: one(TRAININGS), until: { type: 'string', format: 'date' } })) };
const workshop = object({ id: uuid, name: text, zone: text, demo: flag });
const session = object(
  { person: object(person, trainings), workshop, people: list(object(person, trainings)) },
  { mustChoose: { const: true } },
);
const problem = object(
  { type: text, title: text, status: { type: 'integer', minimum: 400, maximum: 599 } },
  { detail: text, errors: list(object({ field: text, detail: text })) },
);
/** An entry as it was stored, also by an older program. */
const entry = {
  type: 'object',
  required: ['id', 'kind', 'subjects', 'at', 'by', 'seq', 'recordedAt', 'effectiveAt', 'body'],
  properties: { id: uuid, kind: one(KINDS), at: time, by: uuid, seq: count, recordedAt: time, effectiveAt: time, body: anything },
};
const waits = one(['nobody', 'second', 'trained']);
const entryResult = {
  oneOf: [
    object({ id: text, status: one(['accepted', 'known']), seq: count, recordedAt: time, effectiveAt: time }, { waits }),
    object({ id: text, status: one(['refused', 'later']), problem }),
  ],
};
const page = (items: Json) => object({ items: list(items), next: orNull(text) });
const due = object({ id: text, what: text, title: text, on: text, note: text, subject: text, derived: flag }, { at: time });

const benchTest = object({
  pack: uuid,
  amperes: figure,
  cutOff: figure,
  by: text,
  began: time,
  rows: list(
    object({ seconds: figure, volts: { type: 'number' }, amperes: { type: 'number' }, celsius: orNull({ type: 'number' }) }),
  ),
  next: count,
  end: orNull(object({ whole: flag, off: flag, words: text })),
});

export const ANSWERS = {
  Problem: problem,
  About: object({
    workshop,
    demo: flag,
    accounts: list(object({ name: text, passphrase: text, role })),
    session: orNull(session),
  }),
  Health: object({ database: { const: 'reachable' } }),
  Session: session,
  People: list(object(person, trainings)),
  PeopleInDetail: list(object({ ...person, disabled: flag, pin: flag }, trainings)),
  Invited: object({ id: uuid, passphrase: text }),
  Named: object({ id: uuid, uri: text }),
  Practised: list(
    object({
      person: uuid,
      scenario: text,
      begun: time,
      at: time,
      full: flag,
      harm: count,
      found: flag,
      bet: orNull(object({ sure: figure, right: flag })),
    }),
  ),
  Trail: list(
    object({
      id: count,
      at: time,
      what: one(TRAIL_WHATS),
      by: orNull(uuid),
      about: orNull(uuid),
      device: orNull(text),
      note: orNull(text),
    }),
  ),
  Backup: object({ automatic: flag, newest: orNull(object({ at: time, bytes: count })) }),
  Kept: object({ bytes: count, most: count }),
  Appended: object({ results: list(entryResult) }),
  Entries: object({ entries: list(entry), last: count }),
  OfflineSet: object({ whole: flag, last: count, subjects: list(text), onSite: count, held: count }),
  Packs: object({
    items: list(
      object({
        id: uuid,
        tag: text,
        use: text,
        typeCode: text,
        condition: one(CONDITIONS),
        place: orNull(uuid),
        forgave: list(text),
      }),
    ),
    next: orNull(text),
    stale: count,
  }),
  NoticedPacks: page(
    object({
      id: uuid,
      tag: text,
      group: one(NOTICE_GROUPS),
      hit: orNull(object({ sure: flag, why: list(text) })),
      found: flag,
    }),
  ),
  Pack: object({ facts: anything, ruling: anything, history: list(entry) }),
  Notebooks: page(anything),
  Jobs: page(anything),
  Facts: anything,
  Places: list(anything),
  Due: list(due),
  Owner: object({ id: uuid, name: text, contact: text }),
  Classified: object({ results: list(anything) }),
  Planned: object({
    packages: list(anything),
    left: list(anything),
    count,
    price: figure,
    bound: object({ count, price: figure }),
    proved: flag,
    ms: count,
  }),
  Calendar: object({ madeAt: orNull(time) }),
  CalendarMade: object({ madeAt: time, path: text }),
  InstrumentReading: object({ digits: text, unit: text }),
  GaugeReport: object({ text }),
  BenchTest: benchTest,
  BenchTestOrNone: orNull(benchTest),
  LoadOff: object({ off: flag }),
} satisfies Record<string, Json>;
export type AnswerName = keyof typeof ANSWERS;

const ref = (name: string) => ({ $ref: `#/components/schemas/${name}` });

type Responses = Record<string | number, Json>;
const otherwise = { default: { $ref: '#/components/responses/Problem' } };
const body = (type: string, schema: Json) => ({ content: { [type]: { schema } } });

/** An answer in JSON; everything else is a problem. */
export const says = (name: AnswerName, status = 200): Responses => ({
  [status]: { description: name, ...body('application/json', ref(name)) },
  ...otherwise,
});
/** Done, and nothing to say. */
export const done = (status = 204): Responses => ({ [status]: { description: 'Done' }, ...otherwise });
/** An answer that is not JSON. */
export const gives = (type: string): Responses => ({ 200: { description: type, ...body(type, text) }, ...otherwise });
export const givesPicture: Responses = {
  200: {
    description: 'The picture, or the packed log',
    content: Object.fromEntries([...PICTURE_TYPES, LOG_TYPE].map((t) => [t, { schema: { type: 'string', format: 'binary' } }])),
  },
  ...otherwise,
};
