import type { Person, Training } from '@gavrel/contract';
import { type Mode, type Region, REGION_RULES } from '@gavrel/core';
import { dayWords } from './say';

/** What somebody is trained for. */
export const TRAINED_FOR: Record<Training['kind'], string> = {
  assess: 'assessing packs',
  air: 'air',
  us: 'United States road and rail',
  adr: 'road and rail (ADR, RID)',
  sea: 'sea',
};

/** "air until 2027-03-31", or that it ran out. */
export const trainingWords = (t: Training, today: string): string =>
  `${TRAINED_FOR[t.kind]} ${t.until < today ? `ran out ${dayWords(t.until)}` : `until ${dayWords(t.until)}`}`;

/** Which training a way asks for. */
export function trainingFor(mode: Mode, region: Region): Training['kind'] {
  if (mode === 'air-cargo' || mode === 'air-passenger') return 'air';
  if (mode === 'sea') return 'sea';
  return REGION_RULES[region].road === '49cfr' ? 'us' : 'adr';
}

/** Who has a current training of a kind, or that nobody has. */
export function trainedWords(people: readonly Person[], kind: Training['kind'], today: string): string {
  const who = people.flatMap((p) => {
    const t = p.trainings?.find((x) => x.kind === kind && x.until >= today);
    return t ? [`${p.name} until ${dayWords(t.until)}`] : [];
  });
  return who.length > 0 ? `Trained here: ${who.join(', ')}` : 'Nobody here has a current training for it on record';
}
