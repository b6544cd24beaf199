import { LOOK_GROUPS } from '../logbook/entry';
import type { Bodies, Kind, LoggedEntry, Subject } from '../logbook/entry';
import { isHazard } from '../logbook/entry';
import { figure } from '../quantity/figure';
import { DAY_MS } from '../quantity/day';
import type { Random } from './random';
import type { Fault, TruePack } from './world';

/** What is done with a pack, in the order of the work. */
export const ACTS = ['label', 'look', 'weigh', 'cells', 'thickness', 'temperature', 'gauge', 'rest'] as const;
export type Act = (typeof ACTS)[number];

/** What a hand and an eye find, where they look. */
const SEEN: Partial<Record<Fault, string>> = {
  dent: 'cell-dented',
  puncture: 'punctured',
  liquid: 'leaked',
  smell: 'smell',
};

const PACK = 'b0000000-0000-4000-8000-00000000000a';
const SUBJECT: Subject = `pack:${PACK}`;
/** Days between the two readings of the rest. */
export const REST_DAYS = 12;
/** Minutes of rest before cells are read. */
export const RESTED = 240;
/** A hand feels a bulge from here on, %: below it only the calliper tells. */
const FELT = 12;

/** True volts by a meter of 0.5 % and two digits, as what it shows: errors of one meter are the same for all it reads. */
const METER = { percent: 0.5, digits: 2 };

/** A log while it is written. */
export interface Measuring {
  readonly pack: TruePack;
  readonly entries: LoggedEntry[];
  /** The moment of the last entry, ms. */
  at: number;
  /** Of the one meter, within what its maker states: it is the same for all it reads. */
  readonly meterScale: number;
}

function say<K extends Kind>(m: Measuring, kind: K, body: Bodies[K]): void {
  m.at += 60_000;
  const n = m.entries.length + 1;
  const time = new Date(m.at).toISOString();
  m.entries.push({
    id: `c0000000-0000-4000-8000-${String(n).padStart(12, '0')}`,
    v: 1,
    workshop: 'practice',
    subjects: [SUBJECT],
    kind,
    at: time,
    tz: 'UTC',
    by: 'learner',
    device: 'practice',
    hazard: isHazard(kind),
    body,
    seq: n,
    recordedAt: time,
    effectiveAt: time,
  } as unknown as LoggedEntry);
}

/** A log that says that there is a pack, and no more. @param from the moment it begins, ms. */
export function beginLog(pack: TruePack, r: Random, from: number): Measuring {
  const m: Measuring = { pack, entries: [], at: from, meterScale: 1 + r.between(-1, 1) * 0.004 };
  say(m, 'pack-added', { tag: 'PRACTICE', use: 'removed' });
  return m;
}

/** Writes down a finding that somebody made without an instrument. */
export const find = (m: Measuring, code: string): void => say(m, 'finding-recorded', { code });

const volts = (m: Measuring, r: Random, v: number) => figure(Math.max(0, v * m.meterScale + r.normal(0.0005)), 'V', 3);
const METERED = { name: 'multimeter', accuracy: METER } as const;

function readCells(m: Measuring, r: Random, set: string, days: number, restMinutes: number): void {
  const { pack: p } = m;
  p.cells.forEach((v, i) => {
    const lost = (days * (i === 0 ? p.drift : Math.min(p.drift, 0.1))) / 1000;
    say(m, 'reading-taken', {
      quantity: 'cell-voltage',
      point: String(i + 1),
      figure: volts(m, r, v - lost),
      restMinutes,
      set: { id: set, of: p.series },
      instrument: METERED,
    });
  });
}

const SETS = ['d0000000-0000-4000-8000-000000000001', 'd0000000-0000-4000-8000-000000000002'] as const;
const UNRESTED_SET = 'd0000000-0000-4000-8000-000000000003';

