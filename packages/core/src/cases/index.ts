import { classify } from '../shipping/classify';
import type { Outcome, Provision, Route, ShippingFacts } from '../shipping/facts';
import cases from './shipping.json';

/** A shipping question worked by hand from our copy of the rules, with the answer it must get. */
export interface WorkedCase {
  readonly id: string;
  readonly title: string;
  readonly facts: ShippingFacts;
  readonly route: Route;
  /** Only the keys present are compared. */
  readonly expect: { readonly outcome?: Outcome; readonly provision?: Provision | null };
}

/** Every worked case; each goes through the tests of the rules. */
export const WORKED = cases as unknown as readonly WorkedCase[];

let known: ReadonlyMap<string, readonly WorkedCase[]> | null = null;

/** The worked cases whose answer names a rule, by rule id. Asked anew from the rules, so it cannot say what they do not do. */
export function casesByRule(): ReadonlyMap<string, readonly WorkedCase[]> {
  if (known) return known;
  const map = new Map<string, WorkedCase[]>();
  for (const c of WORKED) {
    for (const id of classify(c.facts, c.route).rules) map.set(id, [...(map.get(id) ?? []), c]);
  }
  return (known = map);
}
