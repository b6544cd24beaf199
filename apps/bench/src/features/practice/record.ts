import type { Practised } from '@gavrel/contract';
import { writeList } from '@gavrel/core/batch';
import {
  type Debrief,
  DIFFICULTIES,
  endless,
  endlessMachine,
  endlessShipment,
  endlessStore,
  type Scenario,
  type Session,
  type StagedDebrief,
  type StagedScenario,
  type StagedSession,
  WRITTEN,
} from '@gavrel/core/practice';
import { type Card, createEmptyCard, fsrs, type Grade, Rating } from 'ts-fsrs';

/** When a written scenario comes back; dates as ISO 8601. */
type Kept = Omit<Card, 'due' | 'last_review'> & { readonly due: string; readonly last_review?: string };

/** What one person practised on this device. */
export interface PracticeRecord {
  readonly played: readonly Practised[];
  readonly cards: Readonly<Record<string, Kept>>;
  /** Scenarios of other people, from files. */
  readonly own?: readonly Scenario[];
}

export const NOTHING_YET: PracticeRecord = { played: [], cards: {} };

/** Sessions that are kept: old ones say little of what somebody can do now. */
const MOST = 500;
/** Whole days only, nothing at random: the same sessions bring the same days. */
const scheduler = fsrs({ enable_fuzz: false, enable_short_term: false });

const cardOf = (k: Kept | undefined): Card =>
  k
    ? ({ ...k, due: new Date(k.due), last_review: k.last_review ? new Date(k.last_review) : undefined } as Card)
    : createEmptyCard();

/** How a session ended. */
export type Ended = Omit<Practised, 'begun' | 'at'>;

export const endOfPack = (s: Session, d: Debrief): Ended => ({
  scenario: s.scenario.id,
  full: d.full,
  harm: d.harm.length,
  found: d.found,
  bet: s.bet && { sure: s.bet.sure, right: s.bet.condition === d.ruled },
});

export const endOfStaged = (scenario: string, s: StagedSession, d: StagedDebrief): Ended => ({
  scenario,
  full: d.full,
  harm: d.harm.length,
  found: d.found,
  bet: s.bet && { sure: s.bet.sure, right: d.right === true },
});

/** Harm, or a danger not found, begins again; all else by how much was right. */
const gradeOf = (d: Ended): Grade => (d.harm > 0 || !d.found ? Rating.Again : d.full ? Rating.Good : Rating.Hard);

/**
 * Writes down how a session ended, and when its scenario comes back. What ended twice, by two taps or in two tabs, counts once.
 * @param begun when it began, ISO 8601 UTC.
 */
export function withSession(r: PracticeRecord, ended: Ended, begun: string, now: Date): PracticeRecord {
  const id = ended.scenario;
  if (r.played.some((p) => p.scenario === id && p.begun === begun)) return r;
  const one: Practised = { ...ended, begun, at: now.toISOString() };
  const played = [...r.played, one].slice(-MOST);
  if (!WRITTEN.some((x) => x.id === id)) return { ...r, played };
  const before = cardOf(r.cards[id]);
  // A clock that was turned back does not unlearn anything.
  const at = before.last_review && before.last_review > now ? before.last_review : now;
  const { card } = scheduler.next(before, at, gradeOf(ended));
  return { ...r, played, cards: { ...r.cards, [id]: JSON.parse(JSON.stringify(card)) as Kept } };
}

/** How a scenario went last; undefined where it was not tried. */
export const lastOf = (r: PracticeRecord, id: string): Practised | undefined =>
  [...r.played].reverse().find((p) => p.scenario === id);

/** What to practise now: what comes back and is due, the longest due first; then what was not tried; then anything. */
export function nextScenario(r: PracticeRecord, now: Date): Scenario | StagedScenario {
  const due = WRITTEN.filter((s) => r.cards[s.id] && Date.parse(r.cards[s.id]!.due) <= now.getTime());
  const [longest] = [...due].sort((a, b) => Date.parse(r.cards[a.id]!.due) - Date.parse(r.cards[b.id]!.due));
  return longest ?? WRITTEN.find((s) => !r.cards[s.id]) ?? endless(seedOf(now), 'subtle');
}

/** A pack of its own for every moment. */
export const seedOf = (now: Date): number => Math.floor(now.getTime() / 1000) % 1_000_000_007;

/** The scenario of an address; null where nobody wrote one of that name. @param own of other people's. */
export function scenarioOf(id: string, own: readonly Scenario[] = []): Scenario | StagedScenario | null {
  const [, kind, of] = /^(machine|shipment|place)-(\d{1,10})$/.exec(id) ?? [];
  if (of !== undefined)
    return { machine: endlessMachine, shipment: endlessShipment, place: endlessStore }[kind as 'machine'](Number(of));
  const [, hard, seed] = /^endless-([a-z]+)-(\d{1,10})$/.exec(id) ?? [];
  const difficulty = DIFFICULTIES.find((d) => d === hard);
  return difficulty && seed !== undefined
    ? endless(Number(seed), difficulty)
    : ([...WRITTEN, ...own].find((s) => s.id === id) ?? null);
}

/** How often one was right where one said to be so sure. */
export interface Calibration {
  readonly sure: number;
  readonly bets: number;
  readonly right: number;
}

/** Bets by how sure they were, the least sure first. */
export function calibrationOf(played: readonly Practised[]): Calibration[] {
  const by = new Map<number, Calibration>();
  for (const { bet } of played) {
    if (!bet) continue;
    const c = by.get(bet.sure) ?? { sure: bet.sure, bets: 0, right: 0 };
    by.set(bet.sure, { ...c, bets: c.bets + 1, right: c.right + Number(bet.right) });
  }
  return [...by.values()].sort((a, b) => a.sure - b.sure);
}

/** Mean squared difference of how sure the bets were and how they came (Brier 1950): 0 is best, 1 worst. Null without a bet. */
export function brierOf(played: readonly Practised[]): number | null {
  const bets = played.flatMap((p) => p.bet ?? []);
  return bets.length === 0 ? null : bets.reduce((sum, b) => sum + (Number(b.right) - b.sure) ** 2, 0) / bets.length;
}

const COLUMNS = ['begun', 'ended', 'scenario', 'grade', 'unsafe acts', 'found', 'all right', 'sure %', 'bet right'] as const;

/** What was practised as CSV, the oldest first: for whoever must show it. */
export const practiceCsv = (played: readonly Practised[]): string =>
  writeList(
    COLUMNS,
    played.map((p) => {
      const of = scenarioOf(p.scenario);
      const yes = (x: boolean) => (x ? 'yes' : 'no');
      return [
        p.begun,
        p.at,
        of?.title ?? p.scenario,
        of?.grade ?? '',
        String(p.harm),
        yes(p.found),
        yes(p.full),
        p.bet ? String(Math.round(p.bet.sure * 100)) : '',
        p.bet ? yes(p.bet.right) : '',
      ];
    }),
  );
