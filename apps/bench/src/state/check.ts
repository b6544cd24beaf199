import { factWords, isHazard, type Kind } from '@gavrel/core';
import { entryById } from '../device/store';
import type { Draft } from '../device/write';
import { schemasHere } from './schemas';

/** What was first said, however often it was corrected since. */
async function rootKind(d: Draft): Promise<Kind | null> {
  let target = await entryById(d.replaces ?? '');
  while (target?.kind === 'corrected') target = await entryById(target.replaces ?? '');
  return target?.kind ?? null;
}

async function errorsOf(d: Draft, check: NonNullable<ReturnType<typeof schemasHere>>) {
  const errors = check.bodyErrors(d.kind, d.body);
  if (d.kind !== 'corrected' || errors.length > 0) return errors;
  const kind = await rootKind(d);
  return kind === null ? [] : check.bodyErrors(kind, (d.body as { body?: unknown }).body);
}

/**
 * Why the server would refuse what is about to be written, in words, so that the form stays open with everything in it. Danger is never held
 * up by it; nor is anything while the schemas are not here, since the server checks too.
 * @returns null where it may be written.
 */
export async function whyWrong(drafts: readonly Draft[]): Promise<string | null> {
  const check = schemasHere();
  if (!check) return null;
  for (const d of drafts) {
    if (isHazard(d.kind)) continue;
    const [first] = await errorsOf(d, check);
    if (first) return first.detail.replace(first.field, factWords(first.field));
  }
  return null;
}
