import { join } from 'node:path';
import { createInterface } from 'node:readline/promises';
import type { DatabaseUrls } from '@gavrel/server';
import type { Knex } from 'knex';
import { backup, backupFolder } from './backup';
import { say, Trouble } from './common';
import { type Cluster, databaseExists, dataFolder, knownCluster, makeDatabase, startCluster } from './postgres';
import { readState, remembered } from './state';

export const DATABASE = { demo: 'gavrel_demo', own: 'gavrel_own' } as const;
/** Which world is meant: said, remembered, the only one here, or asked for. */
export async function chooseMode(args: readonly string[]): Promise<'demo' | 'own'> {
  if (args.includes('--demo')) return 'demo';
  // Nobody wants demo people in a database they keep elsewhere.
  if (args.includes('--own') || foreignDatabase()) return 'own';
  const { state, lost } = remembered();
  if (lost) say(`${lost}: going on with what the machine still knows`);
  if (state.mode) return state.mode;
  const here = await worldsHere();
  if (here.length === 1) return here[0]!;
  if (!process.stdin.isTTY) {
    if (here.length === 0) return 'demo';
    throw new Trouble(
      'both the demo world and a workshop of your own are here: say which, ./gavrel start --own or ./gavrel start --demo',
    );
  }
  const ask = createInterface({ input: process.stdin, output: process.stdout });
  const given = await ask.question('Start with the demo world, or with your own empty workshop? [demo/own] ');
  ask.close();
  return given.trim().toLowerCase().startsWith('o') ? 'own' : 'demo';
}

export const postgresFolder = () => join(dataFolder(), 'postgres');

/** The worlds whose databases are here, where nothing remembers which one is in use. */
async function worldsHere(): Promise<('demo' | 'own')[]> {
  if (knownCluster(postgresFolder()) === null) return [];
  const c = await cluster();
  return (['demo', 'own'] as const).filter((w) => databaseExists(c, DATABASE[w]));
}

export const cluster = (): Promise<Cluster> => startCluster(postgresFolder());

/** Does some work over a connection of the owner of the tables, and closes it. */
export async function withOwner<T>(urls: DatabaseUrls, work: (db: Knex) => Promise<T>): Promise<T> {
  const { connect } = await import('@gavrel/server/store');
  const db = connect(urls.owner, 2);
  try {
    return await work(db);
  } finally {
    await db.destroy();
  }
}

/** A PostgreSQL of one's own choice instead of the private one: its owner migrates, its application role serves. */
export function foreignDatabase(): DatabaseUrls | null {
  const { DATABASE_URL: owner, DATABASE_APP_URL: app } = process.env;
  if (!owner) return null;
  if (!app) throw new Trouble('DATABASE_URL needs DATABASE_APP_URL beside it, for the role gavrel_app: see docs/operating.md');
  return { owner, app };
}

/** Makes the world's database where there is none, brings it up to date, and fills a new one. */
export async function prepare(mode: 'demo' | 'own'): Promise<DatabaseUrls> {
  const foreign = foreignDatabase();
  const c = foreign ? null : await cluster();
  const urls = foreign ?? makeDatabase(c!, DATABASE[mode]);
  const { migrate, MIGRATION_NAMES, pending } = await import('@gavrel/server/store');
  await withOwner(urls, async (db) => {
    const waiting = await pending(db);
    if (c && waiting.length > 0 && waiting.length < MIGRATION_NAMES.length) {
      const file = join(backupFolder(), `before-${waiting[0]}-${Date.now()}.dump`);
      say(`${backup(c, DATABASE[mode], file)} copied to ${file} before the database is changed`);
    }
    await migrate(db);
    if (await db('workshops').first()) return;
    if (mode === 'demo') await (await import('./demo/world')).seedDemo(db, urls, new Date());
    else await (await import('./own')).makeOwn(db, say);
  });
  return urls;
}

/** The database of the mode in use, or the foreign one; another one is never touched. */
export async function current(): Promise<DatabaseUrls> {
  const foreign = foreignDatabase();
  if (foreign) return foreign;
  const { mode } = readState();
  if (!mode) throw new Trouble('nothing to work on yet: run ./gavrel start first');
  return makeDatabase(await cluster(), DATABASE[mode]);
}

/** @throws Trouble when the database in use is somebody else's. */
export function ownOnly(instead: string): void {
  if (foreignDatabase()) throw new Trouble(`DATABASE_URL names a database that is not ours to copy or replace: ${instead}`);
}

/** `--auto` is the day's copy, as the server asks for it. */
