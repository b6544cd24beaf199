import {
  CABLE_NAMES,
  CONNECTORS,
  COVERS,
  DRIVES,
  INSTRUMENT_KINDS,
  SPEAKS,
  type Kind,
  LIFTS,
  MOUNTINGS,
  PHOTO_OF,
  PROOFS,
  PRY_STARTS,
  SOURCE_SCHOOLS,
  STATIONS,
  THREADS,
  YES_NO_UNKNOWN,
} from '@gavrel/core';
import Joi from 'joi';
import { LONGEST } from './lengths';
import { MAX_PICTURE } from './index';
import { day, figure, instrument, text, uuid, when } from './parts';
import { isPrivate } from './private';

const one = (values: readonly string[]) => Joi.string().valid(...values);
const mm = () => figure(['mm']);
const ends = (lo: number, hi: number) => Joi.number().min(lo).max(hi).required();
/** Lowest and highest, in that order. */
const interval = (lo: number, hi: number) =>
  Joi.object({ lo: ends(lo, hi), hi: ends(lo, hi) })
    .custom((i: { lo: number; hi: number }, helpers) => (i.lo <= i.hi ? i : helpers.error('any.invalid')))
    .messages({ 'any.invalid': '{{#label}} must be the lower and the higher figure, in that order' });
const sha = () => Joi.string().pattern(/^[0-9a-f]{64}$/, 'a sha256 in lower-case hex');

const screw = Joi.object({
  id: Joi.number().integer().min(1).max(999).required(),
  x: Joi.number().min(0).max(1).required(),
  y: Joi.number().min(0).max(1).required(),
  thread: one(THREADS),
  length: mm(),
  drive: one(DRIVES),
  captive: Joi.boolean(),
  hidden: one(COVERS),
  holds: one(['cover', 'pack', 'both']),
  state: one(['missing', 'stripped']),
  part: text(40),
});
const screwCounts = () =>
  Joi.array()
    .items(Joi.object({ thread: one(THREADS), length: mm(), count: Joi.number().integer().min(0).max(200).required() }))
    .max(40);

const fasteners = Joi.object({
  habit: one(['map', 'tray']).required(),
  ratio: Joi.number().min(0.2).max(5),
  photo: sha(),
  screws: Joi.array().items(screw).max(200).unique('id').required(),
});
const cover = Joi.object({
  pryStart: one(PRY_STARTS),
  tool: one(['plastic', 'thin metal', 'none']),
  lifts: one(LIFTS),
  cables: Joi.array().items(one(CABLE_NAMES)).unique(),
  note: text(LONGEST.note),
}).min(1);
const isolation = {
  connector: one(CONNECTORS),
  tape: Joi.boolean(),
  reach: one(['free', 'pack screws first']),
  coinCell: one(['left', 'removed', 'not seen']),
};
const removal = {
  mounting: Joi.array().items(one(MOUNTINGS)).unique(),
  screws: screwCounts(),
  cables: one(['routed on it', 'free']),
  cable: one(['keep it', 'part of the pack']),
  bay: Joi.object({ length: mm(), width: mm(), depth: mm() }),
};
const form = {
  length: mm(),
  width: mm(),
  connector: one(CONNECTORS),
  ears: Joi.number().integer().min(0).max(12),
  cable: one(['with it', 'without']),
};
const told = (value: Joi.Schema) =>
  Joi.object({
    value: value.required(),
    by: text(LONGEST.name).required(),
    at: text(40).required(),
    times: Joi.number().integer().min(1).required(),
  });

/** A model sheet as a file between workshops. */
export const SHEET_FILE_SCHEMA = Joi.object({
  gavrel: Joi.string().valid('model sheet').required(),
  version: Joi.number().valid(1).required(),
  sheet: Joi.object({
    maker: text(LONGEST.name).allow('').required(),
    model: text(LONGEST.name).min(1).required(),
    jobs: Joi.number().integer().min(0).required(),
    swollen: Joi.number().integer().min(0).required(),
    judged: Joi.number().integer().min(0).required(),
    variants: Joi.array().items(told(fasteners)).max(40).required(),
    cover: told(cover).allow(null).required(),
    isolation: told(Joi.object(isolation)).allow(null).required(),
    removal: told(Joi.object(removal)).allow(null).required(),
    form: told(Joi.object(form)).allow(null).required(),
    labels: Joi.array().max(0).required(),
    codes: Joi.array().items(text(60)).max(100).required(),
    minutes: Joi.object().pattern(one(STATIONS), Joi.number().min(0)).required(),
  }).required(),
});

