import type { IntakeBody, TriageBody } from './entry-job';

/** Every question at intake, as it stands on the screen. */
export const QUESTION_WORDS: Readonly<Record<keyof TriageBody | keyof IntakeBody, string>> = {
  lid: 'lid',
  base: 'base on the table',
  smell: 'smell',
  touch: 'to the hand',
  keyboard: 'keyboard',
  trackpad: 'trackpad',
  seam: 'seams',
  sound: 'sound',
  liquid: 'liquid on it',
  drop: 'dropped',
  charger: 'another charger',
  warranty: 'maker’s warranty',
  consent: 'agrees to opening',
  oldPack: 'old pack',
  charge: 'charge',
  complaint: 'what is wrong',
  ownerSaw: 'what the owner saw',
  agreed: 'what was agreed',
};

/** One answer in words: "base on the table: rocks". */
export function answerWords(question: string, value: unknown): string {
  const asked = (QUESTION_WORDS as Readonly<Record<string, string>>)[question] ?? 'another question';
  return `${asked}: ${String(value)}${question === 'charge' ? ' %' : ''}`;
}

/** All answers of one statement. */
export const answersWords = (body: object): string =>
  Object.entries(body)
    .map(([question, value]) => answerWords(question, value))
    .join(', ');
