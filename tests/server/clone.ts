import { spawn, spawnSync } from 'node:child_process';
import { cpSync, mkdirSync, symlinkSync } from 'node:fs';
import { basename, join } from 'node:path';

const PARTS = ['gavrel', 'package.json', 'package-lock.json', 'tools', 'packages', 'apps', 'tsconfig.base.json'];

/** A clone with this folder's packages and its built application, and its one command. */
export function cloneIn(folder: string, name = 'clone') {
  const home = join(folder, name);
  // Clones that start at the same moment must not try the same port first.
  const env = { ...process.env, CI: 'true', GAVREL_PORT: String(20_000 + Math.floor(Math.random() * 20_000)) };
  mkdirSync(home);
  // What is built holds a folder of that name too, and is built anew where it is not whole.
  const wanted = (p: string) => basename(p) !== 'node_modules' || p.includes('/dist/');
  for (const f of PARTS) cpSync(f, join(home, f), { recursive: true, filter: wanted });
  symlinkSync(join(process.cwd(), 'node_modules'), join(home, 'node_modules'));
  /** Runs it and waits. */
  const gavrel = (...args: string[]) => spawnSync('bash', ['./gavrel', ...args], { cwd: home, encoding: 'utf8', env });
  /** Runs it beside others. */
  const beside = (...args: string[]) =>
    new Promise<{ code: number | null; out: string }>((done) => {
      const child = spawn('bash', ['./gavrel', ...args], { cwd: home, env });
      let out = '';
      for (const s of [child.stdout, child.stderr]) s.on('data', (d: Buffer) => (out += d.toString()));
      child.on('close', (code) => done({ code, out }));
    });
  return { home, gavrel, beside, env };
}
