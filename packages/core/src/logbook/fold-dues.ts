import type { Bodies, DueKind } from './entry';
import type { Item } from './standing';

export interface DueItem {
  readonly id: string;
  readonly what: DueKind;
  /** YYYY-MM-DD. */
  readonly on: string;
  readonly note: string;
}

/** Ids of what was met, unless that was taken back. */
export const metBy = (items: readonly Item[]): ReadonlySet<string> =>
  new Set(items.flatMap((i) => (i.kind === 'due-met' ? [(i.body as Bodies['due-met']).meets] : [])));

/** What was set due and not met. */
export function openDues(items: readonly Item[]): DueItem[] {
  const met = metBy(items);
  return items.flatMap((i) => {
    if (i.kind !== 'due-set' || met.has(i.entry.id)) return [];
    const { what, on, note } = i.body as Bodies['due-set'];
    return [{ id: i.entry.id, what, on, note: note ?? '' }];
  });
}
