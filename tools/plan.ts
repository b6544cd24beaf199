import { BadOrder, plan, type PlanOrder, readOrder } from '@gavrel/core/plan';
import { Trouble } from './common';
import { inputText, today } from './input';

function orderOf(text: string): PlanOrder {
  let data: unknown;
  try {
    data = JSON.parse(text.replace(/^\uFEFF/, ''));
  } catch (e) {
    throw new Trouble(`this is not JSON: ${(e as Error).message}`);
  }
  try {
    return readOrder(data, today());
  } catch (e) {
    throw e instanceof BadOrder ? new Trouble(e.message) : e;
  }
}

/** Plans packages for the packs of a file, or of standard input, and writes one JSON object. */
export function main(args: readonly string[], write: (text: string) => void): void {
  const order = orderOf(inputText(args, 'plan'));
  const from = performance.now();
  const made = plan(order);
  write(`${JSON.stringify({ ...made, ms: Math.round(performance.now() - from) })}\n`);
}
