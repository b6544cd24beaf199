import type { IntakeBody, TriageBody } from './entry-job';
import type { LoggedEntry } from './entry';
import { type Item, when } from './standing';

/**
 * Answers from least to most dangerous. A question that is listed is a sign: a milder answer to it stands only when a second person,
 * trained to assess, agrees; a worse one stands at once. What is not listed (words, wishes, the charge of the moment) is what was said last.
 */
export const TRIAGE_SIGNS = {
  lid: ['flush', 'not flush'],
  base: ['steady', 'rocks'],
  smell: ['none', 'smell'],
  touch: ['cool', 'warm', 'hot'],
} as const satisfies { [K in keyof TriageBody]-?: readonly NonNullable<TriageBody[K]>[] };

export const INTAKE_SIGNS = {
  keyboard: ['even', 'uneven'],
  trackpad: ['clicks', 'stiff'],
  seam: ['closed', 'gapes'],
  sound: ['none', 'hiss'],
  liquid: ['no', 'unknown', 'yes'],
  drop: ['no', 'unknown', 'yes'],
} as const satisfies { [K in keyof IntakeBody]?: readonly IntakeBody[K][] };

type Signs = Readonly<Record<string, readonly unknown[]>>;

/** How dangerous an answer is; -1 for what is no sign. */
const rankOf = (signs: Signs, question: string, answer: unknown): number => signs[question]?.indexOf(answer) ?? -1;

/** One statement on one question, in a history. */
export interface Answer {
  readonly id: string;
  readonly by: string;
  readonly at: string;
  readonly value: unknown;
  /** Milder than what stands, and nobody else agreed yet. */
  readonly waits: boolean;
}

export interface Answers<T> {
  /** What stands on each question. */
  readonly said: T;
  /** Every statement on each question, oldest first. */
  readonly history: Readonly<Record<string, readonly Answer[]>>;
}

interface Said {
  readonly item: Item;
  readonly value: unknown;
  readonly rank: number;
  /** A second person agreed with it. */
  readonly agreed: boolean;
}

/** Is a statement outweighed by a milder one that two people stand for? One that came in later than that is not: nobody knew of it. */
const outweighed = (s: Said, all: readonly Said[]): boolean =>
  all.some(
    (m) =>
      m.agreed &&
      m.rank < s.rank &&
      when(m.item.entry) >= when(s.item.entry) &&
      s.item.entry.seq !== null &&
      s.item.entry.seq < m.item.entry.seq!,
  );

/** Answers of statements in their order; the same set in any order gives the same. */
export function answersOf<T extends object>(
  items: readonly Item[],
  signs: Signs,
  confirmed: (e: LoggedEntry) => boolean,
): Answers<T> {
  const questions = new Map<string, Said[]>();
  for (const item of items) {
    for (const [question, value] of Object.entries(item.body as object)) {
      // A correction that waits for its second person adds what is worse, and takes nothing away.
      const agreed = confirmed(item.entry) && !item.unconfirmed;
      const list = questions.get(question);
      const said = { item, value, rank: rankOf(signs, question, value), agreed };
      if (list) list.push(said);
      else questions.set(question, [said]);
    }
  }
  const said: Record<string, unknown> = {};
  const history: Record<string, Answer[]> = {};
  for (const [question, all] of questions) {
    const alive = all.filter((s) => !outweighed(s, all));
    said[question] = alive.reduce((a, b) => (b.rank >= a.rank ? b : a)).value;
    history[question] = all.map((s, i) => ({
      id: s.item.entry.id,
      by: s.item.entry.by,
      at: when(s.item.entry),
      value: s.value,
      waits: !s.agreed && all.slice(0, i).some((x) => x.rank > s.rank && alive.includes(x)),
    }));
  }
  return { said: said as T, history };
}

/** Does a statement answer a question with something milder than what stands? Then it waits. */
export const milderAnswers = (signs: Signs, said: object, body: object): string[] =>
  Object.entries(body).flatMap(([question, value]) => {
    const stands = (said as Record<string, unknown>)[question];
    return stands !== undefined && rankOf(signs, question, value) < rankOf(signs, question, stands) ? [question] : [];
  });

/** Is there a sign of danger in it? */
export const hasSign = (signs: Signs, body: object): boolean =>
  Object.entries(body).some(([question, value]) => rankOf(signs, question, value) > 0);
