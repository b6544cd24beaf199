import type { Judgement } from '../condition/condition';
import type { DueItem, PackFacts } from '../logbook/fold';
import type { Waiting } from '../logbook/standing';
import { storageOrder } from '../storage/order';

const SET_TITLES: Readonly<Record<DueItem['what'], string>> = {
  proof: 'Show that it works',
  look: 'Look again',
  return: 'Return owed',
  clock: 'Time runs out',
};
/** What somebody set, as what to do; a kind of a newer program by its name. */
const setTitle = (d: DueItem): string => SET_TITLES[d.what] ?? d.what;

/** One line of the list of what is due. */
export interface Due extends Omit<DueItem, 'what'> {
  readonly what: DueItem['what'] | 'second person' | 'stay' | 'discharge' | 'dispatch' | 'receipt';
  /** What to do, in a few words: "Look at TH-166". */
  readonly title: string;
  /** The moment, where a day is too coarse; ISO 8601 UTC. */
  readonly at?: string;
  readonly subject: string;
  /** True when nobody set it: it follows from what the pack is. */
  readonly derived: boolean;
}

/** What of a pack's facts decides what it owes, beside its condition; of its looks the newest are enough. */
export interface OwingPack extends Pick<
  PackFacts,
  'id' | 'tag' | 'left' | 'place' | 'placedAt' | 'cameBack' | 'lastAt' | 'wasteSince' | 'dues' | 'waiting' | 'discharge'
> {
  readonly looks: readonly { readonly at: string }[];
  /** Looks at the container it lies in. */
  readonly containers: readonly { readonly at: string }[];
  /** When something dangerous was found of it last; null where nothing was. */
  readonly foundAt: string | null;
}

/**
 * Looks, proofs and confirmations owed for one pack; days are local days. Nobody here can look at one that left.
 */
export function duesOf(
  facts: Omit<OwingPack, 'foundAt'>,
  j: Pick<Judgement, 'condition' | 'kind'>,
  localDay: (iso: string) => string,
): Due[] {
  const subject = `pack:${facts.id}`;
  const out: Due[] = facts.dues.map((d) => ({ ...d, title: setTitle(d), subject, derived: false }));
  const hours = storageOrder(j.condition, j.kind).watchHours;
  // Whatever happened to it on its way: it is looked at before anything else.
  const cameBack = facts.cameBack !== undefined && !facts.looks.some((l) => l.at > facts.cameBack!);
  if ((hours !== null || cameBack) && facts.left === null) {
    const looks = [...facts.looks, ...facts.containers].map((l) => l.at).sort();
    const last = looks[looks.length - 1];
    const at = cameBack
      ? facts.cameBack!
      : last && hours !== null
        ? new Date(Date.parse(last) + hours * 3_600_000).toISOString()
        : facts.lastAt;
    out.push({
      id: `look:${facts.id}`,
      what: 'look',
      on: localDay(at),
      title: `Look at ${facts.tag}`,
      note: cameBack ? 'it came back, and nobody looked yet' : j.condition,
      subject,
      derived: true,
    });
  }
  if (facts.discharge && facts.left === null) {
    const { id, to, until } = facts.discharge;
    const title = `Is ${facts.tag} at ${to} %?`;
    const note = 'being brought down: somebody stays with it';
    out.push({ id, what: 'discharge', title, on: localDay(until), at: until, note, subject, derived: true });
  }
  return [...out, ...waitDues(facts, facts.tag, subject, localDay)];
}

/** What waits for a second person. @param name of what it is about. */
export function waitDues(
  facts: { readonly waiting: readonly Waiting[] },
  name: string,
  subject: string,
  localDay: (iso: string) => string,
): Due[] {
  return facts.waiting.map((w) => ({
    id: w.id,
    what: 'second person',
    on: localDay(w.at),
    title: `Second person for ${name}`,
    note: w.reason || 'an answer at intake',
    subject,
    derived: true,
  }));
}

/** Dues that were set on a job or a place, as lines of the list. */
export function setDues(
  type: 'job' | 'place' | 'consignment',
  facts: { readonly id: string; readonly dues: readonly DueItem[] },
): Due[] {
  return facts.dues.map((d) => ({ ...d, title: setTitle(d), subject: `${type}:${facts.id}`, derived: false }));
}

/** Most overdue first. */
export const byDay = (a: Due, b: Due): number =>
  a.on !== b.on
    ? a.on < b.on
      ? -1
      : 1
    : (a.at ?? '') !== (b.at ?? '')
      ? (a.at ?? '') < (b.at ?? '')
        ? -1
        : 1
      : a.id < b.id
        ? -1
        : 1;
