import {
  type CurveKey,
  curvesOf,
  type Entry,
  figure,
  INSTRUMENTS,
  LOOK_GROUPS,
  natureOf,
  type Subject,
  taggedId,
} from '@gavrel/core';
import { calliper, cellVolts, plugVolts, type SimulatedPack } from '@gavrel/core/job';
import { addPerson, connect, type DatabaseUrls, inWorkshop, theWorkshop } from '@gavrel/server';
import { Writer } from '@gavrel/server/writer';
import type { Knex } from 'knex';
import { v5 } from 'uuid';
import { seeded } from '../common';
import { GANNET } from './bases';
import { dispatched, notice } from './dispatch';
import { describedYard } from './yard';
import { earlierJobs, type Hands, instruments } from './earlier';
import { modelAt, type Model, spareAt } from './models';
import { DEMO_WORKSHOP, PEOPLE } from './people';
import { Scribe } from './scribe';

const [INES, WREN, TOMAS, ODO] = PEOPLE.map((p) => p.id) as [string, string, string, string];

const MIN = 60_000;
const HOUR = 60 * MIN;
const DAY = 24 * HOUR;

const PLACES = [
  ['Intake shelf', 'intake', ['unproven', 'sound', 'spent']],
  ['Bench 1', 'bench', ['sound', 'spent', 'unproven']],
  ['Bench 2', 'bench', ['sound', 'spent', 'unproven']],
  ['Spares cabinet', 'cabinet', ['sound']],
  ['Quarantine box A', 'quarantine', ['damaged', 'unproven']],
  ['Quarantine box B', 'quarantine', ['damaged', 'unproven']],
  ['Recycling drum 3', 'drum', ['spent']],
  ['Yard, steel bin', 'outdoors', ['damaged', 'critical']],
] as const;

export const POINTS = ['centre', 'front-left', 'front-right', 'rear-left', 'rear-right'] as const;

/** Builds the entries of the demo, relative to `now`. */
class World implements Hands {
  private readonly random = seeded(20260412);
  readonly scribe = new Scribe(DEMO_WORKSHOP.id, this.random);
  readonly workshop = DEMO_WORKSHOP.id;
  readonly technician = WREN;
  readonly trained = TOMAS;
  private readonly tags = new Map<Subject, string>();

  constructor(private readonly now: Date) {}

  private ago(ms: number): Date {
    return new Date(this.now.getTime() - ms);
  }

  daysAgo(days: number, hours = 0): Date {
    return this.ago(days * DAY + hours * HOUR);
  }

  today(hours: number): Date {
    const clock = new Intl.DateTimeFormat('en-GB', {
      timeZone: DEMO_WORKSHOP.zone,
      hour: '2-digit',
      minute: '2-digit',
      hourCycle: 'h23',
    });
    const [h, m] = clock.format(this.now).split(':').map(Number) as [number, number];
    return this.ago(Math.min(hours * HOUR, ((h * 60 + m) * MIN) / 2));
  }

  tagOf(p: Subject): string {
    return this.tags.get(p)!;
  }

  private place(name: string): Subject {
    return `place:${taggedId(DEMO_WORKSHOP.id, 'place', name)}`;
  }

  setting(): void {
    const policy: Subject = `policy:${DEMO_WORKSHOP.id}`;
    this.scribe.from(this.ago(200 * DAY));
    this.scribe.write(INES, 'site-card-set', [policy], {
      emergencyNumber: '112',
      assemblyPoint: 'slipway, by the red crane',
      callFirst: 'Ines Korvald, inner line 21',
    });
    for (const [name, kind, holds] of PLACES)
      this.scribe.write(INES, 'place-added', [this.place(name)], { name, kind, holds: [...holds] });
  }

  private curve(m: Model): CurveKey {
    const nature = natureOf({
      nominalVoltage: { digits: m.volts, unit: 'V' },
      ...(m.limit && { limitedChargeVoltage: { digits: m.limit, unit: 'V' as const } }),
    });
    return curvesOf(nature.family)[0] ?? 'LCO_4.20';
  }

