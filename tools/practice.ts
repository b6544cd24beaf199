import { availableParallelism } from 'node:os';
import { type Act, ACTS, both, type Tally } from '@gavrel/core/practice';
import { runnable } from '@gavrel/server/runnable';
import { Piscina } from 'piscina';
import { Trouble } from './common';
import type { Share } from './practice-worker';

/** Packs a thread takes at a time. */
const SHARE = 2000;
/** Of the packs judged with everything done, how many are judged again for each act left out. */
const AGAIN = 0.1;

function number(args: readonly string[], name: string, usual: number, most: number): number {
  const at = args.indexOf(name);
  if (at < 0) return usual;
  const given = args[at + 1] ?? '';
  if (!/^\d{1,9}$/.test(given) || Number(given) < 1 || Number(given) > most)
    throw new Trouble(`${name} ${given} is no number from 1 to ${most}`);
  return Number(given);
}

const percent = (part: number, of: number): string => (of === 0 ? '-' : `${((100 * part) / of).toFixed(2)} %`);
const columns = (cells: readonly (string | number)[]): string =>
  `| ${cells.map((c, i) => (i === 0 ? String(c).padEnd(22) : String(c).padStart(11))).join(' | ')} |`;

/** One line of the table. */
function row(name: string, t: Tally): string {
  const harmless = t.packs - t.dangerous;
  const of = (x: Partial<Record<string, number>>, k: string) => x[k] ?? 0;
  return columns([
    name,
    t.packs,
    t.dangerous,
    of(t.harmful, 'sound'),
    percent(of(t.harmful, 'unproven'), t.dangerous),
    percent(of(t.harmless, 'sound'), harmless),
    percent(of(t.harmless, 'unproven'), harmless),
    percent(of(t.harmless, 'damaged'), harmless),
    percent(t.covered, t.intervals),
  ]);
}

/** Judges many simulated packs in all cores, everything done and each act left out, and prints what became of them. */
export async function main(args: readonly string[], say: (line: string) => void): Promise<void> {
  const packs = number(args, '--packs', 20_000, 100_000_000);
  const seed = number(args, '--seed', 1, 999_999_999);
  const worker = runnable('tools/practice-worker.ts');
  const threads = availableParallelism();
  const pool = new Piscina<Share, Tally>({
    filename: worker.file,
    execArgv: worker.execArgv,
    minThreads: threads,
    maxThreads: threads,
  });
  const judge = async (count: number, without: readonly Act[]): Promise<Tally> => {
    const shares: Promise<Tally>[] = [];
    for (let i = 0; i < count; i += SHARE) shares.push(pool.run({ seed: seed + i, count: Math.min(SHARE, count - i), without }));
    return (await Promise.all(shares)).reduce(both);
  };
  try {
    say(
      columns([
        'done',
        'packs',
        'dangerous',
        'of them sound',
        'unproven',
        'well: sound',
        'unproven',
        'damaged',
        'interval holds',
      ]),
    );
    say(columns(['---', '---', '---', '---', '---', '---', '---', '---', '---']));
    const from = performance.now();
    const whole = await judge(packs, []);
    const rate = packs / ((performance.now() - from) / 1000) / threads;
    say(row('everything', whole));
    const some = Math.max(1, Math.round(packs * AGAIN));
    for (const act of ACTS) {
      const t = await judge(some, [act]);
      const missed = Object.entries(t.missed).map(([f, n]) => `${n} ${f}`);
      say(`${row(`without ${act}`, t)}${missed.length > 0 ? ` ${missed.join(', ')}` : ''}`);
    }
    say(`${Math.round(rate)} packs a second and core`);
    if (whole.firstMissed !== null)
      throw new Trouble(`dangerous packs ended sound with everything done: see --packs 1 --seed ${whole.firstMissed}`);
  } finally {
    await pool.destroy();
  }
}
