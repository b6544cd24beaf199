import { counted } from '@gavrel/core';
import type { BoxFacts, CarrierFacts, ConsignmentFacts, Destination, Mode, SentPackage } from '@gavrel/core';
import type { Offer, PackageState, RuledPackage, Stage } from '@gavrel/core/consignment';
import { MODE_ROWS } from '../../routes/route-table';

export const MODE_WORDS = Object.fromEntries(MODE_ROWS) as Record<Mode, string>;

export const DESTINATION_WORDS: Record<Destination, string> = {
  customer: 'a customer',
  branch: 'own branch',
  seller: 'back to the seller',
  recall: 'safety recall',
  recycler: 'recycling',
  disposal: 'disposal',
};

export const STAGE_WORDS: Record<Stage, string> = {
  draft: 'being put together',
  planned: 'planned',
  packed: 'packed',
  'handed over': 'handed over',
  arrived: 'arrived',
  cancelled: 'cancelled',
  refused: 'refused',
  returned: 'came back',
  lost: 'lost',
};

export { packsWord } from '../../stock/place-words';
export const packagesWord = (n: number): string => counted(n, 'package');

export const nameOf = (c: Pick<ConsignmentFacts, 'name' | 'destination'>): string =>
  c.name ?? (c.destination ? DESTINATION_WORDS[c.destination] : 'a consignment');

/** "by road with Marram Freight", as far as it is known. */
export const wayWords = (c: Pick<ConsignmentFacts, 'mode'>, carrier: CarrierFacts | undefined): string =>
  [c.mode && `by ${MODE_WORDS[c.mode]}`, carrier && `with ${carrier.name}`].filter(Boolean).join(' ');

/** How a way is told in one line. */
export const offerWords = (o: Offer, carrier: CarrierFacts | undefined): string =>
  `${MODE_WORDS[o.mode]}, ${carrier?.name ?? 'no carrier of ours'}`;

/** "fewer than 3 is impossible", or how far it may be from that. */
export function boundWords(o: Pick<Offer, 'packages' | 'bound'>): string {
  const n = o.packages.length;
  if (n === 0) return '';
  if (o.bound >= n) return n === 1 ? '' : `fewer than ${n} is impossible`;
  return `at most ${n - o.bound} better: no plan has fewer than ${o.bound}`;
}

export const packageName = (p: Pick<PackageState, 'number'>, box: BoxFacts | undefined): string =>
  `Package ${p.number}${box ? `, ${box.name}` : ''}`;

/** What stands on a package by its ruling: "UN 3480, SP188, battery mark". */
export const markWords = ({ result, goods }: RuledPackage): string =>
  [...goods.map((g) => g.un), result.provision, result.batteryMark ? 'battery mark' : null].filter(Boolean).join(', ');

/** The same as it was written down when it left. */
export const sentWords = ({ un, goods, provision }: SentPackage): string =>
  [...(goods?.map((g) => g.un) ?? [un]), provision].filter(Boolean).join(', ');

export const kgWords = (kg: number): string => `${kg.toFixed(2)} kg`;

/** What a change costs: "4.20 more", "the same price". */
export const priceWords = (more: number): string =>
  Math.abs(more) < 0.005 ? 'the same price' : `${Math.abs(more).toFixed(2)} ${more > 0 ? 'more' : 'less'}`;