  private label(m: Model): Parameters<Scribe['write']>[3] {
    return {
      chemistry: 'li-ion',
      typeCode: m.code,
      nominalVoltage: { digits: m.volts, unit: 'V' },
      ratedCapacity: { digits: m.mAh, unit: 'mAh' },
      ...(m.wattHours && { ratedEnergy: { digits: m.wattHours, unit: 'Wh' } }),
      ...(m.limit && { limitedChargeVoltage: { digits: m.limit, unit: 'V' } }),
      ...(m.designation && { designation: m.designation }),
      ...(m.parallel > 1 && { parallel: m.parallel }),
      madeOn: m.made,
      energyMarked: m.wattHours !== null,
    } as Parameters<Scribe['write']>[3];
  }

  /** A pack with its label, by one technician, at one time. */
  pack(m: Model, at: Date, use: 'removed' | 'replacement' | 'spare', links: readonly Subject[] = [], by = WREN): Subject {
    const tag = `TH-${101 + this.tags.size}`;
    const p: Subject = `pack:${taggedId(DEMO_WORKSHOP.id, 'pack', tag)}`;
    this.tags.set(p, tag);
    this.scribe.from(at);
    this.scribe.write(by, 'pack-added', [p, ...links], { tag, use, slot: 'internal' });
    this.scribe.write(by, 'label-read', [p], this.label(m) as never);
    return p;
  }

  simulated(m: Model, charge: number, swell = 0, spread = 0): SimulatedPack {
    const t0 = Number(m.thick);
    const thickness = Object.fromEntries(POINTS.map((p) => [p, t0 * (1 + (p === 'centre' ? swell : swell * 0.6) / 100)]));
    return {
      series: m.series,
      curve: this.curve(m),
      charges: Array.from({ length: m.series }, (_, i) => charge - (i === 0 ? spread : 0)),
      thickness,
    };
  }

  look(p: Subject, groups: readonly (typeof LOOK_GROUPS)[number][] = LOOK_GROUPS, by = WREN): void {
    this.scribe.write(by, 'looked', [p], { groups: [...groups] });
  }

  volts(p: Subject, s: SimulatedPack, restMinutes = 180): void {
    this.scribe.write(WREN, 'reading-taken', [p], {
      quantity: 'pack-voltage',
      figure: plugVolts(s, (this.random() - 0.5) * 0.01),
      instrument: INSTRUMENTS.multimeter,
      restMinutes,
      flow: 'unknown',
    });
  }

  gauge(p: Subject, m: Model, s: SimulatedPack, health: number, cycles: number): void {
    const design = Number(m.mAh);
    const full = Math.round(design * health);
    const soc = s.charges[s.charges.length - 1]! / 100;
    this.scribe.write(WREN, 'gauge-read', [p], {
      designCapacity: { digits: String(design), unit: 'mAh' },
      fullChargeCapacity: { digits: String(full), unit: 'mAh' },
      remainingCapacity: { digits: String(Math.round(full * soc)), unit: 'mAh' },
      maxError: 2,
      cycleCount: cycles,
      cellVoltages: cellVolts(s).map((v) => figure(v, 'V', 3)),
    });
  }

  thickness(p: Subject, m: Model, s: SimulatedPack, points: readonly string[] = POINTS): void {
    this.scribe.write(WREN, 'reading-taken', [p], {
      quantity: 'new-thickness',
      figure: { digits: m.thick, unit: 'mm' },
      source: 'data-sheet',
    });
    for (const point of points) {
      this.scribe.write(WREN, 'reading-taken', [p], {
        quantity: 'thickness',
        point,
        figure: calliper(s, point, (this.random() - 0.5) * 0.01),
        instrument: INSTRUMENTS.calliper,
      });
    }
  }

