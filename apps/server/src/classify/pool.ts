import { availableParallelism } from 'node:os';
import { join } from 'node:path';
import { Piscina } from 'piscina';
import type { ClassifyAnswer, ClassifyTask } from './worker';

/** Requests that wait for a thread; what is more is told to come again. */
const MAX_WAITING = 16;
/** How long a thread without work stays, ms. */
const IDLE_MS = 60_000;

export type ClassifyPool = Piscina<ClassifyTask, ClassifyAnswer>;

/**
 * Threads that classify for other programs. One core stays with the main thread, which takes what people report; a thread starts
 * with the first request and runs TypeScript as the server itself does.
 */
export const classifyPool = (): ClassifyPool =>
  new Piscina<ClassifyTask, ClassifyAnswer>({
    filename: join(process.cwd(), 'apps/server/src/classify/worker.ts'),
    execArgv: ['--import', 'tsx'],
    minThreads: 0,
    maxThreads: Math.max(1, availableParallelism() - 1),
    maxQueue: MAX_WAITING,
    idleTimeout: IDLE_MS,
  });
