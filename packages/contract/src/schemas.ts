import {
  ABOUT,
  CHEMISTRIES,
  CONDITIONS,
  DAY_FORMS,
  DECIMAL_MARKS,
  DISTANCE_SCHOOLS,
  DRAINS,
  DUE_KINDS,
  type Entry,
  isHazard,
  type Kind,
  KINDS,
  LENGTH_UNITS,
  LOOK_GROUPS,
  PACK_USES,
  PURPOSES,
  QUANTITIES,
  RANGE,
  SUBJECT_TYPES,
  WATCHES,
  SUMMARY_ITEMS,
  TEMPERATURE_UNITS,
  value,
} from '@gavrel/core';
import Joi from 'joi';
import { DISPATCH } from './dispatch';
import { LONGEST } from './lengths';
import { day, digits, explain, figure, instrument, madeOn, more, tag, text, unsound, uuid, when } from './parts';
import { type FieldError, MAX_BATCH, MAX_LOGS, MAX_PRACTISED, ROLES, SIGN_WAYS, TRAININGS } from './index';
import { WORK } from './work';

export { isPrivate } from './private';
export { explain } from './parts';
export { scenarioErrors } from './scenario';
export { SHEET_FILE_SCHEMA } from './work';
import { YARD } from './yard';

const UNITS: Record<(typeof QUANTITIES)[number], readonly string[]> = {
  'pack-voltage': ['V', 'mV'],
  'cell-voltage': ['V', 'mV'],
  thickness: LENGTH_UNITS,
  'new-thickness': LENGTH_UNITS,
  'surface-temperature': TEMPERATURE_UNITS,
  'room-temperature': TEMPERATURE_UNITS,
  mass: ['kg', 'g'],
};

/** Quantities that are never 0. */
const REAL: readonly string[] = ['thickness', 'new-thickness', 'mass'];

/** One reading; beyond the range of the instrument, or of any instrument, it is refused. */
const reading = Joi.object({
  quantity: Joi.string()
    .valid(...QUANTITIES)
    .required(),
  figure: Joi.object({ digits: digits(true).required(), unit: Joi.string().max(4).required() }).required(),
  point: text(20),
  instrument,
  set: Joi.object({ id: uuid().required(), of: Joi.number().integer().min(1).max(20).required() }),
  restMinutes: Joi.number().integer().min(0).max(1_000_000),
  flow: Joi.string().valid('charge', 'discharge', 'unknown'),
  source: Joi.string().valid('measured-new', 'data-sheet', 'trade-code'),
  confirmedOdd: Joi.boolean(),
}).custom(
  (v: { quantity: keyof typeof UNITS; figure: { digits: string; unit: string }; instrument?: { range?: number } }, helpers) => {
    if (!UNITS[v.quantity].includes(v.figure.unit)) {
      return helpers.message({ custom: `"body.figure.unit" must be ${UNITS[v.quantity].join(' or ')} for ${v.quantity}` });
    }
    const x = value(v.figure);
    if (x === 0 && REAL.includes(v.quantity))
      return helpers.message({ custom: '"body.figure" is 0: nothing real is; measure it again' });
    const [lo, hi] = RANGE[v.quantity]!;
    const max = Math.min(hi, v.instrument?.range ?? hi);
    if (x < lo || x > max) {
      return helpers.message({ custom: `"body.figure" must lie between ${lo} and ${max}: beyond the range of the instrument` });
    }
    return v;
  },
);