  form(p: Subject, m: Model): void {
    this.scribe.write(WREN, 'form-noted', [p], {
      length: { digits: m.length, unit: 'mm' },
      width: { digits: m.width, unit: 'mm' },
      thickness: { digits: m.thick, unit: 'mm' },
      connector: m.connector,
      ears: m.ears,
      cable: m.connector === 'blade dock' ? 'without' : 'with it',
    });
  }

  weigh(p: Subject, m: Model): void {
    this.scribe.write(WREN, 'reading-taken', [p], {
      quantity: 'mass',
      figure: { digits: m.kg, unit: 'kg' },
      instrument: INSTRUMENTS.scale,
    });
  }

  find(p: Subject, code: string, note?: string, dwellHours?: number): string {
    return this.scribe.write(WREN, 'finding-recorded', [p], {
      code,
      ...(note && { note }),
      ...(dwellHours !== undefined && { dwellHours }),
    });
  }

  tested(p: Subject): void {
    this.scribe.write(WREN, 'evidence-stated', [p], { typeTested: 'yes' });
  }

  move(p: Subject, to: string): void {
    this.scribe.write(WREN, 'moved', [p, this.place(to)], {});
  }

  /** Sound packs on the shelf of spares. */
  spares(): void {
    for (let i = 0; i < 16; i++) {
      const m = spareAt(i);
      const at = this.ago((1 + (i % 6)) * DAY + i * 11 * MIN);
      const p = this.pack(m, at, i % 3 === 0 ? 'replacement' : 'spare');
      const s = this.simulated(m, i % 4 === 1 ? 52 : 22 + i * 0.4, 0.8);
      this.look(p);
      this.volts(p, s);
      this.gauge(p, m, s, 0.99 - i * 0.006, 4 + i * 9);
      if (i % 2 === 0) this.thickness(p, m, s);
      this.weigh(p, m);
      if (i % 5 !== 3) this.tested(p);
      this.move(p, 'Spares cabinet');
    }
  }

  /** Worn-out ones for the drum. */
  spent(): Subject[] {
    const out: Subject[] = [];
    for (let i = 0; i < 14; i++) {
      const m = modelAt(i);
      const p = this.pack(m, this.ago((2 + i) * DAY), 'removed');
      const s = this.simulated(m, 18, 2);
      this.look(p);
      this.volts(p, s);
      this.gauge(p, m, s, 0.61 - i * 0.011, 620 + i * 31);
      this.weigh(p, m);
      this.find(p, i % 3 === 2 ? 'unwanted' : 'worn-out');
      this.scribe.write(WREN, 'intended', [p], { purpose: 'recycling' });
      this.move(p, 'Recycling drum 3');
      out.push(p);
    }
    return out;
  }

  /** A look from outside that found nothing, some hours ago. */
  private quiet(p: Subject, ago: number): void {
    this.scribe.from(this.ago(ago)).write(TOMAS, 'looked', [p], { groups: ['smell', 'heat', 'wet'], where: 'outside' });
  }

