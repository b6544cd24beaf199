import { groupsOf, INSTRUMENTS, type Subject, taggedId } from '@gavrel/core';
import type { SimulatedPack } from '@gavrel/core/job';
import { v5 } from 'uuid';
import { type Base, GANNET, GANNET_LATER, HARRIER } from './bases';
import { type Model, MODELS } from './models';
import type { Scribe } from './scribe';

/** What an earlier job needs of the world around it. */
export interface Hands {
  readonly scribe: Scribe;
  readonly workshop: string;
  readonly technician: string;
  readonly trained: string;
  daysAgo(days: number, hours?: number): Date;
  /** So many hours ago, but never before the workshop's last midnight. */
  today(hours: number): Date;
  tagOf(p: Subject): string;
  pack(m: Model, at: Date, use: 'removed' | 'replacement', links: readonly Subject[]): Subject;
  form(p: Subject, m: Model): void;
  simulated(m: Model, charge: number, swell?: number): SimulatedPack;
  look(p: Subject): void;
  volts(p: Subject, s: SimulatedPack): void;
  gauge(p: Subject, m: Model, s: SimulatedPack, health: number, cycles: number): void;
  find(p: Subject, code: string, note?: string): string;
  tested(p: Subject): void;
  move(p: Subject, to: string): void;
}

interface Earlier {
  readonly tag: string;
  readonly code: string;
  readonly base: Base;
  readonly days: number;
  readonly complaint: string;
  readonly swollen: boolean;
}

const JOBS: readonly Earlier[] = [
  { tag: 'N-231', code: 'MG14-B50', base: GANNET, days: 61, complaint: 'trackpad stiff', swollen: true },
  { tag: 'N-232', code: 'MG14-B50', base: GANNET, days: 47, complaint: 'lasts an hour', swollen: false },
  { tag: 'N-233', code: 'MG14-B50', base: GANNET, days: 33, complaint: 'base rocks on the table', swollen: true },
  { tag: 'N-234', code: 'TW-H14', base: HARRIER, days: 26, complaint: 'lasts half an hour', swollen: false },
  { tag: 'N-235', code: 'MG14-B50', base: GANNET_LATER, days: 19, complaint: 'lid does not close', swollen: true },
  { tag: 'N-237', code: 'TW-H14', base: HARRIER, days: 9, complaint: 'keyboard uneven', swollen: true },
];