/** Bodies of what is said at the stations of a job. */
export const WORK = {
  triaged: Joi.object({
    lid: one(['flush', 'not flush']),
    base: one(['steady', 'rocks']),
    smell: one(['none', 'smell']),
    touch: one(['cool', 'warm', 'hot']),
  }).min(1),
  'intake-noted': Joi.object({
    complaint: text(LONGEST.story),
    ownerSaw: text(LONGEST.story),
    keyboard: one(['even', 'uneven']),
    trackpad: one(['clicks', 'stiff']),
    seam: one(['closed', 'gapes']),
    sound: one(['none', 'hiss']),
    liquid: one(YES_NO_UNKNOWN),
    drop: one(YES_NO_UNKNOWN),
    charger: one(['tried', 'not tried']),
    warranty: one(['none', 'running', 'unknown']),
    consent: one(['given', 'refused', 'not asked']),
    charge: Joi.number().min(0).max(100),
    agreed: text(LONGEST.story),
    oldPack: one(['stays here', 'owner wants it back']),
  }).min(1),
  'owner-linked': Joi.object({ owner: uuid().required(), of: one(['machine', 'pack', 'both']).required() }),
  'swollen-prepared': Joi.object({ charge: Joi.string().valid('as found').required(), note: text(LONGEST.note) }),
  'fasteners-mapped': fasteners,
  'cover-opened': cover,
  isolated: Joi.object({
    ...isolation,
    drained: Joi.boolean(),
    firmware: one(['used', 'none']),
    school: one(['always', 'off is enough']),
    sources: Joi.array()
      .items(
        Joi.object({
          what: one(['pack', 'adapter', 'coin cell', 'dock']).required(),
          tag: text(40),
          state: one(['off', 'live', 'none']).required(),
        }),
      )
      .max(20),
  }).min(1),
  'pack-removed': Joi.object({ ...removal, stuck: one(['no', 'let go slowly', 'stopped']), note: text(LONGEST.note) }),
  'form-noted': Joi.object({ ...form, thickness: mm() }).min(1),
  'source-stated': Joi.object({
    school: one(SOURCE_SCHOOLS),
    supplier: text(LONGEST.name),
    lot: text(LONGEST.name),
    receivedOn: day(),
    summary: one(['on file', 'asked for', 'none']),
  }).min(1),
  'match-decided': Joi.object({
    old: uuid().required(),
    new: uuid().invalid(Joi.ref('old')).required(),
    verdict: one(['fits', 'does not fit']).required(),
    reason: text(LONGEST.reason),
  }),
  'return-opened': Joi.object({
    to: text(LONGEST.name).min(1).required(),
    reason: text(LONGEST.reason).min(3).required(),
    until: day().required(),
  }),
  refitted: Joi.object({
    back: screwCounts().required(),
    plugs: one(['all, the pack last', 'not all']),
    clips: one(['before screws', 'not closed']),
    feet: one(['back', 'not all', 'none']),
    hinge: one(['tight', 'tightened', 'not looked']),
    cable: one(['kept', 'replaced']),
    fan: one(['cleaned', 'not looked']),
    note: text(LONGEST.note),
  }),
  'proof-taken': Joi.object({
    ...Object.fromEntries(PROOFS.map((p) => [p, one(['yes', 'no', 'owed'])])),
    note: text(LONGEST.note),
  }).min(1),
  'job-taken': Joi.object({ note: text(LONGEST.note) }),
  'job-put-down': Joi.object({ note: text(LONGEST.note) }),
  'handed-over': Joi.object({
    oldPack: one(['stays here', 'given back', 'none']).required(),
    signature: sha(),
    note: text(LONGEST.note),
  }),
  'log-measured': Joi.object({
    sha256: sha().required(),
    file: Joi.object({ sha256: sha().required(), bytes: Joi.number().integer().min(1).max(MAX_PICTURE).required() }),
    method: one(['trapezium']).required(),
    rows: Joi.number().integer().min(2).max(100_000_000).required(),
    gaps: Joi.number().integer().min(0).max(100_000_000).required(),
    from: when(),
    to: when(),
    charge: interval(0, 10_000).required(),
    energy: interval(0, 100_000).required(),
    resistance: interval(0, 1000),
    resistance25: interval(0, 1000),
    temperature: interval(-60, 300),
    meanCurrent: Joi.number().min(0).max(10_000).required(),
    health: interval(0, 10_000),
    remarks: Joi.array().items(text(300)).max(20).required(),
  }).and('from', 'to'),
  'photo-taken': Joi.object({
    sha256: sha().required(),
    type: one(['image/jpeg', 'image/png']).required(),
    width: Joi.number().integer().min(1).max(20_000).required(),
    height: Joi.number().integer().min(1).max(20_000).required(),
    bytes: Joi.number().integer().min(1).max(5_242_880).required(),
    of: one(PHOTO_OF).required(),
  }),
  'instrument-added': instrument.keys({ measures: one(INSTRUMENT_KINDS).required(), calibratedUntil: day() }),
  'instrument-connected': Joi.object({
    address: Joi.object({
      host: Joi.string()
        .ip({ cidr: 'forbidden' })
        .custom((host: string, helpers) => (isPrivate(host) ? host : helpers.error('any.invalid')))
        .message('must be an address of your own network, as 192.168.1.40')
        .required(),
      port: Joi.number().integer().min(1).max(65_535).required(),
      speaks: one(SPEAKS).required(),
    })
      .allow(null)
      .required(),
  }),
  'sheet-taken-in': Joi.object({ from: text(LONGEST.name).min(1).required(), sheet: SHEET_FILE_SCHEMA.required() }),
  'station-skipped': Joi.object({ station: one(STATIONS).required(), why: text(200) }),
} satisfies Partial<Record<Kind, Joi.ObjectSchema>>;
