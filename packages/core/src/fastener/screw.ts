import { type Figure, value } from '../quantity/figure';

export const THREADS = ['M1.4', 'M1.6', 'M2', 'M2.5', 'M3'] as const;
export type Thread = (typeof THREADS)[number];

export const DRIVES = [
  'PH000',
  'PH00',
  'PH0',
  'PH1',
  'T3',
  'T5',
  'T6',
  'T8',
  'T10',
  'five-lobe',
  'three-wing',
  'hex',
  'slotted',
  'other',
] as const;
export type Drive = (typeof DRIVES)[number];

/** What may lie over a screw. */
export const COVERS = ['foot', 'sticker', 'plug', 'drive', 'tape'] as const;
export type ScrewCover = (typeof COVERS)[number];

/** One hole of the base with the screw that belongs in it. */
export interface Screw {
  /** Number on the map, from 1. */
  readonly id: number;
  /** Place on the base as a fraction of its width and depth, 0 to 1, hinge side at 0. */
  readonly x: number;
  readonly y: number;
  readonly thread?: Thread;
  /** Under the head for pan heads, overall for countersunk ones (ISO 225, from memory). */
  readonly length?: Figure<'mm'>;
  readonly drive?: Drive;
  /** Stays in the cover: loosened only. */
  readonly captive?: boolean;
  readonly hidden?: ScrewCover;
  /** What it holds: the cover, the pack, or both at once. */
  readonly holds?: 'cover' | 'pack' | 'both';
  readonly state?: 'missing' | 'stripped';
  /** Tray habit: the part whose screws lie together. */
  readonly part?: string;
}

/** Screws of one thread and length, as they lie on the table. */
export interface ScrewCount {
  readonly thread?: Thread;
  readonly length?: Figure<'mm'>;
  readonly count: number;
}

/** "M2 x 4 mm", with what is not known said. */
export function groupName(s: Pick<Screw, 'thread' | 'length'>): string {
  return `${s.thread ?? 'thread ?'} × ${s.length ? `${value(s.length) * 1} mm` : '? mm'}`;
}

/** Counts by thread and length, longest first. */
function grouped(counts: readonly ScrewCount[]): ScrewCount[] {
  const groups = new Map<string, ScrewCount>();
  for (const c of counts) {
    const known = groups.get(groupName(c));
    groups.set(groupName(c), { ...c, count: (known?.count ?? 0) + c.count });
  }
  const size = (g: ScrewCount) => (g.length ? value(g.length) : -1);
  return [...groups.values()].sort((a, b) => size(b) - size(a) || (groupName(a) < groupName(b) ? -1 : 1));
}

/** The screws of a map that come out: captive and missing ones do not; by thread and length, longest first. */
export function groupsOf(screws: readonly Screw[]): ScrewCount[] {
  return grouped(
    screws
      .filter((s) => !s.captive && s.state !== 'missing')
      .map(({ thread, length }) => ({ ...(thread && { thread }), ...(length && { length }), count: 1 })),
  );
}

/**
 * The screws that are to go back: those of the map, and the pack's own, unless the map holds those already.
 * @param own what held the old packs; empty where no pack goes in again.
 */
export function screwsOut(map: readonly Screw[], own: readonly ScrewCount[]): ScrewCount[] {
  const mapped = map.some((s) => s.holds === 'pack' || s.holds === 'both');
  return mapped ? groupsOf(map) : grouped([...groupsOf(map), ...own]);
}

export interface RefitGroup {
  readonly name: string;
  /** How many came out, and how many went back. */
  readonly out: number;
  readonly back: number;
}

/** A longer screw of the same thread that must sit in a shorter one's hole. */
export interface TooLong {
  readonly thread: Thread;
  /** Length of the screw and of the one that belongs there, mm. */
  readonly length: number;
  readonly hole: number;
  /** N at the tip when it bottoms, with the most a usual setting gives. */
  readonly force: number;
}

export interface Refit {
  /** True when every length group closes: what went back is what came out. */
  readonly closed: boolean;
  readonly groups: readonly RefitGroup[];
  readonly tooLong: readonly TooLong[];
}

/**
 * Holds what went back against what came out, group by group.
 * A group with too many next to a shorter group with too few, same thread, means a screw too long for its hole.
 */
export function closeRefit(out: readonly ScrewCount[], back: readonly ScrewCount[]): Refit {
  const counted = new Map<string, number>();
  for (const b of back) counted.set(groupName(b), (counted.get(groupName(b)) ?? 0) + b.count);
  const names = [...new Set([...out.map(groupName), ...counted.keys()])];
  const groups = names.map((name) => ({
    name,
    out: out.find((g) => groupName(g) === name)?.count ?? 0,
    back: counted.get(name) ?? 0,
  }));
  const off = (g: ScrewCount) => (counted.get(groupName(g)) ?? 0) - (out.find((o) => groupName(o) === groupName(g))?.count ?? 0);
  const all = [...out, ...back.filter((b) => !out.some((o) => groupName(o) === groupName(b)))];
  const tooLong: TooLong[] = [];
  for (const long of all.filter((g) => off(g) > 0)) {
    for (const short of all.filter((g) => off(g) < 0)) {
      const { thread } = long;
      if (!thread || short.thread !== thread || !long.length || !short.length) continue;
      const [length, hole] = [value(long.length), value(short.length)];
      if (length > hole) tooLong.push({ thread, length, hole, force: tipForce(thread, SETTING[thread]) });
    }
  }
  return { closed: groups.every((g) => g.out === g.back), groups, tooLong };
}

/** Thread diameter, mm (ISO 261). */
export const DIAMETER: Record<Thread, number> = { 'M1.4': 1.4, 'M1.6': 1.6, M2: 2, 'M2.5': 2.5, M3: 3 };
/** Pitch, mm (ISO 261, ISO 262). */
export const PITCH: Record<Thread, number> = { 'M1.4': 0.3, 'M1.6': 0.35, M2: 0.4, 'M2.5': 0.45, M3: 0.5 };
/** The most a usual setting gives on a notebook, N m. Common practice, no source: the service manual's value stands before it. */
export const SETTING: Record<Thread, number> = { 'M1.4': 0.08, 'M1.6': 0.12, M2: 0.22, 'M2.5': 0.4, M3: 0.55 };
/** Nut factor of a dry steel thread (handbook value, from memory). */
const NUT_FACTOR = 0.2;

/**
 * The force in N with which the tip of a bottomed screw presses: F = T / (K d).
 * @param torque N m.
 */
export function tipForce(thread: Thread, torque: number): number {
  return torque / (NUT_FACTOR * (DIAMETER[thread] / 1000));
}

/** Pressure of a force on the screw's flat end, MPa. */
export function tipPressure(thread: Thread, force: number): number {
  return force / ((Math.PI / 4) * DIAMETER[thread] ** 2);
}

/** Turns that an excess length still makes after it touched. */
export const excessTurns = (thread: Thread, excess: number): number => excess / PITCH[thread];

/** Turns the map over its middle line: the screws of one side set on the other. Numbers go on from the highest. */
export function mirrored(screws: readonly Screw[]): Screw[] {
  const top = Math.max(0, ...screws.map((s) => s.id));
  const free = (x: number, y: number) => !screws.some((s) => Math.hypot(s.x - x, s.y - y) < 0.04);
  return screws
    .filter((s) => Math.abs(s.x - 0.5) > 0.04 && free(1 - s.x, s.y))
    .map((s, i) => ({ ...s, id: top + 1 + i, x: 1 - s.x }));
}
