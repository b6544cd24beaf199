import { existsSync, readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import Joi from 'joi';
import { ROOT } from './common';
import { readNote, writeNote } from './notes';

/** What the machine room remembers between commands. The port is chosen once and kept: a browser's outbox belongs to it. */
export interface State {
  readonly mode?: 'demo' | 'own';
  readonly port?: number;
  readonly pid?: number;
  /** It serves a database that DATABASE_URL named: which one, is not kept. */
  readonly foreign?: boolean;
  /** Served to the workshop's own network too; its port is kept like the other. */
  readonly lan?: boolean;
  readonly lanPort?: number;
}

const FILE = join(ROOT, 'var', 'state.json');
const port = () => Joi.number().integer().min(1).max(65_535);
const SHAPE = Joi.object<State>({
  mode: Joi.string().valid('demo', 'own'),
  port: port(),
  pid: Joi.number().integer().min(1),
  foreign: Joi.boolean(),
  lan: Joi.boolean(),
  lanPort: port(),
});

/** Both ways the server may have been started, by this version or another, and the mark in its environment that says whose it is. */
const SERVES = ['tools/serve.ts', 'tools/dist/tools/serve.js'].map((f) => join(ROOT, f));
export const ROOM = 'GAVREL_ROOM';

/** The environment of a process; empty when it is gone or somebody else's. */
function environment(pid: number): ReadonlyMap<string, string> {
  try {
    const pairs = readFileSync(`/proc/${pid}/environ`, 'utf8').split('\0');
    return new Map(pairs.map((p) => [p.slice(0, p.indexOf('=')), p.slice(p.indexOf('=') + 1)] as const));
  } catch {
    return new Map();
  }
}

/** Does the process run this folder's server program? */
function runsServe(pid: number): boolean {
  try {
    return readFileSync(`/proc/${pid}/cmdline`, 'utf8')
      .split('\0')
      .some((a) => SERVES.includes(a));
  } catch {
    return false;
  }
}

/**
 * Is the process that was noted alive and the server of this folder? A stale number may belong to anything by now, also to another clone's
 * server. One that an older version started says nothing of itself.
 */
export const serverAlive = (pid: number | undefined): pid is number =>
  pid !== undefined && runsServe(pid) && (environment(pid).get(ROOM) ?? ROOT) === ROOT;

/** What a server of this folder that still runs says of itself; null when none does. */
function fromServer(): State | null {
  const pid = readdirSync('/proc')
    .filter((n) => /^\d+$/.test(n))
    .map(Number)
    .find((pid) => runsServe(pid) && environment(pid).get(ROOM) === ROOT);
  if (pid === undefined) return null;
  try {
    const told = JSON.parse(environment(pid).get(`${ROOM}_STATE`) ?? '{}') as State;
    return { ...SHAPE.validate(told).value, pid };
  } catch {
    return { pid };
  }
}

/** The port of the last server that ran here, by its own log. */
function fromLog(): State {
  const log = join(ROOT, 'var/server.log');
  const said = existsSync(log) ? [...readFileSync(log, 'utf8').matchAll(/^port (\d+)$/gm)].pop() : undefined;
  return said ? { port: Number(said[1]) } : {};
}

/** What is remembered, and what was wrong with the note of it; null when nothing was. */
export interface Remembered {
  readonly state: State;
  readonly lost: string | null;
}

/**
 * Reads what is remembered. Where the note is missing or torn, what can be derived is: a server of this folder that still runs says what it
 * serves, the log of the last one its port. The rest is for a person to say.
 */
export function remembered(): Remembered {
  const note = readNote(FILE, SHAPE);
  if (note.is === 'whole') {
    const { pid, ...rest } = note.value;
    const alive = serverAlive(pid) ? pid : fromServer()?.pid;
    return { state: { ...rest, ...(alive !== undefined && { pid: alive }) }, lost: null };
  }
  const state = { ...fromLog(), ...fromServer() };
  return { state, lost: note.is === 'torn' ? `var/state.json cannot be read: ${note.why}` : null };
}

export const readState = (): State => remembered().state;

export function writeState(change: State): State {
  const next = { ...readState(), ...change };
  writeNote(FILE, next);
  return next;
}
