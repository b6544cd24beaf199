import { existsSync, mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { ROOT } from './common';

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

export function readState(): State {
  try {
    return JSON.parse(readFileSync(FILE, 'utf8')) as State;
  } catch {
    return {};
  }
}

export function writeState(change: State): State {
  mkdirSync(join(ROOT, 'var'), { recursive: true });
  const next = { ...readState(), ...change };
  writeFileSync(FILE, JSON.stringify(next, null, 2) + '\n', { mode: 0o600 });
  return next;
}

/** Is the remembered process alive and ours? A stale number may belong to anything by now. */
export function serverAlive(pid: number | undefined): boolean {
  if (pid === undefined) return false;
  const line = `/proc/${pid}/cmdline`;
  return existsSync(line) && readFileSync(line, 'utf8').includes('serve.ts');
}
