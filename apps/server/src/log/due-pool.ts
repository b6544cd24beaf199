import { Piscina } from 'piscina';
import { runnable } from '../runnable';
import type { DueTask } from './due-worker';

/** Threads for the lists of large workshops; one starts with the first of them. */
export type DuePool = Piscina<DueTask, string>;
const WORKER = runnable('apps/server/src/log/due-worker.ts');
const IDLE_MS = 60_000;
export const duePool = (): DuePool =>
  new Piscina<DueTask, string>({
    filename: WORKER.file,
    execArgv: WORKER.execArgv,
    minThreads: 0,
    maxThreads: 1,
    idleTimeout: IDLE_MS,
  });
