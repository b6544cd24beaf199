import Joi from 'joi';
import { type FieldError, MAX_SCENARIOS } from './index';
import { explain, text } from './parts';

/** What may be said; handed in, so that checking does not bring the simulation along. */
interface Words {
  readonly grades: readonly string[];
  readonly faults: readonly string[];
}

const among = (lo: number, hi: number) => Joi.number().min(lo).max(hi);
/** A practice scenario as a file carries it; volts a cell, millimetres, per cent, degrees Celsius, grams. */
const scenario = ({ grades, faults }: Words) =>
  Joi.object({
    id: Joi.string()
      .pattern(/^[a-z0-9-]{1,40}$/, 'small letters, digits and hyphens')
      .required(),
    grade: Joi.string()
      .valid(...grades)
      .required(),
    title: text(80).min(1).required(),
    story: text(500).min(1).required(),
    seed: Joi.number().integer().min(0).max(1_000_000_007).required(),
    faults: Joi.array()
      .items(Joi.string().valid(...faults))
      .unique()
      .required(),
    set: Joi.object({
      series: Joi.number().integer().min(1).max(6),
      cells: Joi.array().items(among(0, 5)).min(1).max(6),
      ratedMah: among(500, 20_000),
      health: among(0.05, 1),
      chargeOfRated: among(0, 100),
      drift: among(0, 100),
      newMm: among(1, 30),
      growth: among(0, 60),
      roomC: among(-10, 45),
      surfaceC: among(-10, 150),
      grams: among(20, 3000),
    }).and('series', 'cells'),
    reacting: Joi.valid(true),
  });

/** What is wrong with scenarios of somebody else, each error with the field it is about. */
export function scenarioErrors(scenarios: unknown, words: Words): FieldError[] {
  const list = Joi.array().items(scenario(words)).min(1).max(MAX_SCENARIOS).unique('id').required();
  const { error } = list.validate(scenarios, { abortEarly: false, convert: false });
  return error ? explain(error) : [];
}
