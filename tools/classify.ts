import { availableParallelism } from 'node:os';
import {
  COLUMNS,
  MAX_TABLE,
  mappingOf,
  readCase,
  readRows,
  readTable,
  type Row,
  type Ruled,
  writeTable,
} from '@gavrel/core/batch';
import { runnable } from '@gavrel/server/runnable';
import { Piscina } from 'piscina';
import { ruleStretch, type Stretch } from './classify-worker';
import { Trouble } from './common';
import { inputText, today } from './input';

/** Rows of a file: an array of cases, objects with facts and route, or CSV. */
function rowsOf(text: string, today: string): Row[] {
  if (!/^\s*[[{]/.test(text)) {
    const table = readTable(text);
    const mapping = mappingOf(table.headings);
    const odd = table.headings.filter((h, i) => h !== '' && mapping[i] === undefined);
    const again = odd.filter((h) => mappingOf([h])[0] !== undefined);
    if (again.length > 0) throw new Trouble(`two columns are ${again.join(' and ')}: take one out`);
    if (odd.length > 0) {
      const known = ['tag', ...COLUMNS.map((c) => c.name)].join(', ');
      throw new Trouble(`columns nobody knows: ${odd.join(', ')}; take them out, or name them as one of ${known}`);
    }
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

/** Rows a thread takes at a time. */
const STRETCH = 1000;

/** Rules on the rows in all cores, where they are many; what comes out is in their order. */
async function* ruleAll(rows: readonly Row[], csv: boolean): AsyncGenerator<string | Ruled[]> {
  const stretches: Row[][] = [];
  for (let i = 0; i < rows.length; i += STRETCH) stretches.push(rows.slice(i, i + STRETCH));
  // A thread takes longer to start than a short table to rule on.
  if (stretches.length < 4) {
    for (const part of stretches) yield ruleStretch({ rows: part, csv });
    return;
  }
  const worker = runnable('tools/classify-worker.ts');
  const pool = new Piscina<Stretch, string | Ruled[]>({
    filename: worker.file,
    execArgv: worker.execArgv,
    minThreads: availableParallelism(),
    maxThreads: availableParallelism(),
  });
  try {
    const tasks = stretches.map((part) => pool.run({ rows: part, csv }));
    for (const task of tasks) yield await task;
  } finally {
    await pool.destroy();
  }
}

/** Rules on every pack of a file, or of standard input; rows that cannot be read are named and the others kept. */
export async function main(args: readonly string[], write: (text: string) => void): Promise<void> {
  const text = inputText(args, 'classify');
  const rows = rowsOf(text, today());
  const csv = args.includes('--csv');
  const ruled: Ruled[] = [];
  for await (const part of ruleAll(rows, csv)) {
    if (typeof part === 'string') write(part);
    else ruled.push(...part);
  }
  if (csv) write(`${writeTable(ruled)}\r\n`);
}
