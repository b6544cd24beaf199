import Papa from 'papaparse';
import type { NoticeRange } from '../logbook/entry';
import type { PackFacts } from '../logbook/fold';
import type { NoticeFacts } from '../logbook/fold-consignment';
import { foldedCode, matchCode, plainCode } from '../pack/type-code';
import { isPartialDay } from '../quantity/day';

/** What a notice says of one pack. Perhaps: something that would settle it was not read, or a look-alike was forgiven. */
export interface NoticeHit {
  readonly sure: boolean;
  /** What was forgiven or is not known, in words. */
  readonly why: readonly string[];
}

/** Letters before, and the figures at the end, of a serial number. */
function parts(serial: string): { readonly head: string; readonly number: bigint | null } {
  const plain = plainCode(serial);
  const tail = /\d+$/.exec(plain)?.[0];
  return { head: tail === undefined ? plain : plain.slice(0, -tail.length), number: tail === undefined ? null : BigInt(tail) };
}

/** Below 0, 0 or above it; null where the two are not of one series. */
function compareSerials(a: string, b: string): number | null {
  const [x, y] = [parts(a), parts(b)];
  if (x.head === y.head && x.number !== null && y.number !== null) return x.number < y.number ? -1 : x.number > y.number ? 1 : 0;
  const [p, q] = [plainCode(a), plainCode(b)];
  return p.length === q.length ? (p < q ? -1 : p > q ? 1 : 0) : null;
}

type Answer = 'in' | 'out' | { readonly open: string };

function bySerial(r: NoticeRange, serials: readonly string[]): Answer {
  if (r.serialFrom === undefined && r.serialTo === undefined) return 'in';
  if (serials.length === 0) return { open: 'its serial number was not read' };
  const each = serials.map((s): Answer => {
    const from = r.serialFrom === undefined ? 1 : compareSerials(s, r.serialFrom);
    const to = r.serialTo === undefined ? -1 : compareSerials(s, r.serialTo);
    if (from === null || to === null) return { open: `serial number ${s} is written otherwise than in the notice` };
    return from >= 0 && to <= 0 ? 'in' : 'out';
  });
  return each.find((a) => a === 'in') ?? each.find((a) => typeof a === 'object') ?? 'out';
}

/** First and last day that a partial date can mean, for comparing texts. */
const first = (d: string): string => `${d}-01-01`.slice(0, 10);
const last = (d: string): string => `${d}${'-12-31'.slice(d.length - 4)}`.slice(0, 10);

function byDate(r: NoticeRange, dates: readonly string[]): Answer {
  if (r.madeFrom === undefined && r.madeTo === undefined) return 'in';
  if (dates.length === 0) return { open: 'when it was made was not read' };
  const from = r.madeFrom === undefined ? '0000' : first(r.madeFrom);
  const to = r.madeTo === undefined ? '9999' : last(r.madeTo);
  const each = dates.map((d): Answer => {
    if (last(d) < from || first(d) > to) return 'out';
    return first(d) >= from && last(d) <= to ? 'in' : { open: `made ${d}: the day decides` };
  });
  return each.find((a) => a === 'in') ?? each.find((a) => typeof a === 'object') ?? 'out';
}

/** Notices by what their type codes look like. */
export interface NoticeIndex {
  readonly byCode: ReadonlyMap<string, readonly NoticeRange[]>;
}
export function indexNotice(notice: Pick<NoticeFacts, 'ranges'>): NoticeIndex {
  const byCode = new Map<string, NoticeRange[]>();
  for (const r of notice.ranges) {
    const key = foldedCode(r.typeCode);
    const known = byCode.get(key);
    if (known) known.push(r);
    else byCode.set(key, [r]);
  }
  return { byCode };
}

/** Does a notice concern a pack, by anything that was ever read off it? Null where it does not. */
export function noticeHit({ byCode }: NoticeIndex, pack: Pick<PackFacts, 'labels'>): NoticeHit | null {
  const said = pack.labels.map((l) => l.body);
  const of = <K extends 'typeCode' | 'serial' | 'madeOn'>(k: K) => [...new Set(said.flatMap((b) => b[k] ?? []))];
  const [serials, dates] = [of('serial'), of('madeOn')];
  let best: NoticeHit | null = null;
  for (const code of of('typeCode'))
    for (const r of byCode.get(foldedCode(code)) ?? []) {
      const match = matchCode(code, r.typeCode);
      const answers = [bySerial(r, serials), byDate(r, dates)];
      if (answers.includes('out')) continue;
      const why = [
        ...(match.kind === 'forgiven' ? match.pairs : []),
        ...answers.flatMap((a) => (typeof a === 'object' ? [a.open] : [])),
      ];
      if (best === null || why.length < best.why.length) best = { sure: why.length === 0, why };
    }
  return best;
}

/** Where a pack is that a notice may concern. */
export const NOTICE_GROUPS = ['here', 'in a job', 'in a machine', 'gone'] as const;
export type NoticeGroup = (typeof NOTICE_GROUPS)[number];

/** A pack that a notice concerns, or may. */
export interface NoticedPack {
  readonly id: string;
  readonly tag: string;
  readonly group: NoticeGroup;
  /** null: its type code was never read, so that nobody knows. */
  readonly hit: NoticeHit | null;
  /** The recall is on its record already. */
  readonly found: boolean;
}