const CAPACITIES = ['Ah', 'mAh', 'Wh', 'mWh'];
const BODY: Record<Kind, Joi.ObjectSchema> = {
  'job-opened': Joi.object({ complaint: text(LONGEST.story) }),
  'job-closed': Joi.object({ note: text(LONGEST.note) }),
  'notebook-identified': Joi.object({
    tag: tag().required(),
    plate: Joi.string().valid('read', 'unreadable').required(),
    // Empty: what an earlier reading said of it is wrong.
    maker: text(LONGEST.name).allow(''),
    model: text(LONGEST.name).allow(''),
    serial: text(LONGEST.name).allow(''),
  }),
  'pack-added': Joi.object({
    tag: tag().required(),
    use: Joi.string()
      .valid(...PACK_USES)
      .required(),
    slot: Joi.string().valid('internal', 'external', 'dock'),
  }),
  'label-read': Joi.object({
    chemistry: Joi.string().valid(...CHEMISTRIES),
    typeCode: text(LONGEST.typeCode),
    spareNumber: text(60),
    designation: text(LONGEST.designation),
    serial: text(60),
    nominalVoltage: more(['V', 'mV']),
    ratedCapacity: more(['Ah', 'mAh']),
    ratedEnergy: more(['Wh', 'mWh']),
    limitedChargeVoltage: more(['V', 'mV']),
    series: Joi.number().integer().min(1).max(20),
    parallel: Joi.number().integer().min(1).max(20),
    madeOn: madeOn(),
    energyMarked: Joi.boolean(),
    readBy: Joi.string().valid('camera'),
  })
    .min(1)
    .when(Joi.object({ readBy: Joi.exist() }).unknown(), { then: Joi.object().min(2) }),
  'reading-taken': reading,
  'gauge-read': Joi.object({
    designCapacity: more(CAPACITIES),
    fullChargeCapacity: more(CAPACITIES),
    remainingCapacity: figure(CAPACITIES),
    maxError: Joi.number().min(0).max(100),
    cycleCount: Joi.number().integer().min(0).max(65_535),
    cellVoltages: Joi.array()
      .items(figure(['V', 'mV'], true))
      .max(20),
    permanentFailure: Joi.boolean(),
  }).min(1),
  looked: Joi.object({
    groups: Joi.array()
      .items(Joi.string().valid(...LOOK_GROUPS))
      .min(1)
      .unique()
      .required(),
    where: Joi.string().valid('pack', 'outside'),
  }),
  'finding-recorded': Joi.object({
    // Any code is kept: one this program does not know is never harmless.
    code: Joi.string()
      .pattern(/^[a-z][a-z0-9-]{1,40}$/, 'a finding code')
      .required(),
    note: text(LONGEST.note),
    dwellHours: Joi.number().min(0).max(1_000_000),
    point: text(20),
  }),
  'finding-cleared': Joi.object({
    clears: Joi.array().items(uuid()).min(1).required(),
    reason: text(LONGEST.reason).min(3).required(),
  }),
  'quiet-declared': Joi.object({
    ends: Joi.array().items(uuid()).min(1).required(),
    reason: text(LONGEST.reason).min(3).required(),
  }),
  corrected: Joi.object({ body: Joi.object().unknown(true).required(), reason: text(LONGEST.reason).min(3).required() }),
  retracted: Joi.object({ reason: text(LONGEST.reason).min(3).required() }),
  confirmed: Joi.object({ confirms: uuid().required() }),
  declined: Joi.object({ declines: uuid().required(), reason: text(LONGEST.reason) }),
  'brought-down': Joi.object({
    to: Joi.number().min(0).max(100).required(),
    how: Joi.string()
      .valid(...DRAINS)
      .required(),
    hours: Joi.number().positive().max(1000),
  }),
  'topped-up': Joi.object({ to: Joi.number().min(0).max(100).required() }),
  cycled: Joi.object({ went: Joi.string().valid('as-usual', 'not-as-usual').required(), note: text(LONGEST.note) }),
  'evidence-stated': Joi.object({ typeTested: Joi.string().valid('yes', 'no').required() }),
  intended: Joi.object({
    purpose: Joi.string()
      .valid(...PURPOSES)
      .required(),
  }),
  'due-set': Joi.object({
    what: Joi.string()
      .valid(...DUE_KINDS)
      .required(),
    on: day().required(),
    note: text(200),
  }),
  'due-met': Joi.object({ meets: uuid().required(), note: text(200) }),
  'site-card-set': Joi.object({
    emergencyNumber: text(40).min(1).required(),
    assemblyPoint: text(120).min(1).required(),
    callFirst: text(120).min(1).required(),
  }),
  ...WORK,
  ...YARD,
  ...DISPATCH,
  'rule-checked': Joi.object({
    rule: text(40).min(1).required(),
    edition: text(LONGEST.name).min(1).required(),
    on: day().required(),
  }),
  'summary-filed': Joi.object({
    typeCode: text(LONGEST.typeCode).min(1).required(),
    items: Joi.array()
      .items(Joi.string().valid(...SUMMARY_ITEMS))
      .unique()
      .required(),
    report: text(LONGEST.name),
  }),
  'policy-set': Joi.object({
    swelling: Joi.string().valid('any', 'allowance'),
    innerCellLimit: Joi.boolean(),
    // Nothing written takes it back.
    wasteCode: text(40).allow(''),
    wasteProducer: text(60).allow(''),
    assessAfterPractice: Joi.boolean(),
    distances: Joi.string().valid(...DISTANCE_SCHOOLS),
    watch: Joi.string().valid(...WATCHES),
    drumDays: Joi.number().integer().min(1).max(365),
    lookDays: Joi.number().integer().min(1).max(90),
    dispatchDays: Joi.number().integer().min(1).max(30),
    stayDays: Joi.number().integer().min(1).max(365),
    lengths: Joi.string().valid(...LENGTH_UNITS),
    temperatures: Joi.string().valid(...TEMPERATURE_UNITS),
    decimalMark: Joi.string().valid(...DECIMAL_MARKS),
    days: Joi.string().valid(...DAY_FORMS),
  }).min(1),
};