/** One job from the door to the hand-over, as its technician wrote it. */
function earlier(w: Hands, j: Earlier): void {
  const { scribe, technician: by } = w;
  const m = MODELS.find((x) => x.code === j.code)!;
  const job: Subject = `job:${v5(`earlier ${j.tag}`, w.workshop)}`;
  const nb: Subject = `notebook:${taggedId(w.workshop, 'notebook', j.tag)}`;
  const at = w.daysAgo(j.days);
  const later = (minutes: number) => new Date(at.getTime() + minutes * 60_000);
  scribe.from(at);
  scribe.write(by, 'notebook-identified', [nb], {
    tag: j.tag,
    plate: 'read',
    maker: m.maker,
    model: m.model,
    serial: `${m.code.slice(0, 2)}${5100 + j.days * 7}`,
  });
  scribe.write(by, 'job-opened', [job, nb], { complaint: j.complaint });
  scribe.write(by, 'triaged', [job, nb], {
    lid: 'flush',
    base: j.swollen ? 'rocks' : 'steady',
    smell: 'none',
    touch: 'cool',
  });
  scribe.write(by, 'intake-noted', [job, nb], { consent: 'given', charge: 20, oldPack: 'stays here' });
  const old = w.pack(m, later(6), 'removed', [nb, job]);
  if (j.swollen) {
    w.find(old, 'swollen', 'base rocks');
    scribe.after(4).write(w.trained, 'swollen-prepared', [job, nb], { charge: 'as found' });
  }
  const opener = j.swollen ? w.trained : by;
  scribe.from(later(14)).write(opener, 'fasteners-mapped', [job, nb], j.base.fasteners);
  scribe.after(3).write(opener, 'cover-opened', [job, nb], j.base.cover);
  scribe.after(2).write(opener, 'isolated', [job, nb], {
    ...j.base.isolation,
    school: 'always',
    sources: [
      { what: 'pack', tag: w.tagOf(old), state: 'off' },
      { what: 'adapter', state: 'off' },
      { what: 'dock', state: 'none' },
    ],
  });
  if (!j.swollen) {
    w.look(old);
    w.volts(old, w.simulated(m, 16));
    w.gauge(old, m, w.simulated(m, 16), 0.52, 810);
    w.find(old, 'worn-out');
  }
  scribe.from(later(31)).write(opener, 'pack-removed', [job, nb, old], { ...j.base.removal, stuck: 'no' });
  w.form(old, m);
  w.move(old, j.swollen ? 'Quarantine box B' : 'Recycling drum 3');
  const fresh = w.pack(m, later(40), 'replacement', [nb, job]);
  w.look(fresh);
  w.volts(fresh, w.simulated(m, 28));
  w.gauge(fresh, m, w.simulated(m, 28), 0.99, 2);
  w.form(fresh, m);
  w.tested(fresh);
  scribe.write(by, 'match-decided', [old, fresh, job, nb], { old: old.slice(5), new: fresh.slice(5), verdict: 'fits' });
  scribe.after(7).write(by, 'refitted', [job, nb, fresh], {
    back: groupsOf(j.base.fasteners.screws),
    plugs: 'all, the pack last',
    clips: 'before screws',
    feet: 'back',
  });
  scribe.after(5).write(by, 'proof-taken', [job, nb], { starts: 'yes', seen: 'yes', charges: 'yes', gauge: 'yes' });
  scribe.write(by, 'handed-over', [job, nb, fresh], { oldPack: 'stays here' });
  scribe.write(by, 'job-closed', [job, nb], {});
  // What stayed behind was looked at again: a damaged one every day, from outside.
  if (j.swollen)
    scribe.from(w.daysAgo(0, 6)).write(w.trained, 'looked', [old], { groups: ['smell', 'heat', 'wet'], where: 'outside' });
  else {
    scribe.from(w.daysAgo(3));
    w.look(old);
  }
}

/** Jobs of the last weeks: what they taught stands on the sheets of their models. */
export function earlierJobs(w: Hands): void {
  for (const j of JOBS) earlier(w, j);
}

/** The workshop's own instruments, one of them past its day; those with a port talk, and `gavrel instruments` stands in for them. */
export function instruments(w: Hands, lead: string): void {
  const load = { percent: 0.1, digits: 3 };
  const own = [
    { name: 'Meter 1', measures: 'volts', accuracy: INSTRUMENTS.multimeter.accuracy, days: -210 },
    { name: 'Meter 2', measures: 'volts', accuracy: { percent: 0.05, digits: 3 }, days: 12, port: 5025, speaks: 'scpi' },
    {
      name: 'Probe 1',
      measures: 'temperature',
      accuracy: INSTRUMENTS.contactProbe.accuracy,
      days: -60,
      port: 5026,
      speaks: 'scpi',
    },
    {
      name: 'Calliper 1',
      measures: 'thickness',
      accuracy: INSTRUMENTS.calliper.accuracy,
      days: -90,
      port: 5027,
      speaks: 'lines',
    },
    { name: 'Bench scale', measures: 'mass', accuracy: INSTRUMENTS.scale.accuracy, days: -300, port: 5028, speaks: 'lines' },
    { name: 'Load 1', measures: 'discharge', accuracy: load, days: -150, port: 5029, speaks: 'scpi' },
    { name: 'Gauge reader 1', measures: 'gauge', accuracy: { percent: 1, digits: 0 }, port: 5030, speaks: 'lines' },
  ] as const;
  w.scribe.from(w.daysAgo(190));
  for (const i of own) {
    const about = [`instrument:${v5(i.name, w.workshop)}` as const];
    w.scribe.write(lead, 'instrument-added', about, {
      name: i.name,
      measures: i.measures,
      accuracy: i.accuracy,
      ...('days' in i && { calibratedUntil: w.daysAgo(i.days).toISOString().slice(0, 10) }),
    });
    if ('port' in i)
      w.scribe.write(lead, 'instrument-connected', about, { address: { host: '127.0.0.1', port: i.port, speaks: i.speaks } });
  }
}
