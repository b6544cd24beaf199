import { CLASSIFY_SCHEMA } from '@gavrel/contract/schemas';
import type { Problem } from '@gavrel/contract';
import { readCase, ruleRow } from '@gavrel/core/batch';
import { checkedJson } from '../checked';
import { ProblemError } from '../problem';

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
  try {
    const { items } = checkedJson<{ items: readonly unknown[] }>(text, CLASSIFY_SCHEMA);
    return { text: JSON.stringify({ results: items.map((item, i) => ruleRow(readCase(item, i + 1, today))) }) };
  } catch (e) {
    // An error of our own class does not survive the way between threads: what is told does.
    if (e instanceof ProblemError) return { problem: e.problem };
    throw e;
  }
}
