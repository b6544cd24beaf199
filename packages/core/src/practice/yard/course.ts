import { RANK } from '../../condition/ladder';
import type { Course, Doable, Hurting } from '../staged/course';
import { conditionOf, dangerous, orderOf, reactsNow, ruledBy, truthOf, type TrueYard, YARD_WORDS, type YardWord } from './yard';

export type YardAction =
  | 'look'
  | 'room'
  | 'shelve'
  | 'leave'
  | 'tape'
  | 'sand'
  | 'date'
  | 'carry'
  | 'called'
  | 'stack'
  | 'door'
  | 'hourly'
  | 'daily'
  | 'months'
  | 'done';

/** Each action in words, with the minutes it takes. Common practice, no source. */
const ACTIONS: Readonly<Record<YardAction, Doable>> = {
  look: { words: 'Look at it from all sides, smell, feel', minutes: 2 },
  room: { words: 'Ask what the places still take', minutes: 1 },
  shelve: { words: 'To the others on the shelf, for now', minutes: 1 },
  leave: { words: 'Leave the room, alarm, call', minutes: 1 },
  tape: { words: 'Cover its contacts', minutes: 1 },
  sand: { words: 'One bag, a metal box that vents, dry sand round it', minutes: 4 },
  date: { words: 'Write date and finding on it', minutes: 1 },
  carry: { words: 'Carry it there yourself', minutes: 2 },
  called: { words: 'Keep people away, have a trained person carry it', minutes: 10 },
  stack: { words: 'On top of the others', minutes: 1 },
  door: { words: 'Beside the way out, where everybody sees it', minutes: 1 },
  hourly: { words: 'Somebody looks every hour', minutes: 1 },
  daily: { words: 'Somebody looks closely, then daily', minutes: 1 },
  months: { words: 'Nobody need look for weeks', minutes: 1 },
  done: { words: 'It lies there', minutes: 0 },
};
const WATCH: readonly YardAction[] = ['hourly', 'daily', 'months'];

/** Someone with training carries it, and nobody else touches it. */
const unstable = (y: TrueYard): boolean => conditionOf(y) === 'critical' && !reactsNow(y);
const watchOf = (y: TrueYard): YardAction => {
  const { watchHours } = orderOf(y);
  return watchHours === null ? 'months' : watchHours <= 1 ? 'hourly' : 'daily';
};

/** What an action can do to somebody. Common practice, no source. */
function harm(y: TrueYard, action: YardAction): Hurting<YardAction> | null {
  const hurting = (ends: boolean, why: string) => ({ action, ends, why });
  if (reactsNow(y) && action !== 'leave')
    return hurting(true, 'It was reacting: nobody touches it or looks closer. Leave, alarm, call; the record comes after.');
  switch (action) {
    case 'shelve':
      return dangerous(y)
        ? hurting(true, 'A hurt pack lay among forty sound ones overnight.')
        : hurting(false, 'It went among the others before anybody looked. This one was in order; nobody knew.');
    case 'carry':
      return unstable(y)
        ? hurting(true, 'It was carried by hand while it was giving way: only trained people, in metal, with dry fill.')
        : null;
    case 'stack':
      return RANK[conditionOf(y)] >= RANK.unproven
        ? hurting(dangerous(y), 'What is not vouched for lies apart: on a heap the first that goes takes the others along.')
        : null;
    case 'door':
      return dangerous(y) ? hurting(false, 'A hurt pack beside the way out: when it burns, nobody gets past it.') : null;
    default:
      return null;
  }
}

/** What is missing or wrong as it lies there, in words. */
function slips(y: TrueYard, done: readonly YardAction[]): string[] {
  if (!done.includes('done')) return [];
  const has = (a: YardAction) => done.includes(a);
  const condition = conditionOf(y);
  const watch = watchOf(y);
  return [
    ...(has('carry') || has('called') ? [] : ['it still lies on the bench']),
    ...(condition !== 'unproven' && !unstable(y) && !has('tape') ? ['its contacts are open'] : []),
    ...(condition === 'damaged' && !has('sand') ? ['nothing round it that does not burn'] : []),
    ...((condition === 'damaged' || condition === 'spent') && !has('date') ? ['nobody can see what it is, or since when'] : []),
    ...(has('stack') && condition === 'sound' ? ['packs lie side by side, not on each other'] : []),
    ...(has(watch) ? [] : [`the watch is wrong: ${ACTIONS[watch].words.toLowerCase()}`]),
  ];
}

function wayOf(y: TrueYard): Course<YardAction>['way'] {
  if (reactsNow(y)) return { before: ['leave'], after: [] };
  const condition = conditionOf(y);
  const guarded: readonly YardAction[] =
    condition === 'damaged'
      ? ['tape', 'sand', 'date']
      : condition === 'spent'
        ? ['tape', 'date']
        : condition === 'sound'
          ? ['tape']
          : [];
  return {
    before: ['look', 'room'],
    after: unstable(y) ? ['called', watchOf(y), 'done'] : [...guarded, 'carry', watchOf(y), 'done'],
  };
}

/** A pack that has to be put somewhere: what is found, where the storage order puts it, and what is done to it there. */
export const yardCourse = (y: TrueYard): Course<YardAction, YardWord> => ({
  actions: ACTIONS,
  before: ['look', 'room', 'shelve', 'leave'],
  after: ['tape', 'sand', 'date', 'carry', 'called', 'stack', 'door', ...WATCH, 'done'],
  words: YARD_WORDS,
  goesOn: YARD_WORDS.slice(0, -1),
  ends: ['leave', 'done'],
  rivals: [WATCH, ['carry', 'called']],
  title: 'There it goes. What do you do?',
  truth: truthOf(y),
  way: wayOf(y),
  ruled: (done) => ruledBy(y, done),
  harm: (action) => harm(y, action),
  slips: (_after, done) => slips(y, done),
  shows: (action) =>
    action === 'look'
      ? truthOf({ ...y, full: [] })
          .slice(1)
          .concat(y.findings.length === 0 ? ['nothing found'] : [])
      : action === 'room'
        ? [y.full.length > 0 ? `full: ${y.full.join(', ')}` : 'every kind of place has room']
        : [],
  possible: () => true,
  // Whoever put it among the unexamined without a look was right by chance.
  finished: (done) => done.includes('look') && done.includes('done') && (done.includes('carry') || done.includes('called')),
  called: (done) => reactsNow(y) && done.includes('leave'),
});
