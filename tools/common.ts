import { resolve } from 'node:path';

/** The project's folder: `./gavrel` and the test runner start everything there. */
export const ROOT = process.cwd();

/** A file as whoever ran the command named it: from the folder they were in, which need not be the project's. */
export const fileGiven = (file: string): string => resolve(process.env.GAVREL_FROM ?? process.cwd(), file);

/** One line to whoever ran the command. */
export const say = (line: string): void => void process.stdout.write(`${line}\n`);

/** A failure that a person can mend: its message is one line that says what to do. */
export class Trouble extends Error {}

/** `--name value` from the command line; undefined when it is not there. */
export function option(args: readonly string[], name: string): string | undefined {
  const i = args.indexOf(`--${name}`);
  return i === -1 ? undefined : (args[i + 1] ?? '');
}

/** A whole-number option. @throws Trouble when it is not one. */
export function numberOption(args: readonly string[], name: string, fallback: number): number {
  const given = option(args, name);
  if (given === undefined) return fallback;
  const n = Number(given);
  if (!Number.isInteger(n) || n < 0) throw new Trouble(`--${name} takes a whole number, not "${given}"`);
  return n;
}

/** A small seeded generator (mulberry32), for runs that can be repeated. */
export function seeded(seed: number): () => number {
  let a = seed >>> 0;
  return () => {
    a = (a + 0x6d2b79f5) >>> 0;
    let t = a;
    t = Math.imul(t ^ (t >>> 15), t | 1);
    t ^= t + Math.imul(t ^ (t >>> 7), t | 61);
    return ((t ^ (t >>> 14)) >>> 0) / 4_294_967_296;
  };
}