/** Pack volts, then every cell at the taps. @param restMinutes how long it lay before. */
export function readAllCells(m: Measuring, r: Random, restMinutes: number): void {
  const sum = m.pack.cells.reduce((a, b) => a + b, 0);
  say(m, 'reading-taken', { quantity: 'pack-voltage', figure: volts(m, r, sum), restMinutes, instrument: METERED });
  readCells(m, r, restMinutes < RESTED ? UNRESTED_SET : SETS[0], 0, restMinutes);
}

/** Each act as it should be done, with realistic instruments. */
export const DO: Readonly<Record<Act, (m: Measuring, r: Random) => void>> = {
  label: (m) => {
    const { claims, nominal: cell, limit } = m.pack;
    const nominal = claims.series * cell;
    say(m, 'label-read', {
      chemistry: 'li-ion',
      nominalVoltage: figure(nominal, 'V', 2),
      ratedCapacity: figure((1000 * claims.wattHours) / nominal, 'mAh', 0),
      ratedEnergy: figure(claims.wattHours, 'Wh', 1),
      limitedChargeVoltage: figure(claims.series * limit, 'V', 2),
      energyMarked: true,
    });
  },
  look: (m) => {
    const { faults, growth } = m.pack;
    for (const f of faults) if (SEEN[f]) find(m, SEEN[f]);
    if (faults.includes('swollen') && growth >= FELT) find(m, 'swollen');
    say(m, 'looked', { groups: [...LOOK_GROUPS] });
  },
  weigh: (m, r) => say(m, 'reading-taken', { quantity: 'mass', figure: figure(m.pack.grams + r.normal(0.3), 'g', 0) }),
  temperature: (m, r) => {
    const { roomC, surfaceC } = m.pack;
    say(m, 'reading-taken', { quantity: 'room-temperature', figure: figure(roomC + r.normal(0.3), '°C', 1) });
    const surface = figure(surfaceC + r.normal(0.3), '°C', 1);
    say(m, 'reading-taken', { quantity: 'surface-temperature', figure: surface, restMinutes: 60 });
  },
  thickness: (m, r) => {
    const { newMm, growth } = m.pack;
    const isNew = figure(newMm + r.between(-0.05, 0.05), 'mm', 2);
    say(m, 'reading-taken', { quantity: 'new-thickness', figure: isNew, source: 'data-sheet' });
    const mm = newMm * (1 + growth / 100) + r.normal(0.012);
    say(m, 'reading-taken', { quantity: 'thickness', point: 'centre', figure: figure(mm, 'mm', 2) });
  },
  cells: (m, r) => readAllCells(m, r, RESTED),
  gauge: (m, r) => {
    const { ratedMah, health, faults } = m.pack;
    say(m, 'gauge-read', {
      designCapacity: figure(ratedMah, 'mAh', 0),
      fullChargeCapacity: figure(ratedMah * health * (1 + r.normal(0.01)), 'mAh', 0),
      ...(faults.includes('gauge failed') && { permanentFailure: true }),
    });
  },
  rest: (m, r) => {
    m.at += REST_DAYS * DAY_MS;
    readCells(m, r, SETS[1], REST_DAYS, RESTED);
  },
};

/** The order in which a whole record is taken. */
const ORDER = ['label', 'look', 'weigh', 'temperature', 'thickness', 'cells', 'gauge', 'rest'] as const satisfies readonly Act[];

/**
 * The log of a pack by somebody who does everything as it should be done, with realistic instruments, but leaves some acts out.
 * @param without acts that are left out; without a first reading of the cells there is no second. @returns entries, and when the last of
 * them was written.
 */
export function measured(
  p: TruePack,
  without: ReadonlySet<Act>,
  r: Random,
  from: number,
): { entries: LoggedEntry[]; now: number } {
  const m = beginLog(p, r, from);
  for (const act of ORDER) if (!without.has(act) && !(act === 'rest' && without.has('cells'))) DO[act](m, r);
  return { entries: m.entries, now: m.at + 60_000 };
}

export { PACK as SIMULATED_PACK };
