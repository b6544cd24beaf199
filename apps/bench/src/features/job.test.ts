import { DEFAULT_POLICY, type Entry, foldJob, foldNotebook, foldPack, type LoggedEntry, withReached, DAY_MS } from '@gavrel/core';
import { shrunkSize } from '../device/picture';
import type { RootState } from '../state';
import { viewOf } from '../stock/job-state';
import { reportOf } from './job/report-key';

const W = 'w';
const AROUND = { zone: 'UTC', workshop: '7e2f9a54-0c1d-4a58-9a63-2d6f5b7c8e10', trained: ['tomas'] };
const LOOKS = ['shape', 'smell', 'heat', 'wet', 'mechanical', 'electrical'];
const iso = (daysAgo: number) => new Date(Date.now() - daysAgo * DAY_MS).toISOString();

let n = 0;
const entry = (kind: string, subjects: readonly string[], body: object, daysAgo: number, by = 'wren') => {
  n += 1;
  const at = iso(daysAgo - n * 1e-6);
  const hazard = kind === 'finding-recorded';
  const id = `c0000000-0000-4000-8000-${String(n).padStart(12, '0')}`;
  return {
    id,
    v: 1,
    workshop: W,
    subjects,
    kind,
    at,
    tz: 'UTC',
    by,
    device: 'd',
    hazard,
    body,
    seq: n,
    recordedAt: at,
    effectiveAt: at,
  };
};

/** A job of the invented model with one pack, some days ago. */
function job(tag: string, daysAgo: number, swollen: boolean, close = true) {
  const [j, nb, p] = [`job:${tag}`, `notebook:${tag}`, `pack:${tag}`];
  return [
    entry('notebook-identified', [nb], { tag, plate: 'read', maker: 'Mereline', model: 'Gannet 14' }, daysAgo),
    entry('job-opened', [j, nb], { complaint: 'lid does not close' }, daysAgo),
    entry('triaged', [nb], { lid: 'flush', base: swollen ? 'rocks' : 'steady', smell: 'none', touch: 'cool' }, daysAgo),
    entry('pack-added', [p, nb, j], { tag: `P-${tag}`, use: 'removed' }, daysAgo),
    entry('label-read', [p], { typeCode: 'MG14-B50', madeOn: '2021' }, daysAgo),
    entry('looked', [p], { groups: LOOKS }, daysAgo),
    entry('reading-taken', [p], { quantity: 'pack-voltage', figure: { digits: '11.40', unit: 'V' }, restMinutes: 200 }, daysAgo),
    ...(swollen ? [entry('finding-recorded', [nb], { code: 'swollen', note: 'base rocks' }, daysAgo)] : []),
    entry('cover-opened', [j, nb], { tool: 'plastic' }, daysAgo),
    ...(close ? [entry('job-closed', [j, nb], {}, daysAgo)] : []),
  ];
}

/** What a device holds of these jobs. */
function logbook(...jobs: ReturnType<typeof job>[]): RootState['logbook'] {
  const all = jobs.flat() as unknown as LoggedEntry[];
  const of = (s: string) => all.filter((e) => (e as Entry).subjects.includes(s as 'job:'));
  const ids = (type: string) =>
    [...new Set(all.flatMap((e) => e.subjects))].filter((s) => s.startsWith(`${type}:`)).map((s) => s.slice(type.length + 1));
  const folded = <T>(type: string, fold: (id: string, list: readonly LoggedEntry[]) => T | null) =>
    Object.fromEntries(ids(type).map((id) => [id, fold(id, of(`${type}:${id}`))!]));
  return {
    packs: folded('pack', (id, list) => foldPack(id, withReached(list, of))),
    jobs: folded('job', foldJob),
    notebooks: folded('notebook', foldNotebook),
    sheets: {},
    policy: DEFAULT_POLICY,
  } as unknown as RootState['logbook'];
}

describe('what jobs taught', () => {
  const book = logbook(job('A', 90, true), job('B', 60, false), job('C', 0, false, false));
  const view = viewOf(book, 'C', AROUND)!;
  test('counts what came in swollen as it was judged when its job closed, not as its looks aged', () => {
    expect([view.sheet!.jobs, view.sheet!.swollen, view.sheet!.judged]).toEqual([2, 1, 2]);
  });
  test('a model nobody had here teaches nothing', () => {
    expect(viewOf(logbook(job('A', 1, true)), 'A', AROUND)!.sheet).toBeNull();
  });
});

describe('the owner’s page', () => {
  const page = (swollen: boolean) => {
    const paper = reportOf(viewOf(logbook(job('A', 0, swollen)), 'A', AROUND)!, 'Tern Harbour Repair', 'Bo', '2026-11-25');
    return [...paper.sections.flatMap((s) => s.lines), paper.foot].join('\n');
  };
  test('a swollen pack: what was seen, and that it must not be charged or used', () => {
    expect(page(true)).toMatch(/Seen on the machine: swollen, base rocks\.[^]*damaged[^]*must not be charged or used/);
  });
  test.each([true, false])('never says that a pack is safe (swollen: %s)', (swollen) => {
    expect(page(swollen)).toContain('does not state that a pack is safe');
    expect(page(swollen).replace('does not state that a pack is safe', '')).not.toMatch(/\bsafe\b/);
  });
});

test.each([
  [4000, 3000, [1600, 1200]],
  [900, 4800, [300, 1600]],
  [800, 600, [800, 600]],
  [20_000, 3, [1600, 1]],
] as const)('a picture of %s x %s px becomes %j', (w, h, want) => expect(shrunkSize(w, h)).toEqual(want));