  /** Quarantine, nearly full. */
  damaged(): void {
    const seen: readonly (readonly [string, string | undefined])[] = [
      ['swollen', 'trackpad stiff, pillow shape'],
      ['swollen', undefined],
      ['leaked', 'dry crystals at the edge'],
      ['punctured', 'screw mark through the foil'],
      ['smell', 'sweet, faint'],
      ['burn-mark', undefined],
      ['dropped', 'from the bench, corner first'],
      ['case-dented', undefined],
      ['spill', 'coffee, six days ago'],
      ['crushed', 'bent over the edge'],
      ['heat-exposed', undefined],
    ];
    seen.forEach(([code, words], i) => {
      const m = modelAt(i * 5 + 1);
      const p = this.pack(m, this.ago((1 + i * 1.7) * DAY), 'removed');
      this.look(
        p,
        LOOK_GROUPS.filter((g) => g !== 'shape' && g !== 'mechanical'),
      );
      this.find(p, code, words);
      this.move(p, i % 2 === 0 ? 'Quarantine box A' : 'Quarantine box B');
      // The daily look from outside; two were forgotten.
      if (i !== 3 && i !== 7) this.quiet(p, 5 * HOUR + i * 40 * MIN);
    });
    // Swollen by the calliper alone.
    for (const swell of [8.2, 12.5]) {
      const m = modelAt(0);
      const p = this.pack(m, this.ago(4 * DAY + swell * HOUR), 'removed');
      const s = this.simulated(m, 30, swell);
      this.look(p, ['smell', 'heat', 'wet', 'electrical']);
      this.volts(p, s);
      this.thickness(p, m, s);
      this.move(p, 'Quarantine box B');
      this.quiet(p, 6 * HOUR);
    }
    // Cells apart, seen by the gauge.
    const m = modelAt(8);
    const p = this.pack(m, this.ago(3 * DAY), 'removed');
    this.look(p);
    this.gauge(p, m, this.simulated(m, 60, 0, 24), 0.83, 288);
    this.move(p, 'Quarantine box A');
    this.quiet(p, 7 * HOUR);
    // A dropped one whose clearing waits for a second person.
    const q = this.pack(modelAt(3), this.ago(2 * DAY), 'removed');
    this.look(q);
    this.volts(q, this.simulated(modelAt(3), 26));
    const drop = this.find(q, 'dropped', 'fell 20 cm in its notebook');
    this.scribe.write(WREN, 'finding-cleared', [q], {
      clears: [drop],
      reason: 'opened, no dent on any cell, gauge steady for two days',
    });
    this.move(q, 'Quarantine box A');
  }

  unproven(): void {
    for (let i = 0; i < 7; i++) {
      const m = modelAt(i * 3 + 2);
      const p = this.pack(m, this.ago(5 * HOUR + i * 9 * HOUR), 'removed');
      this.move(p, 'Intake shelf');
    }
    const low = this.pack(modelAt(9), this.ago(2 * DAY), 'removed');
    this.look(low);
    this.scribe.write(WREN, 'reading-taken', [low], {
      quantity: 'pack-voltage',
      figure: { digits: '4.52', unit: 'V' },
      instrument: INSTRUMENTS.multimeter,
      restMinutes: 300,
    });
    this.move(low, 'Intake shelf');
    const dead = this.pack(modelAt(4), this.ago(30 * HOUR), 'removed');
    this.look(dead, ['shape', 'smell', 'heat', 'wet', 'mechanical']);
    this.scribe.write(WREN, 'reading-taken', [dead], {
      quantity: 'pack-voltage',
      figure: { digits: '0.00', unit: 'V' },
      instrument: INSTRUMENTS.multimeter,
      restMinutes: 60,
      confirmedOdd: true,
    });
    this.move(dead, 'Intake shelf');
    // Too close to tell on the calliper.
    const close = this.pack(modelAt(11), this.ago(20 * HOUR), 'removed');
    const s = this.simulated(modelAt(11), 40, 4.4);
    this.look(close);
    this.volts(close, s);
    this.thickness(close, modelAt(11), s);
    this.move(close, 'Bench 2');
  }

  /** One leaking pack, already outdoors. */
  critical(): void {
    const p = this.pack(modelAt(2), this.ago(3 * HOUR), 'removed', [], TOMAS);
    this.find(p, 'leaking', 'clear liquid at the seam, sweet smell');
    this.move(p, 'Yard, steel bin');
  }

