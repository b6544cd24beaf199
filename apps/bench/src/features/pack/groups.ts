import type { LookGroup } from '@gavrel/core';

/** What each look can find, most usual first. */
export const GROUP_FINDINGS: Record<LookGroup, readonly string[]> = {
  shape: ['swollen', 'swelling-growing', 'crushed', 'case-dented', 'cell-dented'],
  smell: ['smell', 'vented', 'smoke', 'hissing', 'venting'],
  heat: ['hot', 'warm', 'temperature-rising', 'hot-while-charging', 'heat-exposed'],
  wet: ['leaking', 'leaked', 'wet', 'spill', 'immersed', 'corrosion'],
  mechanical: [
    'punctured',
    'dropped',
    'burn-mark',
    'discoloured',
    'wrap-torn',
    'opened',
    'protection-damaged',
    'recelled',
    'cannot-examine',
  ],
  electrical: [
    'no-output',
    'low-voltage',
    'deep-discharge',
    'imbalance',
    'gauge-silent',
    'gauge-permanent-failure',
    'internal-short',
    'soft-short',
  ],
};

/** Papers and wishes that belong to no look. */
export const OTHER_FINDINGS: readonly string[] = [
  'safety-recall',
  'safety-notice',
  'worn-out',
  'unwanted',
  'expired',
  'flame',
  'sparks',
];

/** Signs that are swelling whatever the calliper says. */
export const SWELLING_SIGNS: readonly string[] = [
  'pillow shape',
  'light under a straightedge',
  'rocks on a flat plate',
  'a part is displaced',
];
