import { CLASSIFY_SCHEMA, PLAN_SCHEMA } from '@gavrel/contract/schemas';
import type { Problem } from '@gavrel/contract';
import { readCase, ruleRow } from '@gavrel/core/batch';
import { BadOrder, plan, readOrder } from '@gavrel/core/plan';
import { checkedJson } from '../checked';
import { problem, ProblemError } from '../problem';

/** A request as it came, unread: reading 5 MB is work too. */
export interface ClassifyTask {
  /** Packs to rule on, or packs to plan packages for. */
  readonly what: 'classify' | 'plan';
  readonly text: string;
  /** Day of dispatch where a row names none, `YYYY-MM-DD`. */
  readonly today: string;
}

/** The answer as it goes out, so that nothing large is copied between threads, or what is wrong with the request. */
export type ClassifyAnswer = { readonly text: string } | { readonly problem: Problem };

const classified = (text: string, today: string): object => {
  const { items } = checkedJson<{ items: readonly unknown[] }>(text, CLASSIFY_SCHEMA);
  return { results: items.map((item, i) => ruleRow(readCase(item, i + 1, today))) };
};

function planned(text: string, today: string): object {
  const data = checkedJson<unknown>(text, PLAN_SCHEMA);
  const from = performance.now();
  try {
    return { ...plan(readOrder(data, today)), ms: Math.round(performance.now() - from) };
  } catch (e) {
    if (!(e instanceof BadOrder)) throw e;
    const errors = [{ field: e.where, detail: e.message }];
    throw new ProblemError(problem(422, 'body', 'The order is not right', 'Correct the field named and send it again.', errors));
  }
}

/** Reads, checks and answers one request. Runs in a thread of its own. */
export default function answerText({ what, text, today }: ClassifyTask): ClassifyAnswer {
  try {
    return { text: JSON.stringify(what === 'plan' ? planned(text, today) : classified(text, today)) };
  } catch (e) {
    // An error of our own class does not survive the way between threads: what is told does.
    if (e instanceof ProblemError) return { problem: e.problem };
    throw e;
  }
}
