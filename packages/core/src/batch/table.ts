import { factWords } from '../coherence/fact-words';
import Papa from 'papaparse';
import { contradictionsOf, relationOf } from '../coherence/relations';
import { carryOf } from '../dispatch/carry';
import { type Classified, classify } from '../shipping/classify';
import type { Outcome, Provision, Route, ShippingFacts } from '../shipping/facts';
import { splitOf } from '../dispatch/split';
import type { Condition } from '../logbook/entry';
import { normalTag } from '../logbook/ids';
import { statedOf } from '../shipping/stated';
import { columnOf, isTag, type Printed, unitIn } from './columns';
import { harmless } from './list';

/** Largest file and longest table that is taken. */
export const MAX_TABLE = { bytes: 100_000_000, rows: 200_000 } as const;

export interface Table {
  readonly headings: readonly string[];
  readonly rows: readonly (readonly string[])[];
}

/**
 * Reads CSV: comma, semicolon or tab, with or without a byte-order mark. Cells are kept as text.
 * @throws RangeError with what to do when it is too long, empty or not one table.
 */
export function readTable(text: string): Table {
  if (text.length > MAX_TABLE.bytes) throw new RangeError('the table is larger than 100 MB: cut it into parts');
  const plain = text.replace(/^\uFEFF/, '');
  // Spreadsheets say in a line of its own what parts their cells.
  const [said = '', delimiter] = /^"?sep=([,;\t|])"?\r?\n/i.exec(plain) ?? [];
  const { data } = Papa.parse<string[]>(plain.slice(said.length), {
    skipEmptyLines: 'greedy',
    ...(delimiter !== undefined && { delimiter }),
  });
  const [headings, ...rows] = data;
  if (!headings || rows.length === 0)
    throw new RangeError('the table has no rows: a line of headings, then a line for each pack');
  if (rows.length > MAX_TABLE.rows) throw new RangeError(`the table has more than ${MAX_TABLE.rows} rows: cut it into parts`);
  return { headings: headings.map((h) => h.trim()), rows };
}

export interface Problem {
  readonly column: string;
  readonly words: string;
}

export interface Row {
  /** From 1; the line of headings is not counted. */
  readonly line: number;
  readonly tag: string;
  readonly facts: ShippingFacts;
  readonly route: Route;
  /** Figures as they stood in their cells, by the name of the column. */
  readonly printed: Readonly<Record<string, Printed>>;
  readonly problems: readonly Problem[];
}

/** Sets a dotted field. */
function set(target: Record<string, unknown>, name: string, value: unknown): void {
  const [group = name, field] = name.split('.');
  target[group] = field === undefined ? value : { ...(target[group] as object | undefined), [field]: value };
}

/** Which column of ours each heading means: its index in the table to our name; what is not mapped is left out. */
export type Mapping = Readonly<Record<number, string>>;

/** What the headings say by themselves. */
export function mappingOf(headings: readonly string[]): Record<number, string> {
  const out: Record<number, string> = {};
  headings.forEach((h, i) => {
    const name = isTag(h) ? 'tag' : columnOf(h)?.name;
    if (name && !Object.values(out).includes(name)) out[i] = name;
  });
  return out;
}

const BARE = /^[-+−–]?[\d.,]+$/;

/**
 * One row as facts and route. A cell that cannot be read is named; an empty one is unknown.
 * @param today dispatch where none is said. @param units that the headings name, by index: of a figure that has none of its own.
 */
export function readRow(
  cells: readonly string[],
  mapping: Mapping,
  line: number,
  today: string,
  units: readonly (string | null)[] = [],
): Row {
  const facts: Record<string, unknown> = {};
  const route: Record<string, unknown> = { on: today };
  const problems: Problem[] = [];
  const printed: Record<string, Printed> = {};
  let tag = '';
  for (const [index, name] of Object.entries(mapping)) {
    const text = (cells[Number(index)] ?? '').trim();
    if (text === '') continue;
    if (name === 'tag') {
      tag = text;
      continue;
    }
    const column = columnOf(name)!;
    const unit = units[Number(index)];
    const read = column.read(unit && BARE.test(text) ? `${text} ${unit}` : text, today);
    if ('trouble' in read) problems.push({ column: name, words: read.trouble });
    else {
      set(column.route ? route : facts, name, read.value);
      if (read.printed) printed[name] = read.printed;
    }
  }
  const known = facts as ShippingFacts;
  return { line, tag, facts: known, route: route as unknown as Route, printed, problems: [...problems, ...unconfirmed(known)] };
}

