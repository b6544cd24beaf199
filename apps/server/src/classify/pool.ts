import { availableParallelism } from 'node:os';
import { Piscina } from 'piscina';
import { runnable } from '../runnable';
import type { ClassifyAnswer, ClassifyTask } from './worker';

/** Requests that wait for a thread; what is more is told to come again. */
const MAX_WAITING = 16;
/** How long a thread without work stays, ms. */
const IDLE_MS = 60_000;

const WORKER = runnable('apps/server/src/classify/worker.ts');

export type ClassifyPool = Piscina<ClassifyTask, ClassifyAnswer>;

/**
 * Threads that classify for other programs. One core stays with the main thread, which takes what people report; a thread starts
 * with the first request.
 */
export const classifyPool = (): ClassifyPool =>
  new Piscina<ClassifyTask, ClassifyAnswer>({
    filename: WORKER.file,
    execArgv: WORKER.execArgv,
    minThreads: 0,
    maxThreads: Math.max(1, availableParallelism() - 1),
    maxQueue: MAX_WAITING,
    idleTimeout: IDLE_MS,
  });
