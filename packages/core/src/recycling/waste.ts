import type { Condition, Purpose } from '../logbook/entry';
import type { Region } from '../shipping/facts';
import { REGION_RULES } from '../shipping/regions';
import { NEW_LIST, WASTE } from './rules-waste';
import { figureOf } from '../rules/rule';

export interface WasteAsked {
  readonly condition: Condition;
  readonly purpose: Purpose | null;
  /** When it became waste, ISO; null when nobody said. */
  readonly since: string | null;
  readonly region: Region;
  /** YYYY-MM-DD. */
  readonly on: string;
  /** Code the workshop uses instead of ours; null: none. */
  readonly code: string | null;
}

export interface WasteRuling {
  /** Code of the list of waste, or null where there is none (United States). */
  readonly code: string | null;
  /** Last day it may stay, YYYY-MM-DD; null: no clock, or not known when it began. */
  readonly until: string | null;
  readonly words: readonly string[];
  readonly rules: readonly string[];
}

/** Not from households: what a workshop hands over. The digits of the new one are recalled: look them up. */
const OLD_CODE = '16 06 05';
const NEW_CODE = '16 06 07*';

/** The same day in a later year; 29 February becomes 28 February. */
export function yearsLater(day: string, years: number): string {
  const year = Number(day.slice(0, 4)) + years;
  const leap = (year % 4 === 0 && year % 100 !== 0) || year % 400 === 0;
  return `${year}${day.slice(4) === '-02-29' && !leap ? '-02-28' : day.slice(4)}`;
}

/** How a pack is kept and handed over as waste; null while it is none. Local code decides. */
export function wasteOf(a: WasteAsked): WasteRuling | null {
  const meant = a.purpose === 'recycling' || a.purpose === 'disposal';
  if (a.condition === 'critical' || (!meant && a.condition !== 'spent' && a.condition !== 'damaged')) return null;
  const rules: string[] = [];
  const words: string[] = [];
  const cite = (id: string) => {
    const rule = WASTE.on(id, a.on);
    if (!rule) return;
    rules.push(id);
    words.push(rule.title);
  };
  const law = REGION_RULES[a.region].waste;
  if (law === null)
    return { code: a.code, until: null, words: ['the waste law of this country is not held here: look it up'], rules };
  if (law === 'us') {
    cite('waste.us.label');
    cite('waste.us.clock');
    if (a.condition === 'damaged') cite('waste.us.damaged');
    cite('waste.us.handler');
    const years = figureOf(WASTE.undated('waste.us.clock'), 'years');
    return { code: null, until: a.since ? yearsLater(a.since.slice(0, 10), years) : null, words, rules };
  }
  cite(law === 'uk' ? 'waste.uk.code' : 'waste.eu.code');
  if (law !== 'uk') cite('waste.eu.portable');
  const ours = law !== 'uk' && WASTE.on('waste.eu.code', a.on)?.edition === NEW_LIST ? NEW_CODE : OLD_CODE;
  return { code: a.code ?? ours, until: null, words, rules };
}
