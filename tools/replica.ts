import { join } from 'node:path';
import { Trouble } from './common';
import { type Cluster, type ClusterOptions, lastLine, owned, run, runCluster, sql } from './postgres';

/** A streaming copy of a running cluster, in a folder of its own: it answers who reads, and can take over. */
export async function startReplica(of: Cluster, folder: string, options: ClusterOptions): Promise<Cluster> {
  const data = join(folder, 'data');
  owned(folder);
  const from = ['-h', '127.0.0.1', '-p', String(of.port), '-U', 'super'];
  const copied = run('pg_basebackup', [...from, '-D', data, '-R', '-X', 'stream', '-c', 'fast'], of.passwords.super);
  if (!copied.ok) throw new Trouble(`the database could not be copied: ${lastLine(copied.text)}`);
  return runCluster({ folder, port: 0, passwords: of.passwords }, options);
}

/** From now on nothing counts as stored before a replica has it too. */
export async function waitForReplica(of: Cluster): Promise<void> {
  sql(of, 'postgres', `alter system set synchronous_standby_names = '*'`);
  sql(of, 'postgres', 'select pg_reload_conf()');
  const until = Date.now() + 20_000;
  while (sql(of, 'postgres', `select count(*) from pg_stat_replication where sync_state = 'sync'`) !== '1') {
    if (Date.now() > until) throw new Trouble('the replica did not follow');
    await new Promise((r) => setTimeout(r, 100));
  }
}

/** The copy takes over: it accepts what is written from here on. */
export function promote(c: Cluster): void {
  const r = run('pg_ctl', ['promote', '-w', '-t', '30', '-D', join(c.folder, 'data')]);
  if (!r.ok) throw new Trouble(`the replica could not take over: ${lastLine(r.text)}`);
}
