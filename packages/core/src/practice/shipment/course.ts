import { CELL_WORDS, type CellWord } from '../../ruling/matrix';
import type { Course, Doable, Hurting } from '../staged/course';
import {
  askedOf,
  BROUGHT_TO,
  hurtPack,
  MARKS,
  ruledBy,
  type ShipmentLook,
  type ShipmentMark,
  truthOf,
  type TrueShipment,
} from './shipment';

export type ShipmentAction =
  ShipmentLook | ShipmentMark | 'weigh' | 'down' | 'away' | 'tape' | 'inner' | 'plain' | 'un' | 'envelope' | 'paper' | 'hand';

/** Each action in words, with the minutes it takes. Common practice, no source. */
const ACTIONS: Readonly<Record<ShipmentAction, Doable>> = {
  look: { words: 'Look at it from all sides, smell, feel', minutes: 2 },
  label: { words: 'Read the label', minutes: 1 },
  summary: { words: 'Look for the test summary of its type', minutes: 3 },
  gauge: { words: 'Read its charge', minutes: 2 },
  weigh: { words: 'Weigh it', minutes: 1 },
  down: { words: `Bring it down to ${BROUGHT_TO} % of its rated capacity`, minutes: 60 },
  away: { words: 'Give it to the driver, he is waiting', minutes: 1 },
  tape: { words: 'Cover the contacts, keep it from moving', minutes: 2 },
  inner: { words: 'A bag of its own, and fill round it that does not burn', minutes: 4 },
  plain: { words: 'Into a strong plain box', minutes: 2 },
  un: { words: 'Into a box with a UN mark', minutes: 2 },
  envelope: { words: 'Into a padded envelope', minutes: 1 },
  'battery-mark': { words: 'The battery mark on it', minutes: 1 },
  class9: { words: 'The class 9 label on it', minutes: 1 },
  'damaged-mark': { words: 'The mark DAMAGED/DEFECTIVE on it', minutes: 1 },
  'recycling-mark': { words: 'The mark FOR RECYCLING on it', minutes: 1 },
  'cargo-only': { words: 'The cargo-aircraft label on it', minutes: 1 },
  paper: { words: 'Write the transport document', minutes: 5 },
  hand: { words: 'Hand it over', minutes: 1 },
};

const MARK_WORDS: Readonly<Record<ShipmentMark, string>> = {
  'battery-mark': 'the battery mark',
  class9: 'the class 9 label',
  'damaged-mark': 'the mark DAMAGED/DEFECTIVE',
  'recycling-mark': 'the mark FOR RECYCLING',
  'cargo-only': 'the cargo-aircraft label',
};

const LOOKING: readonly ShipmentAction[] = ['look', 'label', 'summary', 'gauge', 'weigh'];
const BOXES: readonly ShipmentAction[] = ['plain', 'un', 'envelope'];

/** What an action can do to somebody. Common practice, no source. */
function harm(s: TrueShipment, action: ShipmentAction, done: readonly ShipmentAction[]): Hurting<ShipmentAction> | null {
  const hurting = (ends: boolean, why: string) => ({ action, ends, why });
  switch (action) {
    case 'down':
      return hurtPack(s) ? hurting(true, 'A hurt pack is neither charged nor discharged: it heats up with nobody near.') : null;
    case 'away':
      return hurtPack(s)
        ? hurting(true, 'It left unlooked at, unpacked, in a van full of parcels, and it is hurt.')
        : hurting(false, 'It left unlooked at and unpacked. This one was in order; nobody knew.');
    case 'envelope':
      return hurting(hurtPack(s), 'In an envelope it is bent and crushed by whatever lies on it.');
    case 'hand': {
      const asked = askedOf(s, done);
      if (asked.tape && !done.includes('tape'))
        return hurting(true, 'Its contacts were open: keys, foil or another pack touch them in the van.');
      if (asked.inner && !done.includes('inner'))
        return hurting(true, 'A hurt pack with nothing round it that does not burn: it takes the load with it.');
      return null;
    }
    default:
      return null;
  }
}

