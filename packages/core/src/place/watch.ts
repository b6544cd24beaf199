import type { WatchSchool } from '../logbook/entry';
import type { PackFacts, PolicyFacts } from '../logbook/fold';
import type { PlaceFacts } from '../logbook/fold-place';
import { overRoom } from '../condition/container';
import { findingOf, type FindingClass } from '../condition/findings';
import type { OwingPack } from '../ruling/due';
import type { Stored } from './stored';

const MINUTE = 60_000;
/** Minutes after a damaged pack arrived at which it is looked at; then once a day. Common practice, no source. */
export const WATCH_MINUTES: readonly number[] = [15, 60, 240, 1440, 2880, 4320];
const DAILY = 1440;
/** Minutes between looks at a critical pack, for as long as it is one. */
const CRITICAL = 60;

/**
 * Minutes after something burnt, smoked or leaked at which it is looked at again from a distance; then once a day until it is declared
 * over. Cells reignite hours and days later. Common practice, no source.
 */
export const INCIDENT_MINUTES: readonly number[] = [15, 30, ...Array.from({ length: 24 }, (_, h) => (h + 1) * 60), 2880, 4320];

/** Kinds of place that are watched as a whole, without unpacking. */
export const isContainer = (p: Pick<PlaceFacts, 'kind'>): boolean => p.kind === 'quarantine' || p.kind === 'outdoors';

const plus = (iso: string, minutes: number) => new Date(Date.parse(iso) + minutes * MINUTE).toISOString();

/** Schools of watching: minutes after a damaged pack arrived at which it is looked at; then once a day. */
export const WATCH_SCHOOLS: Record<WatchSchool, readonly number[]> = {
  usual: WATCH_MINUTES,
  close: [15, 30, 60, 120, 240, 480, 720, 1440, 2160, 2880, 3600, 4320],
};

/** Share of the time between two looks by which one may come early and still count as the later one. Our own rule. */
const COVERS = 0.2;

/**
 * When a pack must be looked at next.
 * @param since when it came to lie there; @param looks every look at it or its container since; @param minutes the times of looks.
 */
export function nextLook(since: string, looks: readonly string[], critical = false, minutes = WATCH_MINUTES): string {
  const last = looks
    .filter((l) => l >= since)
    .sort()
    .pop();
  if (critical) return plus(last ?? since, last ? CRITICAL : minutes[0]!);
  if (last === undefined) return plus(since, minutes[0]!);
  const passed = (Date.parse(last) - Date.parse(since)) / MINUTE;
  // A look shortly before its time is that look.
  const slot = minutes.find((m, i) => m - passed > COVERS * (m - (minutes[i - 1] ?? 0)));
  return slot === undefined ? plus(last, DAILY) : plus(since, slot);
}

export interface WatchedPack<T = Stored> {
  readonly item: T;
  readonly since: string;
  readonly next: string;
}

/** A container with its packs, the next look, and what the looks so far say. */
export interface Watch {
  readonly place: PlaceFacts;
  readonly packs: readonly WatchedPack[];
  /** The soonest look of its packs; null where nothing in it is watched. */
  readonly next: string | null;
  /** K over its room at each look that took both, oldest first. */
  readonly trend: readonly { readonly at: string; readonly kelvin: number; readonly u: number }[];
  /** Packs that lie there longer than the workshop wants. */
  readonly tooLong: readonly WatchedPack[];
}

const DANGEROUS = (s: Pick<Stored, 'condition'>) => s.condition === 'damaged' || s.condition === 'critical';

/** Classes of findings after which a pack is watched from the beginning: what is worn, recalled or not looked at yet is no danger come new. */
const NEW_DANGER: readonly FindingClass[] = ['reacting', 'unstable', 'hard', 'soft'];

/** When something dangerous was found of a pack last; a code of a newer program counts. Null where nothing was. */
export function dangerFoundAt({ findings }: Pick<PackFacts, 'findings'>): string | null {
  const all = findings.filter((f) => NEW_DANGER.includes(findingOf(f.body.code)?.class ?? 'hard')).map((f) => f.at);
  return all.sort().pop() ?? null;
}

/**
 * A dangerous pack where it lies, with its next look; null for any other. What was found while it lay there is as new as what arrived: it is
 * looked at by both schedules, whichever asks sooner.
 */
export function watchedPack<T extends Pick<Stored, 'condition' | 'placedAt'>>(
  item: T,
  facts: Pick<OwingPack, 'looks' | 'containers' | 'foundAt'>,
  policy: Pick<PolicyFacts, 'watch'>,
): WatchedPack<T> | null {
  if (!DANGEROUS(item) || item.placedAt === null) return null;
  const looks = [...facts.looks, ...facts.containers].map((l) => l.at);
  const nextAfter = (since: string) => nextLook(since, looks, item.condition === 'critical', WATCH_SCHOOLS[policy.watch]);
  const { placedAt } = item;
  const { foundAt } = facts;
  const all = [nextAfter(placedAt), ...(foundAt !== null && foundAt > placedAt ? [nextAfter(foundAt)] : [])];
  return { item, since: placedAt, next: all.sort()[0]! };
}

/** Does it lie there longer than the workshop wants? */
export const staysTooLong = (since: string, policy: Pick<PolicyFacts, 'stayDays'>, now: Date): boolean =>
  now.getTime() - Date.parse(since) > policy.stayDays * 1440 * MINUTE;

/** The watch of one container. An unproven pack in it is looked at with the others, and asks for no look of its own. */
export function watchOf(
  place: PlaceFacts,
  items: readonly { readonly item: Stored; readonly facts: PackFacts }[],
  policy: Pick<PolicyFacts, 'stayDays' | 'watch'>,
  now: Date,
): Watch {
  const packs = items.flatMap(({ item, facts }) => watchedPack(item, { ...facts, foundAt: dangerFoundAt(facts) }, policy) ?? []);
  const looks = [...place.looks].sort((a, b) => (a.at < b.at ? -1 : 1));
  return {
    place,
    packs: packs.sort((a, b) => (a.next < b.next ? -1 : 1)),
    next: packs.map((p) => p.next).sort()[0] ?? null,
    trend: looks.flatMap((l) => {
      const k = overRoom(l.body);
      return k ? [{ at: l.at, ...k }] : [];
    }),
    tooLong: packs.filter((p) => staysTooLong(p.since, policy, now)),
  };
}
