import { runnable } from '@gavrel/server/runnable';

/** The program of the server that `start` runs. */
export const SERVE = runnable('tools/serve.ts');