/** Odd values that nobody confirmed: a person is asked once, a row waits for the column "confirmed" to name them. */
function unconfirmed(facts: ShippingFacts): Problem[] {
  return contradictionsOf(statedOf(facts))
    .filter((c) => relationOf(c.relation).effect === 'asked' && !facts.confirmed?.includes(c.fields[0]!))
    .map((c) => ({
      column: c.fields.join(', '),
      words: `${c.sentence}; if it is right, name "${factWords(c.fields[0]!)}" in the column "confirmed"`,
    }));
}

/** Every row of a table; a tag that comes twice is named at its second place. */
export function readRows(table: Table, mapping: Mapping, today: string): Row[] {
  const seen = new Map<string, number>();
  const units = table.headings.map((h, i) => {
    const column = columnOf(mapping[i] ?? '');
    return column && unitIn(h, column);
  });
  return table.rows.map((cells, i) => {
    const row = readRow(cells, mapping, i + 1, today, units);
    const tag = normalTag(row.tag);
    const first = tag === '' ? undefined : seen.get(tag);
    if (tag !== '' && first === undefined) seen.set(tag, row.line);
    return first === undefined
      ? row
      : { ...row, problems: [...row.problems, { column: 'tag', words: `${row.tag} stands on line ${first} already` }] };
  });
}

/** A field of JSON as the text a cell would hold. */
function textOf(value: unknown): string {
  // A blank element is there: it must not read as an empty cell.
  if (Array.isArray(value))
    return value.length === 0
      ? '[]'
      : value
          .map((v) => (typeof v === 'object' ? '' : String(v)))
          .join(';')
          .trim() || ';';
  return value === null || value === undefined ? '' : typeof value === 'object' ? '{}' : String(value);
}

/** More than any pack has: what is longer is no pack. */
const MOST_FIELDS = 200;
const DEEPEST = 3;

const isFields = (x: unknown): x is Record<string, unknown> => typeof x === 'object' && x !== null && !Array.isArray(x);

/** A case, or an object with `facts` and `route`, through the same reading as a row of a table. */
export function readCase(input: unknown, line: number, today: string): Row {
  const o: { id?: unknown; facts?: unknown; route?: unknown } = isFields(input) ? input : {};
  const tag = typeof o.id === 'string' || typeof o.id === 'number' ? String(o.id) : '';
  const none = { line, tag, facts: {}, route: { on: today }, printed: {} };
  if (!isFields(o.facts))
    return { ...none, problems: [{ column: 'facts', words: 'an object with "facts" and "route" is expected' }] };
  if (o.route !== undefined && o.route !== null && !isFields(o.route))
    return { ...none, problems: [{ column: 'route', words: 'an object is expected, as {"mode": "road", "on": "2026-11-27"}' }] };
  const names: string[] = [];
  const cells: string[] = [];
  const walk = (prefix: string, value: object, depth = 0) => {
    for (const [k, v] of Object.entries(value)) {
      // Deeper than any field of a pack lies: it is named as what it is, no field.
      if (typeof v === 'object' && v !== null && !Array.isArray(v) && depth < DEEPEST)
        walk(`${prefix}${k}.`, v as object, depth + 1);
      else {
        names.push(prefix + k);
        cells.push(textOf(v));
      }
    }
  };
  walk('', o.facts);
  if (o.route) walk('', o.route);
  if (names.length > MOST_FIELDS)
    return { ...none, problems: [{ column: 'facts', words: `${names.length} fields: a pack has at most ${MOST_FIELDS}` }] };
  const unknown = new Set(names.filter((n) => columnOf(n)?.name !== n));
  const mapping = Object.fromEntries(names.flatMap((n, i) => (unknown.has(n) ? [] : [[i, n]])));
  const row = readRow(cells, mapping, line, today);
  return {
    ...row,
    tag,
    problems: [...row.problems, ...[...unknown].map((n) => ({ column: n.slice(0, 80), words: 'no such field' }))],
  };
}

