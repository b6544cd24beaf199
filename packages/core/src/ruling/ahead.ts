import { changeDays, compareRules, type RuleChange } from '../rules/compare';
import type { ShippingFacts } from '../shipping/facts';
import { SHIPPING_RULES } from '../shipping/rulebook';
import { type Cell, matrix } from './matrix';
import { addDays } from '../quantity/day';

/** A pack in stock as shipping knows it today. */
export interface InStock {
  readonly id: string;
  readonly tag: string;
  readonly shipping: ShippingFacts;
}

export interface Changed {
  readonly id: string;
  readonly tag: string;
  /** The answer before and on the day, for each route that differs. */
  readonly cells: readonly { readonly before: Cell; readonly after: Cell }[];
}

/** What a coming day changes: rules, and the packs that would be answered differently as they lie. */
export interface Ahead {
  readonly day: string;
  readonly rules: readonly RuleChange[];
  readonly packs: readonly Changed[];
}

const dayBefore = (day: string) => addDays(day, -1);

/** Every day up to `until` on which a rule begins or ends, soonest first, with what it changes in the stock. */
export function ahead(stock: readonly InStock[], today: string, until: string): Ahead[] {
  return changeDays(SHIPPING_RULES, today, until).map((day) => ({
    day,
    rules: compareRules(SHIPPING_RULES, dayBefore(day), day),
    packs: stock.flatMap(({ id, tag, shipping }): Changed[] => {
      const after = matrix(shipping, day);
      const cells = matrix(shipping, dayBefore(day)).flatMap((before, i) =>
        before.word === after[i]!.word ? [] : [{ before, after: after[i]! }],
      );
      return cells.length > 0 ? [{ id, tag, cells }] : [];
    }),
  }));
}
