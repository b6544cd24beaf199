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
const REST_DAYS = 12;
/** A hand feels a bulge from here on, %: below it only the calliper tells. */
const FELT = 12;

/** True volts by a meter of 0.5 % and two digits, as what it shows: errors of one meter are the same for all it reads. */
const METER = { percent: 0.5, digits: 2 };

/**
 * The log of a pack by somebody who does everything as it should be done, with realistic instruments, but leaves some acts out.
 * @param without acts that are left out. @returns entries, and when the last of them was written.
 */
export function measured(
  p: TruePack,
  without: ReadonlySet<Act>,
  r: Random,
  from: number,
): { entries: LoggedEntry[]; now: number } {
  const entries: LoggedEntry[] = [];
  let at = from;
  const say = <K extends Kind>(kind: K, body: Bodies[K]) => {
    at += 60_000;
    const n = entries.length + 1;
    const time = new Date(at).toISOString();
    entries.push({
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
  };
  const does = (a: Act) => !without.has(a);
  const has = (f: Fault) => p.faults.includes(f);
  // One meter, one error of scale, within what its maker states.
  const meterScale = 1 + r.between(-1, 1) * 0.004;
  const volts = (v: number) => figure(Math.max(0, v * meterScale + r.normal(0.0005)), 'V', 3);

  say('pack-added', { tag: 'PRACTICE', use: 'removed' });
  if (does('label')) {
    const nominal = p.claims.series * p.nominal;
    say('label-read', {
      chemistry: 'li-ion',
      nominalVoltage: figure(nominal, 'V', 2),
      ratedCapacity: figure((1000 * p.claims.wattHours) / nominal, 'mAh', 0),
      ratedEnergy: figure(p.claims.wattHours, 'Wh', 1),
      limitedChargeVoltage: figure(p.claims.series * p.limit, 'V', 2),
      energyMarked: true,
    });
  }
  if (does('look')) {
    for (const f of p.faults) if (SEEN[f]) say('finding-recorded', { code: SEEN[f] });
    if (has('swollen') && p.growth >= FELT) say('finding-recorded', { code: 'swollen' });
    say('looked', { groups: [...LOOK_GROUPS] });
  }
  if (does('weigh')) say('reading-taken', { quantity: 'mass', figure: figure(p.grams + r.normal(0.3), 'g', 0) });
  if (does('temperature')) {
    say('reading-taken', { quantity: 'room-temperature', figure: figure(p.roomC + r.normal(0.3), '°C', 1) });
    say('reading-taken', {
      quantity: 'surface-temperature',
      figure: figure(p.surfaceC + r.normal(0.3), '°C', 1),
      restMinutes: 60,
    });
  }
  if (does('thickness')) {
    say('reading-taken', {
      quantity: 'new-thickness',
      figure: figure(p.newMm + r.between(-0.05, 0.05), 'mm', 2),
      source: 'data-sheet',
    });
    const mm = p.newMm * (1 + p.growth / 100) + r.normal(0.012);
    say('reading-taken', { quantity: 'thickness', point: 'centre', figure: figure(mm, 'mm', 2) });
  }
  const readCells = (id: string, days: number) =>
    p.cells.forEach((v, i) => {
      const lost = (days * (i === 0 ? p.drift : Math.min(p.drift, 0.1))) / 1000;
      say('reading-taken', {
        quantity: 'cell-voltage',
        point: String(i + 1),
        figure: volts(v - lost),
        restMinutes: 240,
        set: { id, of: p.series },
        instrument: { name: 'multimeter', accuracy: METER },
      });
    });
  const [first, second] = ['d0000000-0000-4000-8000-000000000001', 'd0000000-0000-4000-8000-000000000002'] as const;
  if (does('cells')) {
    const instrument = { name: 'multimeter', accuracy: METER };
    const sum = p.cells.reduce((a, b) => a + b, 0);
    say('reading-taken', { quantity: 'pack-voltage', figure: volts(sum), restMinutes: 240, instrument });
    readCells(first, 0);
  }
  if (does('gauge'))
    say('gauge-read', {
      designCapacity: figure(p.ratedMah, 'mAh', 0),
      fullChargeCapacity: figure(p.ratedMah * p.health * (1 + r.normal(0.01)), 'mAh', 0),
      ...(has('gauge failed') && { permanentFailure: true }),
    });
  if (does('rest') && does('cells')) {
    at += REST_DAYS * DAY_MS;
    readCells(second, REST_DAYS);
  }
  return { entries, now: at + 60_000 };
}

export { PACK as SIMULATED_PACK };
