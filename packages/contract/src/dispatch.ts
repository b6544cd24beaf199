import { BOX_KINDS, type BoxBody, DESTINATIONS, type DispatchBodies, ENDINGS, MODES, PLACEMENTS, REGIONS } from '@gavrel/core';
import Joi from 'joi';
import { LONGEST } from './lengths';
import { day, madeOn, more, text, uuid } from './parts';

const one = (options: readonly string[]) => Joi.string().valid(...options);
const kilograms = () => Joi.number().min(0).max(100_000);
const money = () => Joi.number().min(0).max(1_000_000);
const side = () => Joi.number().positive().max(20_000).required();
const name = () => text(LONGEST.name).min(1);
/** Packs of one package, packages of one plan. */
const packs = () => Joi.array().items(uuid()).max(2000).unique();
const MOST_PACKAGES = 1000;
const MOST_RANGES = 2000;
const packageNumber = () => Joi.number().integer().min(1).max(10_000);

/** Bodies of everything about sending packs away. */
export const DISPATCH: Record<keyof DispatchBodies, Joi.ObjectSchema> = {
  'consignment-described': Joi.object({
    name: name(),
    destination: one(DESTINATIONS),
    addressee: uuid(),
    mode: one(MODES),
    region: one(REGIONS),
    placement: one(PLACEMENTS),
    on: day(),
    carrier: uuid().allow(null),
    permit: text(60).allow(''),
    crossesBorder: Joi.boolean(),
    notification: text(60).allow(''),
  }).min(1),
  consigned: Joi.object({}),
  withdrawn: Joi.object({ reason: text(LONGEST.reason) }),
  'plan-kept': Joi.object({
    packages: Joi.array()
      .items(
        Joi.object({
          id: uuid().required(),
          box: uuid().required(),
          packs: packs().min(1).required(),
          number: packageNumber(),
        }),
      )
      .max(MOST_PACKAGES)
      .unique('id')
      .required(),
    bound: Joi.number().integer().min(0),
  }),
  packed: Joi.object({ package: uuid().required() }),
  unpacked: Joi.object({}),
  'package-closed': Joi.object({
    package: uuid().required(),
    box: uuid(),
    weighed: more(['kg', 'g']),
    seal: text(60).min(1),
  }),
  'package-opened': Joi.object({ package: uuid().required() }),
  'package-counted': Joi.object({ package: uuid().required(), count: Joi.number().integer().min(0).max(10_000).required() }),
  'consignment-handed-over': Joi.object({
    to: name().required(),
    number: text(60).min(1),
    on: day().required(),
    mode: one(MODES).required(),
    region: one(REGIONS).required(),
    packages: Joi.array()
      .items(
        Joi.object({
          id: uuid().required(),
          number: packageNumber(),
          packs: packs().required(),
          box: uuid(),
          netKg: kilograms(),
          grossKg: kilograms(),
          un: text(20),
          goods: Joi.array()
            .items(Joi.object({ un: text(20).min(1).required(), netKg: kilograms().required() }))
            .max(20)
            .unique('un'),
          provision: text(40),
          rules: Joi.array()
            .items(Joi.object({ rule: text(40).min(1).required(), edition: text(LONGEST.name) }))
            .max(100)
            .required(),
        }),
      )
      .max(MOST_PACKAGES)
      .unique('id')
      .required(),
  }),
  'consignment-arrived': Joi.object({
    packs: Joi.number().integer().min(0).max(100_000),
    weighed: more(['kg', 'g']),
    receipt: text(120).min(1),
  }).min(1),
  'consignment-ended': Joi.object({ how: one(ENDINGS).required(), reason: text(LONGEST.reason).min(3).required() }),
  'box-described': Joi.object({
    name: name().required(),
    inner: Joi.object({ length: side(), width: side(), height: side() }).required(),
    tareKg: kilograms().required(),
    maxGrossKg: kilograms().required(),
    kind: one(BOX_KINDS).required(),
    un: Joi.boolean().required(),
    stock: Joi.number().integer().min(0).max(100_000).required(),
    price: money().required(),
    retired: Joi.valid(true),
  }).custom((v: BoxBody, helpers) =>
    v.maxGrossKg > v.tareKg
      ? v
      : helpers.message({ custom: '"body.maxGrossKg" is not more than the box weighs empty: weigh the box again' }),
  ),
  'carrier-described': Joi.object({
    name: name().required(),
    modes: Joi.array().items(one(MODES)).min(1).unique().required(),
    takes: Joi.object({
      loose: Joi.boolean().required(),
      withEquipment: Joi.boolean().required(),
      inEquipment: Joi.boolean().required(),
      damaged: Joi.boolean().required(),
      recycling: Joi.boolean().required(),
      class9: Joi.boolean().required(),
    }).required(),
    maxGrossKg: kilograms().positive(),
    maxSideMm: Joi.number().positive().max(20_000),
    groundFlies: Joi.valid(true),
    days: Joi.array().items(Joi.number().integer().min(1).max(7)).min(1).unique(),
    cutOff: Joi.string().pattern(/^([01]\d|2[0-3]):[0-5]\d$/, 'a time of day as HH:MM'),
    contract: Joi.valid(true),
    telephone: text(40),
    wasteRegistration: text(60),
    price: Joi.object({ perPackage: money().required(), perKg: money().required(), class9: money() }).required(),
    retired: Joi.valid(true),
  }),
  'notice-filed': Joi.object({
    title: name().required(),
    says: text(LONGEST.story).required(),
    on: day().required(),
    ranges: Joi.array()
      .items(
        Joi.object({
          typeCode: text(LONGEST.typeCode).min(1).required(),
          serialFrom: text(60).min(1),
          serialTo: text(60).min(1),
          madeFrom: madeOn(),
          madeTo: madeOn(),
        }),
      )
      .min(1)
      .max(MOST_RANGES)
      .required(),
    retired: Joi.valid(true),
  }),
};
