import { counted } from '@gavrel/core';
import type { Load, PlaceState } from '@gavrel/core/place';
import { alarmsOfPlace, alarmWords } from './alarm-words';
import { differenceInMinutes, format, isSameDay, parseISO } from 'date-fns';

export const packsWord = (n: number): string => counted(n, 'pack');

/** Watt-hours, with the packs whose energy nobody knows. */
export const energyWords = (wattHours: number, unknown: number): string =>
  `${Math.round(wattHours)} Wh${unknown > 0 ? ` and ${unknown} unknown` : ''}`;

/** Packs that lie on no place, and machines nobody has looked into. */
export const apartWords = (apart: Load, unseen: number): string =>
  [
    `${packsWord(apart.packs)}, ${energyWords(apart.wattHours, apart.unknown.wattHours)}`,
    unseen > 0 && `${counted(unseen, 'machine')} without a pack on record`,
  ]
    .filter(Boolean)
    .join('; ');

/** "look 40 min late", "look 1 h 45 min late", "look at 14:32", "look Thu 26 Nov, 09:10". */
export function lookWords(iso: string, now: Date): string {
  const at = parseISO(iso);
  const late = differenceInMinutes(now, at);
  if (late >= 2880) return `look ${Math.floor(late / 1440)} days late`;
  if (late >= 240) return `look ${Math.floor(late / 60)} h late`;
  if (late >= 60) return `look ${Math.floor(late / 60)} h ${late % 60} min late`;
  if (late > 0) return `look ${late} min late`;
  return isSameDay(at, now) ? `look at ${format(at, 'HH:mm')}` : `look ${format(at, 'EEE d MMM, HH:mm')}`;
}

/** What is not in order at a place, in few words. */
export function troubleOf(s: PlaceState): string[] {
  const alarms = alarmsOfPlace(s.place);
  return [
    ...(alarms.length > 0 ? [`ALARM: ${alarmWords(alarms)}`] : []),
    ...(s.place.closed ? [`closed: ${s.place.closed.reason}`] : []),
    ...s.over.map((o) => `over: ${o.words}`),
    ...(s.wrong.length > 0 ? [`${s.wrong.length} may not lie here`] : []),
  ];
}