  /** A running week of jobs. */
  jobs(): void {
    const complaints = [
      'dies after twenty minutes',
      'keyboard bulges in the middle',
      'does not charge past 60 %',
      'shuts down under load',
      'trackpad stopped clicking',
      'owner wants more hours',
      'battery warning at start',
      'will not power up',
    ];
    complaints.forEach((complaint, i) => {
      const m = modelAt(i * 7 + 3);
      const at = this.ago((0.2 + i * 0.8) * DAY);
      const job: Subject = `job:${v5(`job ${i}`, DEMO_WORKSHOP.id)}`;
      const tag = `N-${240 + i}`;
      const nb: Subject = `notebook:${taggedId(DEMO_WORKSHOP.id, 'notebook', tag)}`;
      this.scribe.from(at);
      const unreadable = i === 4;
      this.scribe.write(WREN, 'notebook-identified', [nb], {
        tag,
        plate: unreadable ? 'unreadable' : 'read',
        ...(!unreadable && { maker: m.maker, model: m.model, serial: `${m.code.slice(0, 2)}${7310 + i * 37}` }),
      });
      this.scribe.write(WREN, 'job-opened', [job, nb], { complaint });
      const p = this.pack(m, new Date(at.getTime() + 20 * MIN), 'removed', [nb, job]);
      if (i === 1 || i === 4) {
        this.find(p, 'swollen', 'lifts the trackpad');
        this.move(p, 'Quarantine box A');
      } else if (i > 1) {
        const s = this.simulated(m, 30 + i * 3, 1.5);
        this.look(p);
        this.volts(p, s, i === 2 ? 10 : 200);
        if (i % 2 === 1) this.gauge(p, m, s, 0.7, 410);
        this.move(p, 'Bench 1');
      }
      if (i === 5) {
        const day = new Date(this.now.getTime() + 2 * DAY).toISOString().slice(0, 10);
        this.scribe.write(WREN, 'due-set', [job], { what: 'proof', on: day, note: `${tag}: new pack arrived empty` });
      }
      if (i >= 6) this.scribe.write(WREN, 'job-closed', [job], { note: 'handed over' });
    });
    const today = this.now.toISOString().slice(0, 10);
    this.scribe.from(this.ago(HOUR)).write(INES, 'due-set', [this.place('Recycling drum 3')], {
      what: 'clock',
      on: today,
      note: 'Recycling drum 3: ring the collector back',
    });
  }

  /** Spares measured for a bay, where they are from, and one that came dead. */
  received(): void {
    const spares = [...this.tags].filter(([, tag]) => tag >= 'TH-130' && tag <= 'TH-145');
    spares.forEach(([p], i) => {
      this.scribe.from(this.ago(20 * HOUR + i * 7 * MIN));
      if (i % 8 !== 5) this.form(p, spareAt(i));
      this.scribe.write(WREN, 'source-stated', [p], {
        school: i % 4 === 3 ? 'compatible' : i % 3 === 0 ? 'new from maker' : 'known-good used',
        supplier: i % 4 === 3 ? 'Lowtide Parts' : i % 3 === 0 ? 'Mereline spares desk' : 'own stock',
        summary: i % 4 === 3 ? 'asked for' : 'on file',
      });
    });
    const dead = this.pack(modelAt(7), this.ago(26 * HOUR), 'replacement');
    this.look(dead);
    this.scribe.write(WREN, 'reading-taken', [dead], {
      quantity: 'pack-voltage',
      figure: { digits: '0.00', unit: 'V' },
      instrument: INSTRUMENTS.multimeter,
      restMinutes: 60,
      confirmedOdd: true,
    });
    const until = this.daysAgo(-13).toISOString().slice(0, 10);
    this.scribe.write(WREN, 'return-opened', [dead], { to: 'Lowtide Parts', reason: 'no volts, not even on the adapter', until });
    this.scribe.write(WREN, 'due-set', [dead], { what: 'return', on: until, note: `${this.tagOf(dead)} back to Lowtide Parts` });
    this.move(dead, 'Intake shelf');
  }