/** What is missing or wrong on it as it is handed over, in words. */
function slips(s: TrueShipment, done: readonly ShipmentAction[]): string[] {
  if (!done.includes('hand')) return [];
  const asked = askedOf(s, done);
  const has = (a: ShipmentAction) => done.includes(a);
  return [
    ...(BOXES.some(has) ? [] : ['it left without a box']),
    ...(asked.un && has('plain') ? ['it asks for a box with a UN mark'] : []),
    ...asked.marks.filter((m) => !has(m)).map((m) => `${MARK_WORDS[m]} is missing`),
    // A mark that is not asked for is wrong too: it sends somebody the wrong way.
    ...MARKS.filter((m) => has(m) && !asked.marks.includes(m)).map((m) => `${MARK_WORDS[m]} does not belong on it`),
    ...(asked.paper && !has('paper') ? ['its paper is missing'] : []),
  ];
}

/** What an action shows, in words. */
function shows(s: TrueShipment, action: ShipmentAction, done: readonly ShipmentAction[]): readonly string[] {
  const { facts, kg } = s;
  switch (action) {
    case 'label':
      return [
        `${facts.nominalVoltage} V, ${facts.ratedCapacity} Ah, ${facts.ratedEnergy} Wh`,
        facts.energyMarked ? 'watt-hours printed on it' : 'no watt-hours printed on it',
      ];
    case 'look':
      return truthOf({ ...s, facts: { findings: facts.findings ?? [], typeTested: 'yes' } })
        .slice(0, -1)
        .concat((facts.findings ?? []).length === 0 ? ['nothing found'] : []);
    case 'summary':
      return [facts.typeTested === 'yes' ? 'there is one, and it says everything' : 'there is none'];
    case 'gauge':
      return [
        `${done.includes('down') ? Math.min(facts.stateOfCharge ?? 100, BROUGHT_TO) : facts.stateOfCharge} % of rated capacity`,
      ];
    case 'weigh':
      return [`${kg} kg`];
    case 'down':
      return [`${Math.min(facts.stateOfCharge ?? 100, BROUGHT_TO)} % of rated capacity`];
    default:
      return [];
  }
}

/** Everything is found out; it is brought down only where that opens the way. */
function wayOf(s: TrueShipment): Course<ShipmentAction>['way'] {
  const open = (done: readonly ShipmentAction[]) => GOES.includes(ruledBy(s, done).word);
  const down: readonly ShipmentAction[] = [...LOOKING, 'down'];
  const before = !open(LOOKING) && !hurtPack(s) && open(down) ? down : LOOKING;
  if (!open(before)) return { before, after: [] };
  const asked = askedOf(s, before);
  return {
    before,
    after: [
      ...(asked.tape ? (['tape'] as const) : []),
      ...(asked.inner ? (['inner'] as const) : []),
      asked.un ? 'un' : 'plain',
      ...asked.marks,
      ...(asked.paper ? (['paper'] as const) : []),
      'hand',
    ],
  };
}

const GOES: readonly CellWord[] = ['yes', 'as damaged'];

/** A pack that shall go somewhere: what is found out, the ruling on its way, and what has to be done to it before it leaves. */
export const shipmentCourse = (s: TrueShipment): Course<ShipmentAction, CellWord> => ({
  actions: ACTIONS,
  before: [...LOOKING, 'down', 'away'],
  after: ['tape', 'inner', 'plain', 'un', 'envelope', ...MARKS, 'paper', 'hand'],
  words: CELL_WORDS,
  goesOn: GOES,
  ends: ['hand', 'away'],
  rivals: [BOXES],
  title: 'It may go. What do you do?',
  truth: truthOf(s),
  way: wayOf(s),
  ruled: (done) => ruledBy(s, done),
  harm: (action, done) => harm(s, action, done),
  slips: (_after, done) => slips(s, done),
  shows: (action, done) => shows(s, action, done),
  possible: () => true,
  finished: (done) => done.includes('hand'),
  called: () => false,
});
