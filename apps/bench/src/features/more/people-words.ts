import type { Role, TrailItem, TrailWhat } from '@gavrel/contract';

/** What each role may do, in one line; the server holds to it on every route. */
export const ROLE_WORDS: Record<Role, string> = {
  technician: 'works on machines and packs: measures, looks, moves, records findings, signs as second person',
  lead: 'all of that, and: places and policy, people, quiet hours, incidents over, erasing pictures and owners',
  shipper: 'all a technician does, and: hands drums over, answers the recycler',
  viewer: 'reads only; may still say that something smokes',
  outside: 'never signs in; signs as second person by a one-time code, while trained to assess',
};

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
  'wrong-tries': 'tried too often and wrong to be',
};

/** What nobody signed in did. */
const STRANGER: readonly TrailWhat[] = ['wrong-tries'];

/** "Ines Calder made a new passphrase for Tomas Ripley". */
export function trailWords(t: TrailItem, nameOf: (id: string | null) => string): string {
  const about = t.about ? ` ${nameOf(t.about)}` : '';
  const who = t.by === null && STRANGER.includes(t.what) ? 'Somebody' : nameOf(t.by);
  return `${who} ${DID[t.what]}${about}${t.note ? `: ${t.note}` : ''}`;
}
