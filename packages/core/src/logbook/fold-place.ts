import { type Bodies, byTime, type LoggedEntry, subjectId, subjectType } from './entry';
import type { ContainerLookBody, PlaceDescription, YardBodies } from './entry-yard';
import { type DueItem, openDues } from './fold';
import { type Item, note, type Statement, standing, when } from './standing';

export interface PlaceFacts extends Omit<PlaceDescription, 'holds'> {
  readonly id: string;
  readonly name: string;
  readonly kind: Bodies['place-added']['kind'];
  readonly holds: Bodies['place-added']['holds'];
  readonly dues: readonly DueItem[];
  readonly closed: { readonly at: string; readonly reason: string } | null;
  readonly looks: readonly Statement<ContainerLookBody>[];
  /** Looks whose alarm somebody trained to assess has answered. */
  readonly answered: readonly string[];
  /** The last count by scan. */
  readonly counted: { readonly at: string; readonly seen: readonly string[]; readonly strangers: readonly string[] } | null;
  /** What left from here, oldest first. */
  readonly collections: readonly Collection[];
  readonly lastAt: string;
}

export interface Collection extends Omit<YardBodies['drum-collected'], 'collection'> {
  readonly id: string;
  readonly at: string;
  readonly packs: readonly string[];
  readonly answered: Omit<YardBodies['drum-answered'], 'collection'> | null;
}

/** Parts of one collection are one; what the recycler said last of it stands. */
function collectionsOf(items: readonly Item[]): Collection[] {
  const out = new Map<string, Collection>();
  for (const i of items) {
    if (i.kind === 'drum-collected') {
      const { collection: id, ...said } = i.body as YardBodies['drum-collected'];
      const packs = i.entry.subjects.filter((s) => subjectType(s) === 'pack').map(subjectId);
      const known = out.get(id);
      out.set(id, {
        ...known,
        ...said,
        id,
        at: known?.at ?? when(i.entry),
        packs: [...new Set([...(known?.packs ?? []), ...packs])],
        answered: known?.answered ?? null,
      });
    } else if (i.kind === 'drum-answered') {
      const { collection: id, ...said } = i.body as YardBodies['drum-answered'];
      const known = out.get(id);
      if (known) out.set(id, { ...known, answered: { ...known.answered, ...said } });
    }
  }
  return [...out.values()];
}

/**
 * Folds one place; null before it was added. The last word on each question counts. Adding a place that is open changes nothing: what it
 * may hold is said by describing it; one that was closed is opened anew.
 */
export function foldPlace(id: string, entries: readonly LoggedEntry[]): PlaceFacts | null {
  // Moves are the packs' own history: a shelf does not read a year of them.
  const all = entries.filter((e) => e.kind !== 'moved').sort(byTime);
  const { items } = standing(all);
  const of = <K extends keyof YardBodies>(kind: K) =>
    items.filter((i) => i.kind === kind).map((i) => ({ item: i, body: i.body as YardBodies[K] }));
  const closed = of('place-closed').pop();
  const adds = of('place-added');
  const added = adds.find((a) => closed === undefined || when(a.item.entry) > when(closed.item.entry)) ?? adds[0];
  if (!added) return null;
  const counted = of('place-counted').pop();
  const later = (i: Item) => when(i.entry) > when(added.item.entry);
  return {
    id,
    ...added.body,
    ...(Object.assign({}, ...of('place-described').map((d) => d.body)) as PlaceDescription),
    dues: openDues(items),
    closed: closed && later(closed.item) ? { at: when(closed.item.entry), reason: closed.body.reason } : null,
    looks: of('container-looked').map(({ item, body }) => note(item, body)),
    answered: [...new Set(of('alarm-answered').flatMap((a) => a.body.answers))].sort(),
    counted: counted ? { at: when(counted.item.entry), seen: counted.body.seen, strangers: counted.body.strangers ?? [] } : null,
    collections: collectionsOf(items),
    lastAt: when(all[all.length - 1]!),
  };
}

export type RoundFacts = YardBodies['sweep-walked'] & { readonly id: string; readonly at: string; readonly by: string };

/** Folds one walk through the yard; null before it was written down. What was said last of each point stands. */
export function foldRound(id: string, entries: readonly LoggedEntry[]): RoundFacts | null {
  const items = standing([...entries].sort(byTime)).items.filter((i) => i.kind === 'sweep-walked');
  const last = items[items.length - 1];
  if (!last) return null;
  const points = Object.assign({}, ...items.map((i) => (i.body as YardBodies['sweep-walked']).points));
  return { id, ...(last.body as YardBodies['sweep-walked']), points, at: when(last.entry), by: last.entry.by };
}
