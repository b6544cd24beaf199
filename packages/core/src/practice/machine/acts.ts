import type { Doable, Hurting } from '../staged/course';
import { oddWords, hurt, reacts, type TrueMachine } from './machine';
import { counted } from '../../quantity/counted';

/** What is done before a screw turns, and what is done inside; safe and unsafe side by side. */
export const OUTSIDE = ['owner', 'hands', 'eyes', 'shown', 'unplug', 'run-down', 'charge', 'trained', 'hurry', 'leave'] as const;
export const INSIDE = [
  'off',
  'unplug',
  'outer',
  'feet',
  'map',
  'cup',
  'plastic',
  'metal',
  'fan',
  'shoulders',
  'wires',
  'drain',
  'dead',
] as const;
export type MachineAction = (typeof OUTSIDE)[number] | (typeof INSIDE)[number];

/** Per cent of full that is left once it was run down. */
export const RUN_DOWN_TO = 22;

/** Each action in words, with the minutes it takes. Common practice, no source. */
export const MACHINE_ACTIONS: Readonly<Record<MachineAction, Doable>> = {
  owner: { words: 'Ask the owner: liquid, a fall, and may it be opened', minutes: 3 },
  hands: { words: 'Smell it, touch it, lay it flat', minutes: 1 },
  eyes: { words: 'Look at keyboard, trackpad and seam, and listen', minutes: 1 },
  shown: { words: 'Read the charge it shows', minutes: 1 },
  unplug: { words: 'Unplug the charger', minutes: 1 },
  'run-down': { words: `Unplug it and run it down to ${RUN_DOWN_TO} %`, minutes: 80 },
  charge: { words: 'Plug it in to see whether it charges', minutes: 10 },
  trained: { words: 'Call the trained person, at the station for swollen packs', minutes: 10 },
  hurry: { words: 'Open it: what is wrong will show', minutes: 5 },
  leave: { words: 'Leave the room, alarm, call', minutes: 1 },
  off: { words: 'Shut it down, fully, not asleep', minutes: 1 },
  outer: { words: 'Slide the outer pack off', minutes: 1 },
  feet: { words: 'Look under feet, strips and stickers', minutes: 2 },
  map: { words: 'Screws out, each onto the map', minutes: 8 },
  cup: { words: 'Screws out, all into one cup', minutes: 5 },
  plastic: { words: 'Open the seam: plastic, shallow, away from the pack', minutes: 4 },
  metal: { words: 'Open the seam: a screwdriver where it is tightest', minutes: 1 },
  fan: { words: 'Take the fan out, it is in the way', minutes: 5 },
  shoulders: { words: 'The pack’s plug out, by its shoulders', minutes: 1 },
  wires: { words: 'The pack’s plug out, by its wires', minutes: 1 },
  drain: { words: 'Hold the power key, to drain what is left', minutes: 1 },
  dead: { words: 'Say that it is isolated', minutes: 0 },
};

/** What is still live of a machine on which these were done, in words. */
export function liveOf(m: TrueMachine, done: readonly MachineAction[]): string[] {
  const did = (...some: MachineAction[]) => some.some((a) => done.includes(a));
  return [
    ...(m.plugged && !did('unplug', 'run-down') ? ['the charger'] : []),
    ...(m.outer && !did('outer') ? ['the outer pack'] : []),
    ...(did('shoulders', 'wires') ? [] : ['the pack inside']),
  ];
}

/**
 * What an action can do to somebody; null: nothing. Common practice, no source.
 * @param before what was done before it.
 */
export function machineHarm(
  m: TrueMachine,
  action: MachineAction,
  before: readonly MachineAction[],
): Hurting<MachineAction> | null {
  const harm = (ends: boolean, why: string): Hurting<MachineAction> => ({ action, ends, why });
  const why = oddWords(m).join(', ');
  if (reacts(m) && action !== 'leave')
    return harm(true, 'It was hissing: nobody touches it. Leave, alarm, call; the record comes after.');
  switch (action) {
    case 'run-down':
      return hurt(m)
        ? harm(true, `A hurt pack is neither charged nor discharged: it is opened with the charge as found (${why}).`)
        : null;
    case 'charge':
      return hurt(m)
        ? harm(true, `It was charged with a hurt pack in it: that is how they catch fire (${why}).`)
        : harm(false, 'It was charged before anybody had ruled on it. This one held; the next may not.');
    case 'hurry':
      return hurt(m)
        ? harm(true, `It was opened unruled, and the pack inside was hurt (${why}).`)
        : harm(false, 'It was opened before it was ruled on. This one was in order; nobody knew.');
    case 'metal':
      return hurt(m)
        ? harm(true, 'Metal went over a hurt pack: it vents.')
        : harm(false, 'Metal at a seam over the pack: once it slips. Plastic, shallow, away from the pack.');
    case 'plastic':
      return m.plugged && !before.includes('unplug') && !before.includes('run-down')
        ? harm(false, 'It was opened with the charger in: everything inside is live.')
        : null;
    case 'wires':
      return harm(
        false,
        'A plug pulled by its wires: they tear, and two of them touch. By the shoulders, or as its kind is released.',
      );
    case 'fan':
      return before.includes('shoulders') || before.includes('wires')
        ? null
        : harm(false, 'A metal tool in a live machine: the pack’s plug comes out first.');
    case 'dead': {
      const live = liveOf(m, before);
      return live.length > 0 ? harm(true, `It was called isolated, and still live: ${live.join(', ')}.`) : null;
    }
    default:
      return null;
  }
}

