import {
  CONDITIONS,
  FILLS,
  INCIDENT_SORTS,
  INCIDENT_STEPS,
  PLACE_KINDS,
  SWEEP_POINTS,
  SWEEPS,
  TEMPERATURE_UNITS,
  type YardBodies,
} from '@gavrel/core';
import Joi from 'joi';
import { LONGEST } from './lengths';
import { figure, instrument, text, uuid } from './parts';

const one = (options: readonly string[]) => Joi.string().valid(...options);
const metres = () => Joi.number().min(0).max(1000);
const holds = () => Joi.array().items(one(CONDITIONS)).unique();

/** Bodies of everything about places. */
export const YARD: Record<keyof YardBodies, Joi.ObjectSchema> = {
  'place-added': Joi.object({
    name: text(60).min(1).required(),
    kind: one(PLACE_KINDS).required(),
    holds: holds().required(),
  }),
  'place-described': Joi.object({
    holds: holds(),
    limits: Joi.object({
      packs: Joi.number().integer().min(0).max(100_000),
      kg: Joi.number().min(0).max(100_000),
      wattHours: Joi.number().min(0).max(100_000_000),
      litres: Joi.number().min(0).max(1_000_000),
    }),
    fill: one(FILLS),
    bags: Joi.boolean(),
    outdoors: Joi.boolean(),
    room: text(60).min(1),
    near: Joi.object({ burns: metres(), openings: metres(), exit: metres() }),
    box: Joi.object({
      x: metres().required(),
      y: metres().required(),
      width: metres().positive().required(),
      depth: metres().positive().required(),
    }),
    turn: Joi.number().integer().min(0).max(10_000),
  }).min(1),
  'place-closed': Joi.object({ reason: text(300).min(3).required() }),
  moved: Joi.object({ note: text(200), despite: text(300).min(3) }),
  'container-looked': Joi.object({
    smell: one(['none', 'smell']),
    sound: one(['none', 'hiss']),
    smoke: one(['none', 'smoke']),
    lid: one(['closed', 'open']),
    seen: one(['nothing', 'growing']),
    probe: one(['wall', 'fill']),
    temperature: figure(TEMPERATURE_UNITS, true),
    room: figure(TEMPERATURE_UNITS, true),
    against: one(['room', 'empty twin']),
    instrument,
    note: text(LONGEST.note),
  }).min(1),
  'alarm-answered': Joi.object({
    answers: Joi.array().items(uuid()).min(1).max(500).unique().required(),
    found: text(300).min(3).required(),
  }),
  'place-counted': Joi.object({
    seen: Joi.array().items(uuid()).max(5000).unique().required(),
    strangers: Joi.array().items(text(80)).max(500),
  }),
  'drum-collected': Joi.object({
    collection: uuid().required(),
    to: text(120).min(1).required(),
    weighed: figure(['kg', 'g']),
    manifest: text(60),
  }),
  'drum-answered': Joi.object({ collection: uuid().required(), weighed: figure(['kg', 'g']), certificate: text(120) }).or(
    'weighed',
    'certificate',
  ),
  'sweep-walked': Joi.object({
    sweep: one(SWEEPS).required(),
    points: Joi.object(Object.fromEntries(SWEEP_POINTS.map((p) => [p, one(['yes', 'no'])]))).required(),
    note: text(LONGEST.note),
  }),
  'incident-opened': Joi.object({ what: one(INCIDENT_SORTS).required(), source: uuid(), note: text(1000) }),
  'incident-noted': Joi.object({ step: one(INCIDENT_STEPS).required(), note: text(1000) }),
  'incident-looked': Joi.object({
    seen: one(['nothing']).required(),
    temperature: figure(TEMPERATURE_UNITS, true),
    room: figure(TEMPERATURE_UNITS, true),
    instrument,
    note: text(1000),
  }),
  'incident-closed': Joi.object({ reason: text(300).min(3).required(), falseAlarm: Joi.valid(true) }),
};
