import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { ROOT, say, Trouble } from './common';
import { checkOptions } from './options';

const write = (text: string): void => void process.stdout.write(text);

/** Each command loads what it needs and nothing else: most of them are done before the rest would be loaded. */
async function main(args: readonly string[]): Promise<void> {
  const command = args.some((a) => a === '--help' || a === '-h') ? 'help' : (args[0] ?? 'help');
  if (command === args[0]) checkOptions(args);
  switch (command) {
    case 'start':
      return (await import('./room')).startAll(args);
    case 'stop':
      return (await import('./room')).stopAll();
    case 'status':
      return (await import('./room')).status();
    case 'recover':
      return (await import('./room')).recover();
    case 'reset-demo':
      return (await import('./room')).resetDemo();
    case 'export':
      return (await import('./copies')).exportTo(args);
    case 'import':
      return (await import('./copies')).importFrom(args);
    case 'backup':
      return (await import('./copies')).backupTo(args);
    case 'restore':
      return (await import('./copies')).restoreFrom(args);
    case 'rebuild':
      return (await import('./copies')).rebuildAll();
    case 'classify':
      return (await import('./classify')).main(args, write);
    case 'plan':
      return (await import('./plan')).main(args, write);
    case 'log':
      return (await import('./log')).main(args, write);
    case 'instruments':
      return (await import('./instruments')).main(args.slice(1), say);
    case 'practice':
      return (await import('./practice')).main(args.slice(1), say);
    case 'read-label':
      return (await import('./read-label')).main(args.slice(1), write);
    case 'torture':
      return (await import('./torture')).main(args, say);
    case 'bench':
      return (await import('./bench')).main(args, say);
    case 'licences':
      return (await import('./licences')).main(say);
    case 'scan':
      return (await import('./scan')).main(say);
    case 'screenshots':
      return (await import('./screenshots')).main(say);
    case 'test':
      return (await import('./test')).main(say);
    case 'help':
    case '-h':
    case '--help':
      return write(readFileSync(join(ROOT, 'tools/help.txt'), 'utf8'));
    default:
      throw new Trouble(`there is no command ${args[0]}: ./gavrel help lists them`);
  }
}

/** What the machine refuses, in words that say what to do. */
const MACHINE: Readonly<Record<string, (path: string) => string>> = {
  ENOSPC: (path) => `the disk is full (${path}): free some space, then run this again`,
  EDQUOT: (path) => `the disk quota is used up (${path}): free some space, then run this again`,
  EROFS: (path) => `${path} cannot be written, it is read-only: make it writable, then run this again`,
  EACCES: (path) => `${path} may not be read or written by this user: run this as who owns the folder`,
  EPERM: (path) => `${path} may not be changed by this user: run this as who owns the folder`,
  EISDIR: (path) => `${path} is a folder: name a file in it`,
  ENOTDIR: (path) => `${path} lies in no folder: name a file in one that is there`,
  ENOENT: (path) => `${path} is not there: name what is, or make its folder first`,
  ECONNREFUSED: () => 'the database does not answer: start it, or mend DATABASE_URL',
  ENOTFOUND: () => 'the host in DATABASE_URL is not known: mend it',
  ETIMEDOUT: () => 'the database does not answer in time: start it, or mend DATABASE_URL',
};

/** One line for whoever ran it. */
function line(e: unknown): string {
  const { code, path, message, errors } = e as NodeJS.ErrnoException & { errors?: readonly NodeJS.ErrnoException[] };
  const known = MACHINE[code ?? errors?.[0]?.code ?? ''];
  if (known) return known(path ?? 'what was named');
  return message.split('\n')[0]!;
}

/** Commands whose output is all they are for. */
const FOR_OUTPUT: readonly (string | undefined)[] = ['classify', 'export', 'log', 'plan', 'practice', 'read-label'];
// Whoever reads may stop reading, as `head` does: then such a command is done, and every other one goes on without being heard.
process.stdout.on('error', (e: NodeJS.ErrnoException) => {
  if (e.code !== 'EPIPE') throw e;
  if (FOR_OUTPUT.includes(process.argv[2])) process.exit(0);
});

main(process.argv.slice(2)).catch((e: unknown) => {
  const said = e instanceof Error && (e instanceof Trouble || !process.env.GAVREL_DEBUG) ? line(e) : String((e as Error).stack);
  process.stderr.write(`gavrel: ${said}\n`);
  process.exitCode = 1;
});
