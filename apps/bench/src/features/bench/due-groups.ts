import { DAY_MS, type Due } from '@gavrel/core';

/** Dues under one heading. */
export interface DueGroup {
  readonly title: string;
  readonly dues: readonly Due[];
}

/** What has to be done by when, in the words people use. @param now ISO 8601 UTC. @param today local day. */
function whenWords(d: Due, today: string, now: string): string {
  if (d.what === 'second person') return 'Needs a second person';
  if (d.on < today || (d.at !== undefined && d.at < now)) return 'Late';
  const days = Math.round((Date.parse(d.on) - Date.parse(today)) / DAY_MS);
  return days === 0 ? 'Today' : days === 1 ? 'Tomorrow' : days < 7 ? 'Within a week' : 'Later';
}

const ORDER = ['Needs a second person', 'Late', 'Today', 'Tomorrow', 'Within a week', 'Later'];

/** Dues by who and when, in the order in which they matter; inside a group as they came. */
export function dueGroups(dues: readonly Due[], today: string, now: string): DueGroup[] {
  return ORDER.map((title) => ({ title, dues: dues.filter((d) => whenWords(d, today, now) === title) })).filter(
    (g) => g.dues.length > 0,
  );
}
