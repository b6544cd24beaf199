import { normalTag } from '@gavrel/core';
import Joi from 'joi';

/** PostgreSQL keeps no NUL character, and control characters have no place on a label. */
const CLEAN = /^[^\u0000-\u0008\u000b\u000c\u000e-\u001f]*$/;
export const text = (max: number) => Joi.string().max(max).pattern(CLEAN, 'text without control characters');
export const uuid = () => Joi.string().guid({ separator: '-' }).lowercase();
export const when = () =>
  Joi.string()
    .isoDate()
    .pattern(/^\d{4}-\d{2}-\d{2}T\d{2}:\d{2}:\d{2}\.\d{3}Z$/, 'UTC time with milliseconds');
export const day = () => Joi.string().pattern(/^\d{4}-\d{2}-\d{2}$/, 'a day as YYYY-MM-DD');
export const digits = (negative: boolean) =>
  Joi.string().pattern(
    negative ? /^-?\d{1,9}(\.\d{1,6})?$/ : /^\d{1,9}(\.\d{1,6})?$/,
    negative ? 'a number with a decimal point' : 'a number, not negative, with a decimal point',
  );
export const figure = (units: readonly string[], negative = false) =>
  Joi.object({
    digits: digits(negative).required(),
    unit: Joi.string()
      .valid(...units)
      .required(),
  });
export const tag = () =>
  text(40)
    .min(1)
    .custom((v: string, helpers) => (normalTag(v) === '' ? helpers.error('string.empty') : v));

/** What measured, and how well. */
export const instrument = Joi.object({
  name: text(60).required(),
  accuracy: Joi.object({
    percent: Joi.number().min(0).max(100).required(),
    digits: Joi.number().integer().min(0).max(1000).required(),
    fixed: Joi.number().min(0).max(1000),
  }).required(),
  range: Joi.number().positive().max(10_000),
});