type Asked = Pick<PackFacts, 'id' | 'tag' | 'labels' | 'left' | 'use' | 'job' | 'findings'>;

const groupOf = (f: Asked, openJobs: ReadonlySet<string>): NoticeGroup =>
  f.left !== null ? 'gone' : f.use === 'fitted' ? 'in a machine' : f.job !== null && openJobs.has(f.job) ? 'in a job' : 'here';

/** Holds a notice against a pack. Null where it does not concern it, and where nobody can read the label of one that is gone any more. */
export function noticed(index: NoticeIndex, pack: Asked, openJobs: ReadonlySet<string>): NoticedPack | null {
  const { id, tag } = pack;
  const hit = noticeHit(index, pack);
  const isRead = pack.labels.some((l) => l.body.typeCode !== undefined);
  if (hit === null && (isRead || pack.left !== null)) return null;
  const found = pack.findings.some((x) => x.body.code === 'safety-recall');
  return { id, tag, group: groupOf(pack, openJobs), hit, found };
}

/** What is wrong with a line of a notice file, counted from 1 with its heading. */
export interface LineProblem {
  readonly line: number;
  readonly words: string;
}

const COLUMNS: Readonly<Record<string, keyof NoticeRange>> = {
  typecode: 'typeCode',
  type: 'typeCode',
  code: 'typeCode',
  serialfrom: 'serialFrom',
  serialto: 'serialTo',
  madefrom: 'madeFrom',
  madeto: 'madeTo',
};

/** One line as a range, or what is wrong with it. */
function rangeOf(cells: Partial<Record<keyof NoticeRange, unknown>>): NoticeRange | string {
  const text = (k: keyof NoticeRange) => (cells[k] === undefined || cells[k] === null ? '' : String(cells[k]).trim());
  const range = {
    typeCode: text('typeCode'),
    ...Object.fromEntries(
      (['serialFrom', 'serialTo', 'madeFrom', 'madeTo'] as const).flatMap((k) => (text(k) ? [[k, text(k)]] : [])),
    ),
  } as NoticeRange;
  if (range.typeCode === '') return 'no type code: a notice names one';
  if (plainCode(range.typeCode) === '') return `"${range.typeCode}" is no type code`;
  const long = Object.values(range).find((v) => v.length > 60);
  if (long !== undefined) return `"${long.slice(0, 20)}…" is longer than 60 characters`;
  for (const k of ['madeFrom', 'madeTo'] as const)
    if (range[k] !== undefined && !isPartialDay(range[k])) return `"${range[k]}" is no date: write YYYY, YYYY-MM or YYYY-MM-DD`;
  if (range.madeFrom !== undefined && range.madeTo !== undefined && first(range.madeFrom) > last(range.madeTo))
    return `made from ${range.madeFrom} lies after made to ${range.madeTo}`;
  if (range.serialFrom !== undefined && range.serialTo !== undefined) {
    const order = compareSerials(range.serialFrom, range.serialTo);
    if (order === null) return `serial numbers ${range.serialFrom} and ${range.serialTo} are not of one series`;
    if (order > 0) return `serial from ${range.serialFrom} lies after serial to ${range.serialTo}`;
  }
  return range;
}

/**
 * Which packs a notice is about, from a table (CSV with a heading: type code, serial from, serial to, made from, made to) or a list of objects
 * (JSON with the same names). Good lines are kept, others named.
 */
export function readNotice(text: string): { readonly ranges: readonly NoticeRange[]; readonly problems: readonly LineProblem[] } {
  const ranges: NoticeRange[] = [];
  const problems: LineProblem[] = [];
  const take = (line: number, cells: Partial<Record<keyof NoticeRange, unknown>>) => {
    const r = rangeOf(cells);
    if (typeof r === 'string') problems.push({ line, words: r });
    else ranges.push(r);
  };
  if (/^\s*[[{]/.test(text)) {
    let data: unknown;
    try {
      data = JSON.parse(text);
    } catch (e) {
      return { ranges, problems: [{ line: 1, words: `not readable as JSON: ${(e as Error).message}` }] };
    }
    const list = Array.isArray(data) ? data : (data as { ranges?: unknown }).ranges;
    if (!Array.isArray(list)) return { ranges, problems: [{ line: 1, words: 'a list of ranges is missing' }] };
    list.forEach((x: unknown, i) => {
      if (typeof x !== 'object' || x === null) problems.push({ line: i + 1, words: 'is no object' });
      else take(i + 1, x);
    });
    return { ranges, problems };
  }
  const { data } = Papa.parse<string[]>(text.replace(/^\ufeff/, ''), { skipEmptyLines: false });
  const head = (data[0] ?? []).map((h) => COLUMNS[h.toLowerCase().replace(/[^a-z]/g, '')]);
  if (!head.includes('typeCode')) return { ranges, problems: [{ line: 1, words: 'no column is called "type code"' }] };
  data.slice(1).forEach((row, i) => {
    if (row.every((c) => c.trim() === '')) return;
    take(i + 2, Object.fromEntries(head.flatMap((k, n) => (k ? [[k, row[n]]] : []))));
  });
  return { ranges, problems };
}