/** What the rules say of one row; a row with a problem is not ruled on until it is mended. */
export interface Ruled {
  readonly line: number;
  readonly tag: string;
  readonly condition: Condition | null;
  readonly outcome: Outcome | null;
  readonly provision: Provision | null;
  readonly un: string | null;
  readonly batteryMark: boolean | null;
  readonly missing: readonly string[];
  /** Packages needed; 1 where one will do, null where nothing goes or it is not known. */
  readonly packages: number | null;
  readonly notes: readonly string[];
  /** Facts that cannot all be true: the columns, and what to look at again. */
  readonly contradictions: readonly Problem[];
  readonly problems: readonly Problem[];
}

/** What a file leaves unsaid is taken as said here, and told. */
function assumedIn({ facts, route }: Row): string[] {
  const land = route.mode === 'road' || route.mode === 'rail' || route.mode === undefined;
  return [
    ...(facts.purpose === undefined ? ['purpose not said: taken as use'] : []),
    ...(route.region === undefined && land ? ['region not said: taken as international'] : []),
  ];
}

/** How it is packed, marked, papered and by whom, where it may go. */
function stepsOf({ facts, route }: Row, c: Classified): string[] {
  if ((c.outcome !== 'allowed' && c.outcome !== 'split') || !route.mode || !facts.placement) return [];
  const beside = /^PI96[69]/.test(c.provision ?? '');
  const placement = beside ? 'with-equipment' : facts.placement;
  const carry = carryOf(c, { placement, mode: route.mode });
  return carry ? [...carry.packaging, ...carry.marks, ...carry.papers, carry.trained] : [];
}

/**
 * What is told of a row in one word: what goes as damaged is never just allowed.
 */
export const wordOfRow = (r: Ruled): Outcome | 'as damaged' | 'problem' =>
  r.outcome === 'allowed' && r.condition === 'damaged' ? 'as damaged' : (r.outcome ?? 'problem');

export function ruleRow(row: Row): Ruled {
  const { line, tag, problems } = row;
  if (problems.length > 0) {
    const nothing = { condition: null, outcome: null, provision: null, un: null, batteryMark: null, packages: null };
    return { line, tag, ...nothing, missing: [], notes: [], contradictions: [], problems };
  }
  const ruled = classify(row.facts, row.route);
  const { condition, outcome, provision, un, batteryMark, missing } = ruled;
  const packages = outcome === 'allowed' ? 1 : outcome === 'split' ? (splitOf(row.facts, row.route)?.packages ?? null) : null;
  const notes = [...new Set([...assumedIn(row), ...ruled.notes, ...stepsOf(row, ruled)])];
  const contradictions = ruled.contradictions.map((c) => ({ column: c.fields.join(', '), words: c.sentence }));
  return { line, tag, condition, outcome, provision, un, batteryMark, missing, packages, notes, contradictions, problems };
}

const FIELDS = [
  'line',
  'tag',
  'condition',
  'outcome',
  'provision',
  'un',
  'batteryMark',
  'missing',
  'packages',
  'notes',
  'contradictions',
  'problems',
] as const;

/** The results as CSV, one line a row, with CR LF as RFC 4180 says. */
export function writeTable(ruled: readonly Ruled[]): string {
  const rows = ruled.map((r) =>
    FIELDS.map((f) => {
      const v = r[f];
      if (f === 'problems' || f === 'contradictions') return harmless(r[f].map((p) => `${p.column}: ${p.words}`).join('; '));
      return harmless(Array.isArray(v) ? v.join('; ') : textOf(v));
    }),
  );
  return Papa.unparse({ fields: [...FIELDS], data: rows });
}
