import type { FieldError } from '@gavrel/contract';
import { factWords, type LoggedEntry } from '@gavrel/core';
import { draft, type Draft } from '../../device/write';

/** A value of a refused entry that the server named. */
export interface Wrong {
  /** Its way into the body. */
  readonly path: readonly string[];
  readonly label: string;
  readonly value: string;
  readonly why: string;
}

const at = (body: unknown, path: readonly string[]): unknown =>
  path.reduce<unknown>((v, k) => (typeof v === 'object' && v !== null ? (v as Record<string, unknown>)[k] : undefined), body);

/** Values that can be typed anew: texts and numbers; what lies elsewhere is written again from its screen. */
export function wrongValues(e: LoggedEntry, errors: readonly FieldError[]): Wrong[] {
  return errors.flatMap(({ field, detail }) => {
    const [first, ...path] = field.split('.');
    const value = first === 'body' ? at(e.body, path) : undefined;
    if (typeof value !== 'string' && typeof value !== 'number') return [];
    const label = factWords(path.join('.'));
    return [{ path, label, value: String(value), why: detail.replace(field, label) }];
  });
}

function set(body: unknown, path: readonly string[], text: string): unknown {
  const [key, ...rest] = path;
  if (key === undefined) return typeof body === 'number' ? Number(text.trim().replace(',', '.')) : text.trim();
  const next = set((body as Record<string, unknown>)[key], rest, text);
  return Array.isArray(body)
    ? body.map((v: unknown, i) => (String(i) === key ? next : v))
    : { ...(body as Record<string, unknown>), [key]: next };
}

/** The same statement with what was typed in place of what was refused. @param typed one text for each of the values. */
export function mended(e: LoggedEntry, wrong: readonly Wrong[], typed: readonly string[]): Draft {
  const body = wrong.reduce<unknown>((b, w, i) => set(b, w.path, typed[i] ?? w.value), e.body);
  return draft(e.kind, e.subjects, body as never, e.replaces);
}
