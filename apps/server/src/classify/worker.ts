import { CLASSIFY_SCHEMA, explain } from '@gavrel/contract/schemas';
import type { Problem } from '@gavrel/contract';
import { readCase, ruleRow } from '@gavrel/core/batch';
import { problem } from '../problem';

/** A request to classify as it came, unread: reading 5 MB is work too. */
export interface ClassifyTask {
  readonly text: string;
  /** Day of dispatch where a row names none, `YYYY-MM-DD`. */
  readonly today: string;
}

/** The answer as it goes out, so that nothing large is copied between threads, or what is wrong with the request. */
export type ClassifyAnswer = { readonly text: string } | { readonly problem: Problem };

/** Reads, checks and rules on the packs of one request. Runs in a thread of its own. */
export default function classifyText({ text, today }: ClassifyTask): ClassifyAnswer {
  let raw: unknown;
  try {
    raw = JSON.parse(text);
  } catch {
    return { problem: problem(400, 'not-json', 'The body is not JSON', 'Send JSON with content-type application/json.') };
  }
  const { error, value } = CLASSIFY_SCHEMA.validate(raw, { abortEarly: false, convert: false });
  if (error)
    return {
      problem: problem(422, 'body', 'The request is not right', 'Correct the fields named and send it again.', explain(error)),
    };
  const { items } = value as { items: readonly unknown[] };
  return { text: JSON.stringify({ results: items.map((item, i) => ruleRow(readCase(item, i + 1, today))) }) };
}
