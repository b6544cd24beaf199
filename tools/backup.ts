import { existsSync, mkdirSync, readdirSync, renameSync, rmSync, statSync } from 'node:fs';
import { join } from 'node:path';
import { Trouble } from './common';
import { admin, type Cluster, dataFolder, databaseExists, dropDatabase, makeDatabase, sql } from './postgres';
import { isSealed, manifestOf, seal, unseal, writeManifest } from './seal';
import { give } from './user';

/** Copies made by themselves that are kept: two weeks of days. */
const KEPT = 14;

export const backupFolder = (): string => {
  const folder = join(dataFolder(), 'backups');
  mkdirSync(folder, { recursive: true, mode: 0o700 });
  give(folder);
  return folder;
};

/** Asks a database that came from outside, as who owns its tables: what a tampered one would run, runs with no right beyond them. */
const asked = (c: Cluster, database: string, question: string): string =>
  sql(
    c,
    database,
    `\\o /dev/null\nselect set_config('gavrel.workshop', (select id::text from workshops limit 1), false);\n\\o\n${question}`,
    'owner',
  );

/** What a copy must hold to be one: entries, the highest number given, people, pictures. */
function counts(c: Cluster, database: string): string {
  return asked(
    c,
    database,
    `select (select count(*) from entries) || ' entries, last ' || (select coalesce(max(last_seq), 0) from workshops)
       || ', ' || (select count(*) from people) || ' people, ' || (select count(*) from blobs) || ' pictures'`,
  );
}

/** Is every number of the log there, without a gap? */
function whole(c: Cluster, database: string): boolean {
  const gaps = asked(
    c,
    database,
    `select count(*) from workshops w where w.last_seq <> (select count(*) from entries e where e.workshop_id = w.id)
       or w.last_seq <> (select coalesce(max(seq), 0) from entries e where e.workshop_id = w.id)`,
  );
  return gaps === '0';
}

const scratchName = () => `gavrel_check_${process.pid}_${Date.now() % 1_000_000}`;

/** Reads a copy into a database of its own, with the rights of who owns its tables and none of the cluster's. @throws Trouble when it is none, or not whole. */
function readInto(c: Cluster, file: string, database: string): string {
  makeDatabase(c, database);
  try {
    const how = ['--exit-on-error', '--single-transaction', '--no-password', '--no-owner'];
    admin(c, 'pg_restore', [...how, '-d', database, file], { as: 'owner' });
    if (!whole(c, database)) throw new Trouble('the log in it has gaps');
    return counts(c, database);
  } catch (e) {
    dropDatabase(c, database);
    throw new Trouble(`${file} is not a whole copy: ${(e as Error).message.split('\n')[0]}`);
  }
}

/**
 * Copies a database into a file and reads the copy back before it gets its name: a copy nobody has read is none. Never writes over a
 * file.
 * @returns what is in it.
 */
export function backup(c: Cluster, database: string, file: string): string {
  if (existsSync(file)) throw new Trouble(`${file} exists already: name another file`);
  const part = `${file}.part`;
  rmSync(part, { force: true });
  // Names, pictures and hashes of secrets are in it: for its owner's eyes.
  const old = process.umask(0o077);
  try {
    admin(c, 'pg_dump', ['--format=custom', '--no-password', '-f', part, '-d', database]);
    const scratch = scratchName();
    const said = readInto(c, part, scratch);
    dropDatabase(c, scratch);
    renameSync(part, file);
    return said;
  } finally {
    process.umask(old);
    rmSync(part, { force: true });
  }
}

/**
 * Puts a copy in the place of a database: it is read and checked beside it first, what was there is copied before, and the names are
 * changed over last.
 * @returns what is in it now, and where what was there went.
 */
export function restore(c: Cluster, file: string, database: string, replace: boolean): { said: string; before: string | null } {
  if (!existsSync(file)) throw new Trouble(`there is no file ${file}`);
  const there = databaseExists(c, database);
  const holds =
    there &&
    sql(c, database, "select to_regclass('workshops') is not null") === 't' &&
    asked(c, database, 'select count(*) from entries') !== '0';
  if (holds && !replace)
    throw new Trouble(
      'there is a logbook here already: add --replace to put the copy in its place (what is here is copied first)',
    );
  const fresh = scratchName();
  const said = readInto(c, file, fresh);
  let before: string | null = null;
  if (holds) {
    before = join(backupFolder(), `before-restore-${stamp(new Date())}.dump`);
    backup(c, database, before);
  }
  dropDatabase(c, database);
  sql(c, 'postgres', `alter database ${fresh} rename to ${database}`);
  return { said, before };
}

const stamp = (at: Date) => at.toISOString().replace(/[-:]/g, '').slice(0, 15);

/** The day's copy, unless there is one; older ones than two weeks go. @returns the file, or null when it was there. */
export async function daily(c: Cluster, database: string, now: Date): Promise<string | null> {
  const folder = backupFolder();
  const mine = () =>
    readdirSync(folder)
      .filter((f) => f.startsWith(`${database}-`) && f.endsWith('.dump'))
      .sort();
  const newest = mine().pop();
  if (newest && now.getTime() - statSync(join(folder, newest)).mtimeMs < 23 * 3_600_000) return null;
  const file = join(folder, `${database}-${stamp(now)}.dump`);
  await writeManifest(file, database, backup(c, database, file));
  for (const old of mine().slice(0, -KEPT))
    for (const f of [join(folder, old), manifestOf(join(folder, old))]) rmSync(f, { force: true });
  return file;
}

/** A folder's file that is gone afterwards, whatever happens. */
async function through<T>(work: (plain: string) => Promise<T>): Promise<T> {
  const plain = join(backupFolder(), `.open-${process.pid}`);
  rmSync(plain, { force: true });
  try {
    return await work(plain);
  } finally {
    rmSync(plain, { force: true });
  }
}

/** A copy to take away, with its manifest; behind a passphrase, where one is given. @returns what is in it. */
export async function copyTo(c: Cluster, database: string, file: string, passphrase: string | null): Promise<string> {
  if (existsSync(file)) throw new Trouble(`${file} exists already: name another file`);
  const said =
    passphrase === null
      ? backup(c, database, file)
      : await through(async (plain) => {
          const holds = backup(c, database, plain);
          await seal(plain, file, passphrase);
          return holds;
        });
  await writeManifest(file, database, said);
  return said;
}

/** Puts a copy in place that may lie behind a passphrase. */
export async function restoreCopy(
  c: Cluster,
  file: string,
  database: string,
  { replace, passphrase }: { readonly replace: boolean; readonly passphrase: string | null },
): Promise<ReturnType<typeof restore>> {
  if (!isSealed(file)) return restore(c, file, database, replace);
  if (passphrase === null)
    throw new Trouble(`${file} lies behind a passphrase: write it into a file and add --passphrase-file THAT-FILE`);
  return through(async (plain) => {
    await unseal(file, plain, passphrase);
    return restore(c, plain, database, replace);
  });
}
