import type { Region } from '../shipping/facts';
import { REGION_RULES } from '../shipping/regions';
import { WASTE } from './rules-waste';
import { wasteOf } from './waste';

/** What is known of a load of waste that is about to leave. Numbers are told as the authority wrote them. */
export interface MovementAsked {
  readonly region: Region;
  /** YYYY-MM-DD. */
  readonly on: string;
  /** Code the workshop uses instead of ours; null: none. */
  readonly code: string | null;
  /** null: nobody said. */
  readonly crossesBorder: boolean | null;
  /** Under which this workshop is registered as a producer or handler. */
  readonly producer: string | null;
  /** Registration of the carrier of waste. */
  readonly carrier: string | null;
  /** Permit of who takes it. */
  readonly consignee: string | null;
  /** Number of the notification of a movement over a border. */
  readonly notification: string | null;
}

/** What a step asks for; null: something to do, not to know. */
export type MovementFact = 'producer' | 'carrier' | 'consignee' | 'crossesBorder' | 'notification';

export interface MovementStep {
  readonly asks: MovementFact | null;
  readonly what: string;
  /** The answer, where there is one. */
  readonly known: string | null;
  /** Rule that asks for it. */
  readonly rule: string;
}

export interface Movement {
  /** Code of the list of waste; null where there is none. */
  readonly code: string | null;
  /** By the code; null where no list of waste is in use. */
  readonly hazardous: boolean | null;
  readonly steps: readonly MovementStep[];
  /** What to look up, where no law of the region is held here. */
  readonly says: string | null;
  readonly rules: readonly string[];
}

/** Hazardous entries of the list of waste carry an asterisk (Decision 2000/532/EC, Annex, point 5; from memory). */
export const isHazardousCode = (code: string): boolean => code.trim().endsWith('*');

/**
 * What the waste law of a region asks of a load of worn or damaged lithium packs on its day. It never says that a load may go: local law and
 * the authority decide. Blank numbers are not known.
 */
export function movementOf(a: MovementAsked): Movement {
  const said = (text: string | null) => (text === null || text.trim() === '' ? null : text.trim());
  const law = REGION_RULES[a.region].waste;
  const code = wasteOf({
    condition: 'spent',
    purpose: 'recycling',
    since: null,
    region: a.region,
    on: a.on,
    code: said(a.code),
  })!.code;
  const steps: MovementStep[] = [];
  const ask = (asks: MovementFact | null, what: string, known: string | null, rule: string) => {
    if (WASTE.on(rule, a.on)) steps.push({ asks, what, known, rule });
  };
  const border = a.crossesBorder === null ? null : a.crossesBorder ? 'yes' : 'no';
  const done = (hazardous: boolean | null, says: string | null = null): Movement => ({
    code,
    hazardous,
    steps,
    says,
    rules: [...new Set(steps.map((s) => s.rule))],
  });
  if (law === null)
    return done(code === null ? null : isHazardousCode(code), 'the waste law of this country is not held here: look it up');
  if (law === 'us') {
    ask('producer', 'EPA id of this workshop, where it is a large handler', said(a.producer), 'waste.us.handler');
    ask('consignee', 'The handler or facility that agreed to take it', said(a.consignee), 'waste.us.sent');
    ask('crossesBorder', 'Does it leave the country?', border, 'waste.us.export');
    if (a.crossesBorder === true) ask('notification', 'Notice to EPA and consent', said(a.notification), 'waste.us.export');
    return done(null);
  }
  const hazardous = code !== null && isHazardousCode(code);
  ask('carrier', 'Registration of the carrier', said(a.carrier), `waste.${law}.carrier`);
  if (law === 'eu' || hazardous) ask('consignee', 'Permit of who takes it', said(a.consignee), `waste.${law}.carrier`);
  if (hazardous) {
    ask('producer', 'Number of this workshop as a producer of hazardous waste', said(a.producer), `waste.${law}.note`);
    ask(null, 'The note goes with it, signed by both', null, `waste.${law}.note`);
  } else if (law === 'uk') ask(null, 'The transfer note goes with it, signed by both', null, 'waste.uk.carrier');
  ask('crossesBorder', 'Does it cross a border?', border, `waste.${law}.shipment`);
  if (a.crossesBorder === true) {
    if (hazardous)
      ask('notification', 'Number of the notification, with the consents', said(a.notification), `waste.${law}.shipment`);
    else ask(null, 'The document of Annex VII goes with it', null, `waste.${law}.shipment`);
  }
  if (hazardous && law === 'eu') ask(null, 'Into the record, kept 3 years', null, 'waste.eu.records');
  return done(hazardous);
}

/** Facts that a step asks for and nobody said. */
export const unknownOf = (m: Movement): readonly MovementStep[] => m.steps.filter((s) => s.asks !== null && s.known === null);
