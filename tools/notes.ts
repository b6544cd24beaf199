import { existsSync, mkdirSync, readFileSync } from 'node:fs';
import { dirname } from 'node:path';
import type Joi from 'joi';
import writeFileAtomic from 'write-file-atomic';
import { give } from './user';

/** A note of the machine room: whole, not there, or there and not to be read. */
export type Note<T> =
  { readonly is: 'whole'; readonly value: T } | { readonly is: 'missing' } | { readonly is: 'torn'; readonly why: string };

/** Reads a note; one that is empty, cut off or of another shape is torn, and never taken for a missing one. */
export function readNote<T extends object>(file: string, shape: Joi.ObjectSchema<T>): Note<T> {
  if (!existsSync(file)) return { is: 'missing' };
  const torn = (why: string): Note<T> => ({ is: 'torn', why });
  let text: string;
  try {
    text = readFileSync(file, 'utf8');
  } catch (e) {
    return torn((e as Error).message.split(',')[0]!);
  }
  if (text.trim() === '') return torn('it is empty');
  try {
    const { error, value } = shape.required().validate(JSON.parse(text), { convert: false });
    return error ? torn(error.message.replace(/"/g, '')) : { is: 'whole', value: value as T };
  } catch {
    return torn('it is no JSON');
  }
}

/** Writes a note whole or not at all: a power cut leaves the old one or the new one. */
export function writeNote(file: string, value: object): void {
  mkdirSync(dirname(file), { recursive: true });
  writeFileAtomic.sync(file, `${JSON.stringify(value, null, 2)}\n`, { mode: 0o600 });
  give(file);
}
