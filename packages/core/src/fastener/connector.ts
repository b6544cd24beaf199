export const CONNECTORS = [
  'pull-out plug',
  'side tabs',
  'push-ridge slider',
  'locking bar',
  'lift-off',
  'flap',
  'blade dock',
  'latched external',
] as const;
export type Connector = (typeof CONNECTORS)[number];

/** How each is released. Common practice, no source. */
export const RELEASE: Record<Connector, string> = {
  'pull-out plug': 'Wiggle it out by its shoulders with fingernails, never by the wires.',
  'side tabs': 'Press both tabs, then pull.',
  'push-ridge slider': 'Push the ridge along with a plastic tool.',
  'locking bar': 'Slide or swing the metal bar away, then lift.',
  'lift-off': 'Straight up, with plastic, from both ends in turn.',
  flap: 'Flip the flap up, then pull.',
  'blade dock': 'No cable: the pack itself plugs in as it pivots down. Pivot it up.',
  'latched external': 'Slide the latch; the pack comes off before any screw.',
};

export const MOUNTINGS = ['screws', 'shared screws', 'bracket', 'pull tabs', 'adhesive sheet', 'tape', 'frame', 'latch'] as const;
export type Mounting = (typeof MOUNTINGS)[number];

/** What to do with a mounting, and when it will not let go. Common practice, no source. */
export const LET_GO: Record<Mounting, string> = {
  screws: 'Longest first noted, then out; arrows or print mark them.',
  'shared screws': 'Nothing else holds it once the cover is off: keep a hand under it.',
  bracket: 'Lift the free edge, then unhook.',
  'pull tabs':
    'Pull slowly, flat, in the plane of the bond. Snapped: isopropanol with a dropper, wait, nylon line; never on a swollen or damaged pack.',
  'adhesive sheet': 'A plastic card from the edge, no metal, no bending. No solvent or heat on a swollen or damaged pack.',
  tape: 'Peel it back flat.',
  frame: 'The frame comes out with the pack.',
  latch: 'Slide it, lift.',
};
