import { type Alarm, openAlarms, type PlaceFacts } from '@gavrel/core';

const known = new WeakMap<PlaceFacts, readonly Alarm[]>();

/** Alarms of a place that nobody has answered; kept while its facts stay the same. */
export function alarmsOfPlace(place: PlaceFacts): readonly Alarm[] {
  const before = known.get(place);
  if (before) return before;
  const now = openAlarms(place);
  known.set(place, now);
  return now;
}

/** Why a place alarms, each reason once. */
export const alarmWords = (alarms: readonly Alarm[]): string => [...new Set(alarms.flatMap((a) => a.words))].join(', ');