/** What was done in a wrong order or left out, in words: it breaks a machine, or costs an hour. Common practice, no source. */
export function slipsOf(m: TrueMachine, done: readonly MachineAction[]): string[] {
  const at = (a: MachineAction) => done.indexOf(a);
  const opened = Math.max(at('plastic'), at('metal'));
  const unscrewed = Math.max(at('map'), at('cup'));
  const plug = Math.max(at('shoulders'), at('wires'));
  const late = (a: MachineAction, than: number) => than >= 0 && (at(a) < 0 || at(a) > than);
  return [
    ...(opened >= 0 && (unscrewed < 0 || unscrewed > opened) ? ['the cover was opened with its screws in: it bends'] : []),
    ...(m.hidden > 0 && late('feet', opened) ? ['a screw under a foot was still in: the cover cracked'] : []),
    ...(at('cup') >= 0 ? ['the screws lie mixed: a long one in a short hole goes into the pack'] : []),
    ...(m.outer && late('outer', unscrewed) ? ['the outer pack comes off before the first screw'] : []),
    ...(late('off', plug) ? ['the plug was pulled while the machine was on or asleep'] : []),
    ...(at('dead') >= 0 && late('drain', at('dead')) ? ['what is left in it was not drained with the power key'] : []),
    ...(at('dead') >= 0 && at('fan') >= 0 ? ['the fan need not come out to isolate it'] : []),
  ];
}

const NONE: readonly string[] = [];

/** Per cent of full that the machine shows once these were done. */
export const chargeShown = (m: TrueMachine, done: readonly MachineAction[]): number =>
  done.includes('run-down') ? Math.min(m.charge, RUN_DOWN_TO) : m.charge;

/** What an action shows, in words. @param before what was done before it. */
export function shows(m: TrueMachine, action: MachineAction, before: readonly MachineAction[]): readonly string[] {
  const { hands, eyes, owner } = m;
  switch (action) {
    case 'owner':
      return [
        `liquid: ${owner.liquid}, a fall: ${owner.drop}`,
        owner.consent === 'given' ? 'agrees to opening' : 'does not agree to opening',
      ];
    case 'hands':
      return [
        `smell: ${hands.smell === 'none' ? 'none' : 'sweet, like solvent'}`,
        `${hands.touch} to the touch`,
        `lid ${hands.lid}, base ${hands.base}`,
      ];
    case 'eyes':
      return [
        `keyboard ${eyes.keyboard}, trackpad ${eyes.trackpad}, seam ${eyes.seam}`,
        eyes.sound === 'none' ? 'no sound' : 'it hisses',
      ];
    case 'shown':
      return [`${chargeShown(m, before)} %`];
    case 'unplug':
      return [m.plugged ? 'the charger is off' : 'nothing was plugged in'];
    case 'run-down':
      return [`${chargeShown(m, [action])} %`];
    case 'trained':
      return ['comes, and prepares the station: charge as found'];
    case 'outer':
      return [m.outer ? 'it slides off' : 'there is none'];
    case 'feet':
      return [m.hidden > 0 ? `${counted(m.hidden, 'screw lies', 'screws lie')} under the rear feet` : 'no screw there'];
    case 'map':
      return [`${counted(m.screws, 'screw')} in sight, each where it came from`];
    case 'cup':
      return [`${counted(m.screws, 'screw')} in sight, in two lengths`];
    case 'plastic':
      return ['the clips release, the cover lifts'];
    case 'drain':
      return ['a light blinks once and goes out'];
    default:
      return NONE;
  }
}
