import type { Person, Role, TrailItem, TrailWhat, Training } from '@gavrel/contract';
import type { Mode, Region } from '@gavrel/core';

export const TRAINED_FOR: Record<Training['kind'], string> = {
  assess: 'assessing packs',
  air: 'air',
  us: 'United States road and rail',
  adr: 'road and rail (ADR, RID)',
  sea: 'sea',
};

/** "air until 2027-03-31", or that it ran out. */
export const trainingWords = (t: Training, today: string): string =>
  `${TRAINED_FOR[t.kind]} ${t.until < today ? `ran out ${t.until}` : `until ${t.until}`}`;

/** What each role may do, in one line; the server holds to it on every route. */
export const ROLE_WORDS: Record<Role, string> = {
  technician: 'works on machines and packs: measures, looks, moves, records findings, signs as second person',
  lead: 'all of that, and: places and policy, people, quiet hours, incidents over, erasing pictures and owners',
  shipper: 'all a technician does, and: hands drums over, answers the recycler',
  viewer: 'reads only; may still say that something smokes',
  outside: 'never signs in; signs as second person by a one-time code, while trained to assess',
};

/** Which training a way asks for. */
export function trainingFor(mode: Mode, region: Region): Training['kind'] {
  if (mode === 'air-cargo' || mode === 'air-passenger') return 'air';
  if (mode === 'sea') return 'sea';
  return region === 'us' ? 'us' : 'adr';
}

/** Who has a current training of a kind, or that nobody has. */
export function trainedWords(people: readonly Person[], kind: Training['kind'], today: string): string {
  const who = people.flatMap((p) => {
    const t = p.trainings?.find((x) => x.kind === kind && x.until >= today);
    return t ? [`${p.name} until ${t.until}`] : [];
  });
  return who.length > 0 ? `Trained here: ${who.join(', ')}` : 'Nobody here has a current training for it on record';
}

/** What happened, as a sentence goes on after a name. */
const DID: Record<TrailWhat, string> = {
  'signed-in': 'signed in',
  switched: 'took a device over by PIN',
  'signed-out': 'signed out',
  invited: 'invited',
  'outside-named': 'named somebody outside:',
  'role-changed': 'changed the role of',
  'shut-out': 'lets in no longer',
  'let-in': 'lets in again',
  reset: 'made a new passphrase for',
  'passphrase-set': 'chose a passphrase',
  'pin-set': 'set a PIN',
  'training-set': 'changed the training of',
};

/** "Ines Calder made a new passphrase for Tomas Ripley". */
export function trailWords(t: TrailItem, nameOf: (id: string | null) => string): string {
  const about = t.about ? ` ${nameOf(t.about)}` : '';
  return `${nameOf(t.by)} ${DID[t.what]}${about}${t.note ? `: ${t.note}` : ''}`;
}
