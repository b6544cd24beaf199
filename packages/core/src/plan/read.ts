import { readCase } from '../batch/table';
import type { Outline } from '../logbook/entry';
import type { Box, PackKind, PlanOrder } from './problem';

/** What is wrong with an order, and where. */
export class BadOrder extends Error {
  constructor(
    readonly where: string,
    words: string,
  ) {
    super(`${where}: ${words}`);
  }
}

type Data = Readonly<Record<string, unknown>>;

const object = (x: unknown, where: string): Data => {
  if (typeof x !== 'object' || x === null || Array.isArray(x)) throw new BadOrder(where, 'must be an object');
  return x as Data;
};
const list = (x: unknown, where: string): readonly unknown[] => {
  if (!Array.isArray(x) || x.length === 0) throw new BadOrder(where, 'must be a list with at least one');
  return x;
};
const number = (x: unknown, where: string, { least = 0, more = false, whole = false } = {}): number => {
  if (typeof x !== 'number' || !Number.isFinite(x)) throw new BadOrder(where, 'must be a number');
  if (more ? x <= least : x < least) throw new BadOrder(where, `must be ${more ? 'more than' : 'at least'} ${least}`);
  if (whole && !Number.isInteger(x)) throw new BadOrder(where, 'must be a whole number');
  return x;
};
const name = (x: unknown, where: string): string => {
  if (typeof x !== 'string' || x.trim() === '') throw new BadOrder(where, 'must be a name');
  return x;
};
const outline = (x: unknown, where: string): Outline => {
  const o = object(x, where);
  const side = (k: keyof Outline) => number(o[k], `${where}.${k}`, { more: true });
  return { length: side('length'), width: side('width'), height: side('height') };
};

const known = (x: Data, names: readonly string[], where: string): void => {
  const strange = Object.keys(x).find((k) => !names.includes(k));
  if (strange) throw new BadOrder(`${where}${strange}`, `nobody knows this; known are ${names.join(', ')}`);
};

/** Most packs and kinds of one order. */
export const MOST_PACKS = 10_000;
const MOST_KINDS = 200;
const MOST_BOXES = 20;

function kindOf(x: unknown, at: number, route: unknown, today: string): PackKind {
  const where = `kinds[${at}]`;
  const k = object(x, where);
  known(k, ['id', 'count', 'facts', 'outline'], `${where}.`);
  const row = readCase({ id: k.id, facts: object(k.facts, `${where}.facts`), route }, at + 1, today);
  // What was read and does not agree keeps this kind here, and no other.
  const read = (column: string) => column.split(', ').every((c) => (row.facts as Data)[c] !== undefined);
  const problem = row.problems.find((p) => !read(p.column));
  if (problem) throw new BadOrder(`${where}.facts.${problem.column}`, problem.words);
  const odd = row.problems.map((p) => p.words).join('; ');
  if (row.facts.package !== undefined) throw new BadOrder(`${where}.facts.package`, 'leave it out: the plan makes the packages');
  if (!row.facts.mass || row.facts.mass <= 0)
    throw new BadOrder(`${where}.facts.mass`, 'weigh one pack: a plan needs its kilograms');
  return {
    id: name(k.id, `${where}.id`),
    count: number(k.count, `${where}.count`, { least: 1, whole: true }),
    facts: row.facts,
    ...(odd !== '' && { odd }),
    outline: outline(k.outline, `${where}.outline`),
  };
}

function boxOf(x: unknown, at: number): Box {
  const where = `boxes[${at}]`;
  const b = object(x, where);
  known(b, ['id', 'inner', 'tareKg', 'maxGrossKg', 'stock', 'price'], `${where}.`);
  return {
    id: name(b.id, `${where}.id`),
    inner: outline(b.inner, `${where}.inner`),
    tareKg: number(b.tareKg, `${where}.tareKg`),
    maxGrossKg: number(b.maxGrossKg, `${where}.maxGrossKg`, { more: true }),
    stock: number(b.stock, `${where}.stock`, { whole: true }),
    price: number(b.price, `${where}.price`),
  };
}

const twice = (ids: readonly string[]): string | undefined => ids.find((id, i) => ids.indexOf(id) !== i);

/**
 * An order from data that came from outside: every field is looked at, and what is wrong is named with its place.
 * @param today taken where the route says no day, YYYY-MM-DD. @throws BadOrder
 */
export function readOrder(data: unknown, today: string): PlanOrder {
  const o = object(data, 'order');
  known(o, ['kinds', 'boxes', 'route', 'gapMm', 'fillKgPerBox', 'price', 'maxPackages'], '');
  const route = object(o.route, 'route');
  const kinds = list(o.kinds, 'kinds').map((k, i) => kindOf(k, i, route, today));
  const boxes = list(o.boxes, 'boxes').map(boxOf);
  if (kinds.length > MOST_KINDS) throw new BadOrder('kinds', `at most ${MOST_KINDS}`);
  if (boxes.length > MOST_BOXES) throw new BadOrder('boxes', `at most ${MOST_BOXES}`);
  if (kinds.reduce((n, k) => n + k.count, 0) > MOST_PACKS) throw new BadOrder('kinds', `at most ${MOST_PACKS} packs in one plan`);
  const again = twice(kinds.map((k) => k.id)) ?? twice(boxes.map((b) => b.id));
  if (again) throw new BadOrder('id', `"${again}" stands twice`);
  const price = object(o.price ?? { perPackage: 0, perKg: 0 }, 'price');
  known(price, ['perPackage', 'perKg'], 'price.');
  return {
    kinds,
    boxes,
    route: readCase({ id: 'route', facts: {}, route }, 1, today).route,
    gapMm: number(o.gapMm ?? 0, 'gapMm'),
    fillKgPerBox: number(o.fillKgPerBox ?? 0, 'fillKgPerBox'),
    price: { perPackage: number(price.perPackage ?? 0, 'price.perPackage'), perKg: number(price.perKg ?? 0, 'price.perKg') },
    ...(o.maxPackages !== undefined &&
      o.maxPackages !== null && { maxPackages: number(o.maxPackages, 'maxPackages', { least: 1, whole: true }) }),
  };
}
