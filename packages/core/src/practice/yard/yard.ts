import { findingOf } from '../../condition/findings';
import { ladder, RANK } from '../../condition/ladder';
import type { Condition, PlaceKind } from '../../logbook/entry';
import { storageOrder, type StorageOrder } from '../../storage/order';
import type { Random } from '../random';
import type { Ruled } from '../staged/course';

/** A pack that has to be put somewhere, and the places there are, as they truly are. */
export interface TrueYard {
  /** What a look at it finds. */
  readonly findings: readonly string[];
  /** Kinds of place that may take no more today. */
  readonly full: readonly PlaceKind[];
}

export const YARD_WORDS = ['shelf', 'intake', 'drum', 'quarantine', 'outdoors', 'nowhere: leave, alarm, call'] as const;
export type YardWord = (typeof YARD_WORDS)[number];
const NOWHERE: YardWord = 'nowhere: leave, alarm, call';

/** It hisses, smokes or burns as one comes in. */
export const reactsNow = (y: TrueYard): boolean => ladder({ findings: y.findings, conditionKnown: true }).kind === 'reacting';

/** Whoever leaves says afterwards what was seen. */
const judged = (y: TrueYard, done: readonly string[]) => {
  const looked = done.includes('look') || (done.includes('leave') && reactsNow(y));
  return ladder(looked ? { findings: y.findings, conditionKnown: true } : { conditionKnown: false });
};

export const conditionOf = (y: TrueYard): Condition => ladder({ findings: y.findings, conditionKnown: true }).condition;
export const orderOf = (y: TrueYard): StorageOrder => {
  const { condition, kind } = ladder({ findings: y.findings, conditionKnown: true });
  return storageOrder(condition, kind);
};

/** Where the storage order of the workshop puts it, as far as it was looked at and the places were asked. */
export function ruledBy(y: TrueYard, done: readonly string[]): Ruled<YardWord> {
  const { condition, kind, because } = judged(y, done);
  const order = storageOrder(condition, kind);
  const why = [condition, ...because.map((code) => findingOf(code)?.words ?? code)];
  if (order.places.length === 0) return { word: NOWHERE, reasons: why };
  const room = done.includes('room');
  const free = order.places.find((p) => !(room && y.full.includes(p)));
  const word = YARD_WORDS.find((w) => w === (free ?? order.places[0])) ?? 'quarantine';
  return { word, reasons: [...why, ...(room ? ['what the places still take is known'] : [])] };
}

/** What was true of it, in words. */
export const truthOf = (y: TrueYard): string[] => [
  `it was ${conditionOf(y)}`,
  ...y.findings.map((code) => findingOf(code)?.words ?? code),
  ...(y.full.length > 0 ? [`no room: ${y.full.join(', ')}`] : []),
];

export const dangerous = (y: TrueYard): boolean => RANK[conditionOf(y)] >= RANK.damaged;

const FINDINGS: readonly (readonly string[])[] = [
  [],
  ['swollen'],
  ['cell-dented'],
  ['worn-out'],
  ['leaking'],
  ['hissing'],
  ['low-voltage'],
];

/** A pack and a yard nobody wrote a story for. */
export function yardOf(r: Random): TrueYard {
  const findings = r.pick(FINDINGS);
  const { places } = orderOf({ findings, full: [] });
  // Where there is only one kind of place for it, that one has room.
  return { findings, full: places.length > 1 && r.chance(0.4) ? [places[0]!] : [] };
}
