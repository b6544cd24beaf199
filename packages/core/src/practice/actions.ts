import type { Act } from './measure';
import { REST_DAYS, RESTED } from './measure';
import { dangerous, DANGEROUS_GROWTH, type TruePack } from './world';

/** What somebody in a hurry does with a pack. */
type Shortcut = 'cells at once' | 'charge' | 'lever' | 'press' | 'refit';
/** Everything that can be done at the practice bench; `leave` is leaving the room and calling. */
export type Action = Act | Shortcut | 'leave';

/** Minutes that cell readings at the taps take. */
const TAPS = 10;

/** Each action in words, in the order it is offered, with the minutes it takes. Common practice, no source. */
export const ACTIONS: Readonly<Record<Action, { readonly words: string; readonly minutes: number }>> = {
  look: { words: 'Look at it from all sides', minutes: 2 },
  label: { words: 'Read the label', minutes: 1 },
  weigh: { words: 'Weigh it', minutes: 1 },
  temperature: { words: 'Temperature of pack and room', minutes: 2 },
  thickness: { words: 'Thickness with the calliper', minutes: 3 },
  gauge: { words: 'Read its gauge', minutes: 2 },
  'cells at once': { words: 'Cells at the taps, at once', minutes: TAPS },
  cells: { words: 'Cells at the taps, after four hours of rest', minutes: RESTED + TAPS },
  rest: { words: 'Cells again after twelve days of rest', minutes: REST_DAYS * 24 * 60 + TAPS },
  press: { words: 'Press it flat', minutes: 1 },
  lever: { words: 'Lever it out with a screwdriver', minutes: 1 },
  charge: { words: 'Charge it and see', minutes: 60 },
  refit: { words: 'Fit it and hand the machine back', minutes: 15 },
  leave: { words: 'Leave the room, alarm, call', minutes: 1 },
};

/** An action that can hurt somebody, and why. */
export interface Harm {
  readonly action: Action;
  /** It ends there: the pack reacts, or somebody takes it home. */
  readonly ends: boolean;
  readonly why: string;
}

/**
 * What an action can do with this pack; null: nothing. Common practice, no source.
 * @param reacting it hisses, smokes or burns now.
 */
export function harmOf(p: TruePack, action: Action, reacting: boolean): Harm | null {
  const harm = (ends: boolean, why: string): Harm => ({ action, ends, why });
  if (reacting && action !== 'leave')
    return harm(true, 'It was reacting: nobody touches or measures it. Leave, alarm, call; the record comes after.');
  switch (action) {
    case 'charge':
      return dangerous(p)
        ? harm(true, 'It was charged with a fault in it: that is how packs catch fire.')
        : harm(false, 'It was charged before anybody judged it. This one held; the next may not.');
    case 'press':
      return p.growth >= DANGEROUS_GROWTH
        ? harm(true, 'A swollen pack was pressed flat: the layers inside touch, and it vents.')
        : harm(false, 'Pressing tells nothing that a calliper does not, and a swollen pack would have vented.');
    case 'lever':
      return p.growth >= DANGEROUS_GROWTH || p.faults.includes('dent') || p.faults.includes('puncture')
        ? harm(true, 'Metal went into a cell that was swollen or hurt already: it vents.')
        : harm(false, 'Metal at a cell: once it slips. Plastic, flat, from the side away from the cells.');
    case 'refit':
      return dangerous(p)
        ? harm(true, 'Somebody carried it home in a machine, and charges it tonight.')
        : harm(false, 'It went back before anybody judged it. This one was in order; nobody knew.');
    default:
      return null;
  }
}
