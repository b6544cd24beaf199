/** The server process that `start` and `torture` run: reads its settings as JSON from the environment, says its port on stdout. */
import { start } from '@gavrel/server';

const settings = JSON.parse(process.env.GAVREL_SERVE ?? 'null') as Parameters<typeof start>[0] | null;
if (!settings) throw new Error('started by ./gavrel, not by hand');
const running = await start(settings);
process.stdout.write(`port ${running.port}\n`);
const stop = () => void running.stop().finally(() => process.exit(0));
process.on('SIGTERM', stop);
process.on('SIGINT', stop);
