import { readdir, stat } from 'node:fs/promises';
import { join } from 'node:path';
import type { BackupResponse } from '@gavrel/contract';

/** The newest copy in the folder; null where there is none, or nobody makes them here. */
export async function newestCopy(folder: string | null): Promise<BackupResponse> {
  if (folder === null) return { automatic: false, newest: null };
  const names = (await readdir(folder).catch(() => [])).filter((n) => n.endsWith('.dump'));
  const stats = await Promise.all(names.map((n) => stat(join(folder, n))));
  const newest = stats.sort((a, b) => b.mtimeMs - a.mtimeMs)[0];
  return { automatic: true, newest: newest ? { at: newest.mtime.toISOString(), bytes: newest.size } : null };
}
