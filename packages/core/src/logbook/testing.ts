import type { Bodies, Kind, LoggedEntry, Subject } from './entry';
import { isHazard } from './entry';

/** Test helper: a small workshop of entries with readable ids, numbered as a server would. */
export const WORKSHOP = '11111111-1111-4111-8111-111111111111';
export const ANNA = 'a0000000-0000-4000-8000-000000000001';
export const BRAM = 'a0000000-0000-4000-8000-000000000002';
export const PACK = 'b0000000-0000-4000-8000-000000000001';
export const OTHER_PACK = 'b0000000-0000-4000-8000-000000000002';
export const NOW = new Date('2026-11-25T12:00:00.000Z');
export const ON = '2026-11-25';

let count = 0;

/** An entry on the test pack, `minutes` after 08:00 of the test day; `seq: null` leaves it unsent. */
export function entry<K extends Kind>(
  kind: K,
  body: Bodies[K],
  more: {
    by?: string;
    minutes?: number;
    seq?: number | null;
    replaces?: string;
    subjects?: readonly Subject[];
    day?: string;
  } = {},
): LoggedEntry {
  count += 1;
  const id = `c0000000-0000-4000-8000-${String(count).padStart(12, '0')}`;
  const at = new Date(Date.parse(`${more.day ?? ON}T08:00:00.000Z`) + (more.minutes ?? 0) * 60_000).toISOString();
  const seq = more.seq === undefined ? count : more.seq;
  return {
    id,
    v: 1,
    workshop: WORKSHOP,
    subjects: more.subjects ?? [`pack:${PACK}`],
    kind,
    at,
    tz: 'UTC',
    by: more.by ?? ANNA,
    device: 'test',
    hazard: isHazard(kind),
    body,
    ...(more.replaces && { replaces: more.replaces }),
    seq,
    recordedAt: seq === null ? null : at,
    effectiveAt: seq === null ? null : at,
  } as unknown as LoggedEntry;
}

export const ALL_GROUPS = ['shape', 'smell', 'heat', 'wet', 'mechanical', 'electrical'] as const;

/** A sound 57 Wh pack: label, looks, cell voltages at the gauge, test evidence. */
export function soundPack(): LoggedEntry[] {
  return [
    entry('pack-added', { tag: 'T-1', use: 'removed' }),
    entry('label-read', {
      chemistry: 'li-ion',
      nominalVoltage: { digits: '11.4', unit: 'V' },
      ratedCapacity: { digits: '5000', unit: 'mAh' },
      ratedEnergy: { digits: '57', unit: 'Wh' },
      limitedChargeVoltage: { digits: '13.05', unit: 'V' },
      madeOn: '2021-05',
      energyMarked: true,
    }),
    entry('looked', { groups: [...ALL_GROUPS] }),
    entry('gauge-read', {
      designCapacity: { digits: '5000', unit: 'mAh' },
      fullChargeCapacity: { digits: '4600', unit: 'mAh' },
      remainingCapacity: { digits: '920', unit: 'mAh' },
      maxError: 2,
      cellVoltages: ['3.742', '3.741', '3.743'].map((d) => ({ digits: d, unit: 'V' as const })),
    }),
    entry('evidence-stated', { typeTested: 'yes' }),
  ];
}