const SUBJECT = new RegExp(`^(${SUBJECT_TYPES.join('|')}):[0-9a-f]{8}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{12}$`);
const REPLACES: readonly Kind[] = ['corrected', 'retracted'];

/** One schema per entry kind; the kind is a constant in it. */
export const ENTRY_SCHEMAS: Record<Kind, Joi.ObjectSchema<Entry>> = Object.fromEntries(
  KINDS.map((kind) => {
    const about = ABOUT[kind];
    const subjects = Joi.array().items(Joi.string().pattern(SUBJECT, 'type:uuid')).min(1).max(64).unique().required();
    return [
      kind,
      Joi.object({
        id: uuid().required(),
        v: Joi.number().valid(1).required(),
        workshop: uuid().required(),
        subjects: about
          ? subjects.custom((v: string[], helpers) =>
              v.some((s) => s.startsWith(`${about}:`)) ? v : helpers.message({ custom: `"subjects" must name a ${about}` }),
            )
          : subjects,
        kind: Joi.string().valid(kind).required(),
        at: when().required(),
        tz: text(60).required(),
        by: uuid().required(),
        device: text(60).min(1).required(),
        hazard: Joi.boolean().valid(isHazard(kind)).required(),
        body: BODY[kind].required(),
        replaces: REPLACES.includes(kind) ? uuid().required() : Joi.forbidden(),
      }),
    ];
  }),
) as Record<Kind, Joi.ObjectSchema<Entry>>;

/** The body schema of a kind: what a correction must satisfy too. */
export const bodySchema = (kind: Kind): Joi.ObjectSchema => BODY[kind];

/** What is wrong with the body of an entry of a kind, before it is one: nothing is left empty-handed by a refusal hours later. */
export function bodyErrors(kind: Kind, body: unknown): FieldError[] {
  const { error } = BODY[kind].validate(body, { abortEarly: false, convert: false });
  return error ? explain(error) : [];
}

export const APPEND_SCHEMA = Joi.object({
  deviceTime: when().required(),
  entries: Joi.array().items(Joi.object().unknown(true)).min(1).max(MAX_BATCH).required(),
});

export const SIGN_IN_SCHEMA = Joi.object({
  name: text(LONGEST.name).min(1).required(),
  passphrase: Joi.string().min(1).max(200).required(),
  device: text(60).min(1).required(),
});

const NEW_PASSPHRASE = Joi.string().min(8).max(200);
const PIN = Joi.string().pattern(/^\d{4,8}$/, 'four to eight digits');
export const PERSON_SCHEMA = Joi.object({
  name: text(LONGEST.name).min(1).required(),
  role: Joi.string()
    .valid(...ROLES)
    .required(),
});
export const PERSON_CHANGE_SCHEMA = Joi.object({ role: Joi.string().valid(...ROLES), disabled: Joi.boolean() }).min(1);
export const TRAINING_SCHEMA = Joi.object({
  kind: Joi.string()
    .valid(...TRAININGS)
    .required(),
  until: day().allow(null).required(),
});
/** Whose they are stands with them: another tab may have signed somebody else in meanwhile. */
export const PRACTISED_SCHEMA = Joi.object({
  person: uuid().required(),
  sessions: Joi.array()
    .items(
      Joi.object({
        scenario: text(60).min(1).required(),
        begun: when().required(),
        at: when().required(),
        full: Joi.boolean().required(),
        harm: Joi.number().integer().min(0).max(100).required(),
        found: Joi.boolean().required(),
        bet: Joi.object({ sure: Joi.number().min(0).max(1).required(), right: Joi.boolean().required() })
          .allow(null)
          .required(),
      }),
    )
    .min(1)
    .max(MAX_PRACTISED)
    .required(),
});
export const PASSPHRASE_SCHEMA = Joi.object({ passphrase: Joi.string().max(200).required(), fresh: NEW_PASSPHRASE.required() });
export const PIN_SCHEMA = Joi.object({ passphrase: Joi.string().max(200).required(), pin: PIN.required() });
export const OUTSIDE_SCHEMA = Joi.object({
  name: text(LONGEST.name).min(1).required(),
  until: day().required(),
});
/** Signatures of a second person, made in place; only entries that confirm another. */
export const SIGN_SCHEMA = APPEND_SCHEMA.keys({
  person: uuid().required(),
  how: Joi.string()
    .valid(...SIGN_WAYS)
    .required(),
  secret: Joi.string().min(4).max(200).required(),
  entries: Joi.array()
    .items(Joi.object({ kind: Joi.string().valid('confirmed').required() }).unknown(true))
    .min(1)
    .max(64)
    .required(),
});
export const SWITCH_SCHEMA = Joi.object({ person: uuid().required(), pin: PIN.required() });