  /** Jobs in hand, some way along their stations. */
  alongTheRail(): void {
    const about = (i: number): readonly [Subject, Subject] => [
      `job:${v5(`job ${i}`, DEMO_WORKSHOP.id)}`,
      `notebook:${taggedId(DEMO_WORKSHOP.id, 'notebook', `N-${240 + i}`)}`,
    ];
    this.scribe.from(this.ago(0.15 * DAY));
    this.scribe.write(WREN, 'triaged', about(0), { lid: 'flush', base: 'steady', smell: 'none', touch: 'cool' });
    this.scribe.from(this.ago(2.2 * DAY));
    this.scribe.write(WREN, 'triaged', about(3), { lid: 'flush', base: 'steady', smell: 'none', touch: 'cool' });
    this.scribe.write(WREN, 'intake-noted', about(3), { consent: 'given', charge: 24, keyboard: 'even', trackpad: 'clicks' });
    this.scribe.from(this.ago(0.7 * DAY));
    this.scribe.write(WREN, 'triaged', about(1), { lid: 'flush', base: 'rocks', smell: 'none', touch: 'cool' });
    this.scribe.write(WREN, 'intake-noted', about(1), { consent: 'given', keyboard: 'uneven', oldPack: 'stays here' });
    this.scribe.from(this.ago(3.8 * DAY));
    this.scribe.write(TOMAS, 'job-taken', about(5), {});
    this.scribe.write(TOMAS, 'fasteners-mapped', about(5), { ...GANNET.fasteners, habit: 'tray' });
    this.scribe.write(TOMAS, 'proof-taken', about(5), { starts: 'yes', seen: 'yes', charges: 'owed', gauge: 'owed' });
  }

  build(): Entry[] {
    this.setting();
    const spent = this.spent();
    this.damaged();
    this.spares();
    this.unproven();
    this.jobs();
    this.critical();
    this.received();
    this.alongTheRail();
    earlierJobs(this);
    instruments(this, INES);
    describedYard(this, INES, TOMAS);
    dispatched(this, ODO, spent);
    notice(this, INES);
    return this.scribe.entries;
  }
}

/** Makes the demo world through the same door as every device. */
export async function seedDemo(owner: Knex, urls: DatabaseUrls, now: Date): Promise<void> {
  await owner('workshops').insert({ ...DEMO_WORKSHOP, demo: true });
  await inWorkshop(owner, DEMO_WORKSHOP.id, async (trx) => {
    for (const p of PEOPLE) await addPerson(trx, DEMO_WORKSHOP.id, p);
    const days = (n: number) => new Date(now.getTime() + n * DAY).toISOString().slice(0, 10);
    const trained = (i: number, kind: string, until: number) => ({
      workshop_id: DEMO_WORKSHOP.id,
      person_id: PEOPLE[i]!.id,
      kind,
      until: days(until),
    });
    await trx('trainings').insert([trained(3, 'air', 411), trained(3, 'adr', 160), trained(0, 'adr', -20)]);
  });
  const db = connect(urls.app, 2);
  try {
    const { id, zone } = await theWorkshop(db);
    const writer = new Writer(db, { workshop: id, zone });
    const entries = new World(now).build().sort((a, b) => (a.at < b.at ? -1 : 1));
    const byAuthor = new Map(PEOPLE.map((p) => [p.id, p]));
    for (const e of chunks(entries)) {
      const author = byAuthor.get(e[0]!.by)!;
      const results = await writer.append({ person: author, clockOffset: 0, entries: e });
      const bad = results.find((r) => r.status === 'refused');
      if (bad) throw new Error(`the demo world is wrong: ${JSON.stringify(bad)}`);
    }
  } finally {
    await db.destroy();
  }
}

/** Runs of entries by one author, up to 400 each. */
function chunks(entries: readonly Entry[]): Entry[][] {
  const out: Entry[][] = [];
  for (const e of entries) {
    const last = out[out.length - 1];
    if (last && last[0]!.by === e.by && last.length < 400) last.push(e);
    else out.push([e]);
  }
  return out;
}
