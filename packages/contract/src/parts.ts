import { isAfter, isDay, isPartialDay, normalTag, DAY_MS } from '@gavrel/core';
import Joi from 'joi';
import type { FieldError } from './index';
import { LONGEST } from './lengths';

/** PostgreSQL keeps no NUL character, and control characters have no place on a label. */
const CLEAN = /^[^\u0000-\u0008\u000b\u000c\u000e-\u001f]*$/;
const LONE = /[\ud800-\udfff]/u;

export const text = (max: number) =>
  Joi.string()
    .max(max)
    .pattern(CLEAN, 'text without control characters')
    .custom((v: string, helpers) => (LONE.test(v) ? helpers.error('string.half') : v))
    .messages({
      'string.half': '{{#label}} has half a character: send well-formed Unicode',
      'string.max': '{{#label}} is longer than {{#limit}} characters: shorten it',
    });
export const uuid = () => Joi.string().guid({ separator: '-' }).lowercase();
/** Years in which something may have been written: what lies outside is a clock that nobody set, and no database reckons with year 0. */
const YEARS = { from: 2000, to: 2100 };
export const when = () =>
  Joi.string()
    .isoDate()
    .pattern(/^\d{4}-\d{2}-\d{2}T\d{2}:\d{2}:\d{2}\.\d{3}Z$/, 'UTC time with milliseconds')
    .custom((v: string, helpers) => {
      const [year, day] = [Number(v.slice(0, 4)), v.slice(0, 10)];
      if (!isDay(day)) return helpers.message({ custom: `{{#label}} is no day of the calendar: ${day}` });
      return year >= YEARS.from && year <= YEARS.to
        ? v
        : helpers.message({ custom: `{{#label}} lies outside the years ${YEARS.from} to ${YEARS.to}: set the clock` });
    });
/** A day of the calendar: 30 February is none. */
export const day = () =>
  Joi.string()
    .pattern(/^\d{4}-\d{2}-\d{2}$/, 'a day as YYYY-MM-DD')
    .custom((v: string, helpers) => (isDay(v) ? v : helpers.message({ custom: `{{#label}} is no day of the calendar: ${v}` })));
/** A day, a month or a year on which something was made: not after today, wherever on earth that is. */
export const madeOn = () =>
  Joi.string()
    .pattern(/^\d{4}(-\d{2}){0,2}$/, 'a date as YYYY, YYYY-MM or YYYY-MM-DD')
    .custom((v: string, helpers) => {
      if (!isPartialDay(v)) return helpers.message({ custom: `{{#label}} is no day of the calendar: ${v}` });
      const tomorrow = new Date(Date.now() + DAY_MS).toISOString().slice(0, 10);
      return isAfter(v, tomorrow) ? helpers.message({ custom: '{{#label}} lies in the future: read the date again' }) : v;
    });
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
/** A figure of something real: never 0. */
export const more = (units: readonly string[]) =>
  figure(units).custom((v: { digits: string }, helpers) =>
    Number(v.digits) > 0
      ? v
      : helpers.message({ custom: '{{#label}} is 0: nothing real is; leave it out where it is not known' }),
  );
export const tag = () =>
  text(LONGEST.tag)
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

const FORBIDDEN = new Set(['__proto__', 'constructor', 'prototype']);
const DEEP = 12;
const MANY = 20_000;

/**
 * What no schema asks of each part by itself: text is well formed, no name reaches into a program, nothing is nested or long beyond use.
 * @returns the field and what is wrong with it; null when nothing is.
 */
export function unsound(value: unknown): { field: string; detail: string } | null {
  const open: { path: string; v: unknown; depth: number }[] = [{ path: '', v: value, depth: 0 }];
  for (let seen = 0; open.length > 0; seen++) {
    const { path, v, depth } = open.pop()!;
    const field = path || 'body';
    if (seen > MANY) return { field: 'body', detail: `more than ${MANY} values: send less at once` };
    if (typeof v === 'string' && LONE.test(v)) return { field, detail: 'half a character: send well-formed Unicode' };
    if (typeof v !== 'object' || v === null) continue;
    if (depth >= DEEP) return { field, detail: `nested deeper than ${DEEP} levels` };
    for (const [k, inner] of Object.entries(v)) {
      if (FORBIDDEN.has(k)) return { field: path ? `${path}.${k}` : k, detail: 'no such field' };
      if (LONE.test(k)) return { field, detail: 'half a character in a name: send well-formed Unicode' };
      open.push({ path: path ? `${path}.${k}` : k, v: inner, depth: depth + 1 });
    }
  }
  return null;
}

/** What a failed check says, field by field, with what to do. */
export function explain(error: Joi.ValidationError): FieldError[] {
  return error.details.map((d) => ({
    // A check over several fields names its field in the message, in full.
    field: /^"(body\.[\w.]+|subjects)"/.exec(d.message)?.[1] ?? (d.path.join('.') || 'body'),
    detail: d.message.replace(/"/g, ''),
  }));
}