/** Packs to rule on; each is read field by field, so that a wrong one is named and the others are kept. */
export const CLASSIFY_SCHEMA = Joi.object({
  items: Joi.array().items(Joi.object().unknown()).min(1).max(2000).required(),
});

/** What is to be packed and into what; the planner reads each field and names what is wrong. */
export const PLAN_SCHEMA = Joi.object({
  kinds: Joi.array().items(Joi.object().unknown()).min(1).max(200).required(),
  boxes: Joi.array().items(Joi.object().unknown()).min(1).max(20).required(),
  route: Joi.object().unknown().required(),
  gapMm: Joi.number().min(0),
  fillKgPerBox: Joi.number().min(0),
  price: Joi.object({ perPackage: Joi.number().min(0), perKg: Joi.number().min(0) }),
  maxPackages: Joi.number().integer().min(1).allow(null),
});

export const OWNER_SCHEMA = Joi.object({ name: text(120).min(1).required(), contact: text(300).allow('').required() });

export const LOGS_SCHEMA = Joi.object({
  subjects: Joi.array().items(Joi.string().pattern(SUBJECT, 'type:uuid')).min(1).max(MAX_LOGS).unique().required(),
});

export const ENTRIES_QUERY = Joi.object({
  after: Joi.number().integer().min(0).default(0),
  limit: Joi.number().integer().min(1).max(2000).default(1000),
});

export const TRAIL_QUERY = Joi.object({
  before: Joi.number().integer().min(1).default(null),
  limit: Joi.number().integer().min(1).max(200).default(50),
});

export const LIST_QUERY = Joi.object({
  search: text(60).allow('').default(''),
  condition: Joi.string().valid(...CONDITIONS),
  place: uuid(),
  cursor: Joi.string().pattern(/^[\w-]{1,120}$/, 'the cursor of the page before'),
  limit: Joi.number().integer().min(1).max(200).default(50),
});

/** Where to go on in the stock: the `next` of the page before. */
export const NOTICED_QUERY = Joi.object({ cursor: uuid() });

/** A discharge on an electronic load: constant current, A, down to a voltage of the pack, V. What a pack is given the server knows. */
export const BENCH_TEST_SCHEMA = Joi.object({
  pack: uuid().required(),
  amperes: Joi.number().greater(0).max(100).required(),
  cutOff: Joi.number().greater(0).max(100).required(),
});
export const BENCH_TEST_QUERY = Joi.object({ from: Joi.number().integer().min(0).default(0) });

export const RULING_QUERY = Joi.object({ on: day() });

/** Checks one entry. An unknown kind is refused by name. */
export function checkEntry(entry: unknown): { ok: true; entry: Entry } | { ok: false; errors: FieldError[] } {
  const broken = unsound(entry);
  if (broken) return { ok: false, errors: [broken] };
  const kind = (entry as { kind?: unknown } | null)?.kind;
  const schema = typeof kind === 'string' && Object.hasOwn(ENTRY_SCHEMAS, kind) ? ENTRY_SCHEMAS[kind as Kind] : undefined;
  if (!schema) {
    return {
      ok: false,
      errors: [
        {
          field: 'kind',
          detail: `unknown kind ${String(kind).slice(0, 60)}: update the application, or use one of ${KINDS.join(', ')}`,
        },
      ],
    };
  }
  const { error, value: checked } = schema.validate(entry, { abortEarly: false, convert: false });
  return error ? { ok: false, errors: explain(error) } : { ok: true, entry: checked as Entry };
}
