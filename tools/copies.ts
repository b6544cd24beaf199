import { once } from 'node:events';
import { createReadStream, createWriteStream, existsSync, readFileSync, renameSync, rmSync, statSync } from 'node:fs';
import { dirname } from 'node:path';
import { copyTo, daily, restoreCopy } from './backup';
import { fileGiven, option, say, Trouble } from './common';
import { makeDatabase } from './postgres';
import { checkManifest, manifestOf } from './seal';
import { readState, serverAlive, writeState } from './state';
import { cluster, current, DATABASE, foreignDatabase, ownOnly, withOwner } from './worlds';

/** The file a command was given, from the folder it was given in. @throws Trouble where none is named. */
function fileArgument(args: readonly string[], what: string): string {
  const file = args[1];
  if (!file || file.startsWith('--')) throw new Trouble(`name the file: ./gavrel ${what} FILE`);
  return fileGiven(file);
}

/** The same for a file that is read. @throws Trouble where it is not there. */
function oldFileArgument(args: readonly string[], what: string): string {
  const file = fileArgument(args, what);
  if (!existsSync(file)) throw new Trouble(`there is no file ${args[1]}`);
  return file;
}

/** The same for a file that is to be made. @throws Trouble where it is there already, or its folder is not. */
function newFileArgument(args: readonly string[], what: string): string {
  const file = fileArgument(args, what);
  const folder = dirname(file);
  if (!statSync(folder, { throwIfNoEntry: false })?.isDirectory())
    throw new Trouble(`there is no folder ${folder}: make it, or name another`);
  if (existsSync(file)) throw new Trouble(`${file} exists already: name another file`);
  return file;
}

/** Writes the logbook to a new file, JSON Lines in canonical form. @throws Trouble where the file is there already. */
export async function exportTo(args: readonly string[]): Promise<void> {
  const file = newFileArgument(args, 'export');
  const urls = await current();
  const part = `${file}.part`;
  const out = createWriteStream(part, { flags: 'w', mode: 0o600 });
  // Told where it is waited for: nobody else hears it.
  out.on('error', () => undefined);
  await once(out, 'open');
  const { exportLog, theWorkshop } = await import('@gavrel/server');
  let count: number;
  try {
    count = await withOwner(urls, async (db) => {
      const { id, name, zone } = await theWorkshop(db);
      return exportLog(db, { id, name, zone }, out);
    });
    await new Promise<void>((done, failed) => out.end((e?: Error | null) => (e ? failed(e) : done())));
  } catch (e) {
    rmSync(part, { force: true });
    throw e;
  }
  renameSync(part, file);
  say(`${count} entries written to ${file}`);
}

/** Reads an exported logbook into an empty installation. @throws Trouble where there is no such file. */
export async function importFrom(args: readonly string[]): Promise<void> {
  const file = oldFileArgument(args, 'import');
  const urls = foreignDatabase() ?? makeDatabase(await cluster(), DATABASE.own);
  const { importLog, migrate } = await import('@gavrel/server');
  const { makeOwn } = await import('./own');
  const count = await withOwner(urls, async (db) => {
    await migrate(db);
    const n = await importLog(db, createReadStream(file), new Date());
    await makeOwn(db, say);
    return n;
  });
  if (!foreignDatabase()) writeState({ mode: 'own' });
  say(`${count} entries read; ./gavrel start shows them`);
}

/** Copies the database in use and reads the copy back; with `--auto` the day's own copy. @throws Trouble where there is nothing to copy. */
export async function backupTo(args: readonly string[]): Promise<void> {
  const { mode } = readState();
  if (!mode) throw new Trouble('nothing to copy yet: run ./gavrel start first');
  ownOnly('use what comes with it, or ./gavrel export');
  const c = await cluster();
  if (args.includes('--auto')) return say((await daily(c, DATABASE[mode], new Date())) ?? 'the day has its copy');
  const file = newFileArgument(args, 'backup');
  say(`${await copyTo(c, DATABASE[mode], file, passphraseOf(args))}: written to ${file} and read back`);
  say(`what it is stands in ${manifestOf(file)}: keep both`);
}

/** The passphrase of a copy: the first line of a file, since what stands on a command line others read. */
function passphraseOf(args: readonly string[]): string | null {
  const named = option(args, 'passphrase-file');
  if (named === undefined) return null;
  const file = fileGiven(named);
  if (named === '' || !existsSync(file)) throw new Trouble(`there is no file ${named || 'named after --passphrase-file'}`);
  const passphrase = readFileSync(file, 'utf8').split('\n')[0]!.trim();
  if (passphrase.length < 12) throw new Trouble(`the passphrase in ${file} is shorter than 12 characters: take four words`);
  return passphrase;
}

/** Puts a copy in place of the database in use, which is copied before. @throws Trouble while the server runs. */
export async function restoreFrom(args: readonly string[]): Promise<void> {
  ownOnly('use what comes with it, or ./gavrel import');
  const file = oldFileArgument(args, 'restore');
  const { pid, mode = 'own' } = readState();
  if (serverAlive(pid)) throw new Trouble('the server runs: ./gavrel stop first, so that nothing is written meanwhile');
  say(await checkManifest(file));
  const how = { replace: args.includes('--replace'), passphrase: passphraseOf(args) };
  const { said, before } = await restoreCopy(await cluster(), file, DATABASE[mode], how);
  writeState({ mode });
  if (before) say(`what was here is in ${before}`);
  say(`${said}: put in place; ./gavrel start shows it`);
}

/** Makes every table anew from the log, and says what differed; ends with 1 where something did. */
export async function rebuildAll(): Promise<void> {
  const urls = await current();
  const { rebuild, theWorkshop } = await import('@gavrel/server');
  const r = await withOwner(urls, async (db) => {
    const w = await theWorkshop(db);
    return rebuild(db, { workshop: w.id, zone: w.zone, now: new Date() });
  });
  say(
    `${r.entries} entries replayed into ${r.subjects} subjects; ${r.drift.length === 0 ? 'nothing differed' : `differed: ${r.drift.join(', ')}`}`,
  );
  if (r.drift.length > 0) process.exitCode = 1;
}
