import { readFileSync, statSync } from 'node:fs';
import {
  decodeText,
  MAX_TABLE,
  mappingOf,
  readCase,
  readRows,
  readTable,
  type Row,
  type Ruled,
  ruleRow,
  writeTable,
} from '@gavrel/core/batch';
import { Trouble } from './common';

/** Rows of a file: an array of cases, objects with facts and route, or CSV. */
function rowsOf(text: string, today: string): Row[] {
  if (!/^\s*[[{]/.test(text)) {
    const table = readTable(text);
    const mapping = mappingOf(table.headings);
    const unknown = table.headings.filter((h, i) => h !== '' && mapping[i] === undefined);
    if (unknown.length > 0)
      throw new Trouble(`columns nobody knows: ${unknown.join(', ')}; name them as in the facts, or take them out`);
    return readRows(table, mapping, today);
  }
  let data: unknown;
  try {
    data = JSON.parse(text.replace(/^\uFEFF/, ''));
  } catch (e) {
    throw new Trouble(`this is not JSON: ${(e as Error).message}`);
  }
  const list = Array.isArray(data) ? data : [data];
  if (list.length > MAX_TABLE.rows) throw new Trouble(`more than ${MAX_TABLE.rows} packs: cut the file into parts`);
  return list.map((x, i) => readCase(x, i + 1, today));
}

/** As the cases name it: the tag is their id. */
const line = ({ tag, ...r }: Ruled): string => `${JSON.stringify({ id: tag, ...r })}\n`;

/** Rules on every pack of a file, or of standard input; rows that cannot be read are named and the others kept. */
export async function main(args: readonly string[], write: (text: string) => void): Promise<void> {
  const file = args.slice(1).find((a) => a === '-' || !a.startsWith('--'));
  if (!file) throw new Trouble('which file? ./gavrel classify FILE, or - for standard input');
  if (file !== '-') {
    const size = statSync(file, { throwIfNoEntry: false })?.size;
    if (size === undefined) throw new Trouble(`there is no file ${file}`);
    if (size > MAX_TABLE.bytes) throw new Trouble(`${file} is larger than 100 MB: cut it into parts`);
  }
  const bytes = readFileSync(file === '-' ? 0 : file);
  const rows = rowsOf(decodeText(bytes), new Date().toISOString().slice(0, 10));
  if (args.includes('--csv')) return write(`${writeTable(rows.map(ruleRow))}\r\n`);
  let out = '';
  for (const row of rows) {
    out += line(ruleRow(row));
    if (out.length > 1_000_000) {
      write(out);
      out = '';
    }
  }
  write(out);
}
