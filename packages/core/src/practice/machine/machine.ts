import type { IntakeBody, TriageBody } from '../../logbook/entry-job';
import type { Random } from '../random';

/** A closed notebook as it truly is: what a look, a question and a hand find, and what the base hides. */
export interface TrueMachine {
  readonly hands: Required<TriageBody>;
  readonly eyes: Required<Pick<IntakeBody, 'keyboard' | 'trackpad' | 'seam' | 'sound'>>;
  readonly owner: Required<Pick<IntakeBody, 'liquid' | 'drop' | 'consent'>>;
  /** Per cent of full, as the machine shows it. */
  readonly charge: number;
  /** The charger hangs on it. */
  readonly plugged: boolean;
  /** A second pack that slides off without a screw. */
  readonly outer: boolean;
  /** Screws in sight, and under feet or stickers. */
  readonly screws: number;
  readonly hidden: number;
}

/** A notebook with nothing odd about it. */
export const USUAL: TrueMachine = {
  hands: { lid: 'flush', base: 'steady', smell: 'none', touch: 'cool' },
  eyes: { keyboard: 'even', trackpad: 'clicks', seam: 'closed', sound: 'none' },
  owner: { liquid: 'no', drop: 'no', consent: 'given' },
  charge: 20,
  plugged: false,
  outer: false,
  screws: 10,
  hidden: 0,
};

/** What is odd, in the words of the look back. */
export function oddWords({ hands, eyes, owner }: TrueMachine): string[] {
  const said: readonly (readonly [boolean, string])[] = [
    [eyes.sound === 'hiss', 'it was hissing'],
    [hands.smell === 'smell', 'it smelt of solvent'],
    [hands.touch !== 'cool', `it was ${hands.touch} at rest`],
    [hands.lid === 'not flush', 'its lid did not close flush'],
    [hands.base === 'rocks', 'its base rocked'],
    [eyes.keyboard === 'uneven', 'its keyboard was uneven'],
    [eyes.trackpad === 'stiff', 'its trackpad was stiff'],
    [eyes.seam === 'gapes', 'a seam gaped'],
    [owner.liquid === 'yes', 'liquid had got into it'],
    [owner.drop === 'yes', 'it had been dropped'],
    [owner.consent === 'refused', 'its owner did not agree to opening'],
  ];
  return said.filter(([is]) => is).map(([, words]) => words);
}

/** Is there a sign of a pack that is hurt: then it is neither charged nor run down, and no hand in a hurry opens it. */
export const hurt = (m: TrueMachine): boolean => oddWords({ ...m, owner: { ...m.owner, consent: 'given' } }).length > 0;

/** It hisses as it is brought in. */
export const reacts = (m: TrueMachine): boolean => m.eyes.sound === 'hiss';

/** What a machine without a story may have; so many of them have something. */
const ODD: readonly ((m: TrueMachine) => TrueMachine)[] = [
  (m) => ({ ...m, hands: { ...m.hands, lid: 'not flush' } }),
  (m) => ({ ...m, hands: { ...m.hands, base: 'rocks' } }),
  (m) => ({ ...m, eyes: { ...m.eyes, keyboard: 'uneven' } }),
  (m) => ({ ...m, eyes: { ...m.eyes, trackpad: 'stiff' } }),
  (m) => ({ ...m, eyes: { ...m.eyes, seam: 'gapes' } }),
  (m) => ({ ...m, hands: { ...m.hands, smell: 'smell' } }),
  (m) => ({ ...m, hands: { ...m.hands, touch: 'warm' } }),
  (m) => ({ ...m, owner: { ...m.owner, liquid: 'yes' } }),
  (m) => ({ ...m, owner: { ...m.owner, drop: 'yes' } }),
  (m) => ({ ...m, owner: { ...m.owner, consent: 'refused' } }),
];
const SHARE_ODD = 0.55;

/** A machine nobody wrote a story for. */
export function machineOf(r: Random): TrueMachine {
  const plain: TrueMachine = {
    ...USUAL,
    charge: Math.round(r.between(4, 98)),
    plugged: r.chance(0.5),
    outer: r.chance(0.3),
    screws: Math.round(r.between(4, 14)),
    hidden: r.chance(0.5) ? Math.round(r.between(1, 2)) : 0,
  };
  return r.chance(SHARE_ODD) ? r.pick(ODD)(plain) : plain;
}
