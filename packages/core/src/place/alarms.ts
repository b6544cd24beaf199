import { alarmsOf, signsOf, withDayBefore } from '../condition/container';
import type { PlaceFacts } from '../logbook/fold-place';

/** Something said of a place that others must see until somebody trained to assess has answered it. */
export interface Alarm {
  /** The look it rests on. */
  readonly id: string;
  readonly at: string;
  readonly by: string;
  /** Why it alarms. */
  readonly words: readonly string[];
}

/** Alarms of a place that nobody has answered, oldest first. Every look counts for itself: a quiet one after it answers nothing. */
export function openAlarms(place: Pick<PlaceFacts, 'looks' | 'answered'>): Alarm[] {
  const answered = new Set(place.answered);
  return withDayBefore([...place.looks].sort((a, b) => (a.at < b.at ? -1 : 1))).flatMap(({ look, earlier }) => {
    if (answered.has(look.id)) return [];
    const words = [...signsOf(look.body), ...alarmsOf(look, earlier)];
    return words.length > 0 ? [{ id: look.id, at: look.at, by: look.by, words }] : [];
  });
}
