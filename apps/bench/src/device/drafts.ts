import { DAY_MS } from '@gavrel/core';
import { forgetDrafts, readDrafts, writeDrafts } from './store';

/** Something begun and not kept: a drawing, words, a list. */
interface Kept {
  readonly value: unknown;
  readonly at: number;
}

/** How long one lies here, ms, and how many do: nobody comes back to the fortieth. */
const KEPT_MS = 14 * DAY_MS;
const MOST = 40;
/** Typing is written down at its next pause, ms, and whoever never pauses is not waited for longer than this. */
const PAUSE_MS = 300;
const LONGEST_MS = 1000;

let all = new Map<string, Kept>();
let writing: ReturnType<typeof setTimeout> | null = null;
/** Since when something is not written down, ms since 1970. */
let unwrittenSince = 0;

/** Reads what was begun on this device, before any form is drawn. */
export async function loadDrafts(now = Date.now()): Promise<void> {
  const read = Object.entries(await readDrafts()) as [string, Kept][];
  all = new Map(read.filter(([, d]) => now - d.at < KEPT_MS));
}

const write = () => {
  if (writing !== null) clearTimeout(writing);
  writing = null;
  // What cannot be kept here is still in the form; the entry it becomes will say so.
  void writeDrafts(Object.fromEntries(all)).catch(() => undefined);
};

/** The value begun under a name; undefined where none was. */
export const beginning = (name: string): unknown => all.get(name)?.value;

/** Keeps what was begun under a name, or forgets it. */
export function keepBeginning(name: string, value: unknown): void {
  all.delete(name);
  if (value !== undefined) all.set(name, { value, at: Date.now() });
  for (const oldest of all.keys()) if (all.size > MOST) all.delete(oldest);
  const now = Date.now();
  if (writing === null) unwrittenSince = now;
  else clearTimeout(writing);
  // A clock that was turned back meanwhile is no reason to wait.
  const waited = Math.abs(now - unwrittenSince);
  if (value === undefined || waited >= LONGEST_MS) write();
  else writing = setTimeout(write, PAUSE_MS);
}

/** Another workshop: nothing begun here belongs there. */
export function dropDrafts(): void {
  all = new Map();
  void forgetDrafts();
}

// A page that goes away writes what is on its way.
if (typeof window !== 'undefined') window.addEventListener('pagehide', () => writing !== null && write());
