import { type ChildProcess, spawn } from 'node:child_process';
import { readFileSync } from 'node:fs';
import type { DatabaseUrls } from '@gavrel/server';
import { ROOT } from './common';
import { SERVE } from './served';

/** The server as a process of its own, which can be killed and started again. */
export class ServerProcess {
  private child: ChildProcess | null = null;
  constructor(
    private readonly urls: DatabaseUrls,
    readonly port: number,
    private readonly dist: string | null,
  ) {}

  start(): Promise<void> {
    const settings = { urls: this.urls, port: this.port, dist: this.dist, logLevel: 'silent', quota: 1e9, perMinute: 1e9 };
    const child = spawn(process.execPath, [...SERVE.execArgv, SERVE.file], {
      cwd: ROOT,
      env: { ...process.env, GAVREL_SERVE: JSON.stringify(settings) },
      stdio: ['ignore', 'pipe', 'ignore'],
    });
    this.child = child;
    return new Promise((done) => {
      child.stdout!.once('data', () => done());
      child.once('exit', () => done());
    });
  }

  /** Counts as dead at once: that it ended is noticed only later, and nobody would start it again. */
  kill(): void {
    this.child?.kill('SIGKILL');
    this.child = null;
  }

  /** The most memory it ever had resident since it was started, bytes. */
  residentAtMost(): number {
    const status = readFileSync(`/proc/${this.child!.pid}/status`, 'utf8');
    return 1024 * Number(/^VmHWM:\s+(\d+) kB$/m.exec(status)![1]);
  }

  get alive(): boolean {
    return this.child !== null && this.child.exitCode === null && this.child.signalCode === null;
  }
}
