/** The server process that `start` and `torture` run: reads its settings as JSON from the environment, says its port on stdout. */
import { spawn } from 'node:child_process';
import { start } from '@gavrel/server';
import { runnable } from '@gavrel/server/runnable';

const settings = JSON.parse(process.env.GAVREL_SERVE ?? 'null') as Parameters<typeof start>[0] | null;
if (!settings) throw new Error('started by ./gavrel, not by hand');
const running = await start(settings);

// Once an hour: has the day its copy? A process of its own makes it; this one has no right to read past row security.
const cli = runnable('tools/cli.ts');
const copy = () => void spawn(process.execPath, [...cli.execArgv, cli.file, 'backup', '--auto'], { stdio: 'ignore' });
if (settings.backups) {
  setTimeout(copy, 60_000).unref();
  setInterval(copy, 3_600_000).unref();
}

process.stdout.write(`port ${running.port}\n`);
const stop = () => void running.stop().finally(() => process.exit(0));
process.on('SIGTERM', stop);
process.on('SIGINT', stop);
