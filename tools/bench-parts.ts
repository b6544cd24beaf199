import { type Bodies, type Entry, isHazard, type Kind, type Subject } from '@gavrel/core';
import { v7 } from 'uuid';

export const BENCH_WORKSHOP = '55555555-5555-4555-8555-555555555555';

/** An entry of now in the measured workshop. */
export const make = <K extends Kind>(kind: K, subjects: readonly Subject[], body: Bodies[K], by: string): Entry =>
  ({
    id: v7(),
    v: 1,
    workshop: BENCH_WORKSHOP,
    subjects,
    kind,
    at: new Date().toISOString(),
    tz: 'UTC',
    by,
    device: 'bench',
    hazard: isHazard(kind),
    body,
  }) as unknown as Entry;

/** The value below which a part of the sorted ones lie. */
export const percentile = (sorted: readonly number[], p: number) =>
  sorted[Math.min(sorted.length - 1, Math.floor(sorted.length * p))]!;

/** Runs a job 100 times a second for some seconds, without waiting for one before the next; returns sorted times in ms. */
export async function atRate(seconds: number, work: (i: number) => Promise<unknown>): Promise<number[]> {
  const times: number[] = [];
  const all: Promise<void>[] = [];
  const start = performance.now();
  for (let i = 0; i < seconds * 100; i++) {
    const due = start + i * 10;
    const wait = due - performance.now();
    if (wait > 0) await new Promise((r) => setTimeout(r, wait));
    const t = performance.now();
    all.push(work(i).then(() => void times.push(performance.now() - t)));
  }
  await Promise.all(all);
  return times.sort((a, b) => a - b);
}

/** A person at a server: what a path of its interface answers, as text. */
export async function signedIn(port: number, name: string, passphrase: string): Promise<(path: string) => Promise<string>> {
  const base = `http://127.0.0.1:${port}/api`;
  const signed = await fetch(`${base}/session`, {
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify({ name, passphrase, device: 'bench' }),
  });
  const cookie = signed.headers.get('set-cookie')!.split(';')[0]!;
  return (path) => fetch(base + path, { headers: { cookie } }).then((r) => r.text());
}
