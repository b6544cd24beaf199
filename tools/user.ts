import { spawnSync } from 'node:child_process';
import { chownSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { ROOT, Trouble } from './common';
import { SERVE } from './served';

export const asRoot = process.getuid?.() === 0;

export interface User {
  readonly uid: number;
  readonly gid: number;
}

/** The user that owns the cluster and serves: `postgres` when we are root, else ourselves. */
export function unprivileged(): User {
  if (!asRoot) return { uid: process.getuid!(), gid: process.getgid!() };
  const line = readFileSync('/etc/passwd', 'utf8')
    .split('\n')
    .find((l) => l.startsWith('postgres:'));
  if (!line) throw new Trouble('the user postgres is missing: apt-get install postgresql');
  const [, , uid, gid] = line.split(':');
  return { uid: Number(uid), gid: Number(gid) };
}

/** A command as that user, with none of our groups. */
export function asUser(command: string, args: readonly string[]): [string, string[]] {
  const { uid, gid } = unprivileged();
  return asRoot ? ['setpriv', [`--reuid=${uid}`, `--regid=${gid}`, '--clear-groups', command, ...args]] : [command, [...args]];
}

/** Gives a file or folder of ours to that user. */
export function give(path: string): void {
  const { uid, gid } = unprivileged();
  if (asRoot) chownSync(path, uid, gid);
}

/** Can that user run the program from here? Every folder above must let it through, and it must be able to read. @param dist of the built application. */
export const mayServe = (dist: string): boolean =>
  [
    process.execPath,
    ...[SERVE.file, join(ROOT, 'packages/core/src/index.ts'), join(ROOT, 'node_modules/knex/package.json')],
    join(dist, 'index.html'),
  ].every((path) => {
    const [command, args] = asUser('test', ['-r', path]);
    return spawnSync(command, args, { cwd: '/' }).status === 0;
  });
