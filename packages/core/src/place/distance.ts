import type { DistanceSchool } from '../logbook/entry';
import type { PlaceFacts } from '../logbook/fold-place';
import { FIRE, fireCheck } from '../storage/fire-code';
import { UNKNOWN } from './may';
import type { PlaceState } from './state';
import { figureOf } from '../rules/rule';

/** Distances asked for, m; what a school does not name is left out. */
export interface Distances {
  readonly burns?: number;
  readonly openings?: number;
  readonly exit?: number;
  /** Between two containers or groups. */
  readonly apart?: number;
  readonly source: string;
}

const fire = (id: string, figure: string) => figureOf(FIRE.undated(id), figure);
const PRACTICE = 'common practice, no source';

/** Whose figures: 3 m, better 5 m by practice; the fire code's; what insurers ask. From memory; the local code decides. */
export function distancesOf(school: DistanceSchool): Distances {
  switch (school) {
    case 'practice':
      return { burns: 3, openings: 3, exit: 3, source: PRACTICE };
    case 'practice far':
      return { burns: 5, openings: 5, exit: 5, source: PRACTICE };
    case 'fire code':
      return {
        burns: fire('fire.apart', 'combustible'),
        apart: fire('fire.apart', 'metres'),
        exit: fire('fire.exit', 'metres'),
        source: FIRE.undated('fire.apart').source,
      };
    case 'insurer':
    case 'insurer far': {
      const m = fire('fire.insurer', school === 'insurer' ? 'metres' : 'far');
      return { burns: m, openings: m, source: FIRE.undated('fire.insurer').source };
    }
  }
}

type Box = NonNullable<PlaceFacts['box']>;

/** Free metres between two boxes of one drawing, to the millimetre; 0 where they touch or overlap. */
export function between(a: Box, b: Box): number {
  const gap = (p: number, w: number, q: number, v: number) => Math.max(0, q - (p + w), p - (q + v));
  return Math.round(1000 * Math.hypot(gap(a.x, a.width, b.x, b.width), gap(a.y, a.depth, b.y, b.depth))) / 1000;
}

export interface DistanceLine {
  readonly place: string;
  readonly what: 'burns' | 'openings' | 'exit' | 'apart';
  /** m; null: nobody measured it. */
  readonly metres: number | null;
  readonly asked: number;
  readonly words: string;
}

const WORDS = { burns: 'to what burns', openings: 'to openings', exit: 'to the way out' } as const;
/** Places whose packs may burn by themselves, or many together. */
const WATCHED: ReadonlySet<PlaceFacts['kind']> = new Set(['quarantine', 'outdoors', 'drum']);

/** Distances that are too short, or that nobody measured. None listed never means allowed: the local code decides. */
export function distanceLines(places: readonly PlaceFacts[], school: DistanceSchool): DistanceLine[] {
  const asked = distancesOf(school);
  const watched = places.filter((p) => p.closed === null && WATCHED.has(p.kind));
  const own = watched.flatMap((p) =>
    (['burns', 'openings', 'exit'] as const).flatMap((what): DistanceLine[] => {
      const need = asked[what];
      const m = p.near?.[what];
      if (need === undefined || (m !== undefined && m >= need)) return [];
      const words = m === undefined ? `${WORDS[what]} not measured, ${need} m asked` : `${m} m ${WORDS[what]}, ${need} m asked`;
      return [{ place: p.id, what, metres: m ?? null, asked: need, words }];
    }),
  );
  if (asked.apart === undefined) return own;
  const pairs = watched.flatMap((a, i) =>
    watched.slice(i + 1).flatMap((b): DistanceLine[] => {
      if (a.room !== b.room || !a.box || !b.box) return [];
      const m = between(a.box, b.box);
      if (m >= asked.apart!) return [];
      const words = `${m.toFixed(2)} m from ${b.name}, ${asked.apart} m asked`;
      return [{ place: a.id, what: 'apart', metres: m, asked: asked.apart!, words }];
    }),
  );
  return [...own, ...pairs];
}

/**
 * Volumes beyond the fire code's figures for a permit and for one group, each place a group, by the packs' own volume: their packaging adds
 * to it. What nobody measured counts with the most that is usual.
 */
export function volumeLines(yard: readonly PlaceState[]): string[] {
  const groups = yard.map((p) => ({ litres: p.load.litres + p.load.unknown.litres * UNKNOWN.litres }));
  return fireCheck(groups)
    .filter((l) => l.rule === 'fire.permit' || l.rule === 'fire.group')
    .map((l) => l.words.replace(/^group (\d+)/, (_, n: string) => yard[Number(n) - 1]!.place.name));
}
