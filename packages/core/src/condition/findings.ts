import type { LookGroup } from '../logbook/entry';

/** What a finding does to a pack, most dangerous first. */
export type FindingClass = 'reacting' | 'unstable' | 'hard' | 'recall' | 'soft' | 'unproven' | 'spent';

/** A finding that readings imply, with the entries it stands on. */
export interface MeasuredFinding {
  readonly code: string;
  readonly entries: readonly string[];
}

export interface FindingKind {
  readonly code: string;
  readonly class: FindingClass;
  /** In plain words, as shown. */
  readonly words: string;
  readonly source: string;
}

const SP376 = 'SP 376 with its note, substance from memory';
const OURS = 'common practice, no source: our cautious reading';

const table = (cls: FindingClass, source: string, rows: Record<string, string>): FindingKind[] =>
  Object.entries(rows).map(([code, words]) => ({ code, class: cls, words, source }));

/** Every finding code, its class and what it means. The classes are trade convention and reading of SP 376, from memory. */
export const FINDINGS: readonly FindingKind[] = [
  ...table('reacting', SP376, {
    smoke: 'smoke',
    flame: 'flame',
    sparks: 'sparks',
    hissing: 'hissing',
    venting: 'venting now',
    hot: 'hot',
    'temperature-rising': 'getting hotter',
  }),
  ...table('unstable', SP376, {
    leaking: 'electrolyte running out',
    'swelling-growing': 'swelling that grows',
  }),
  ...table('unstable', OURS, { 'container-smell': 'smell at its container' }),
  ...table('hard', SP376, {
    swollen: 'swollen',
    leaked: 'dry residue of a leak',
    vented: 'has vented',
    smell: 'smell of solvent',
    punctured: 'punctured',
    crushed: 'crushed or bent',
    'cell-dented': 'cell dented',
    'burn-mark': 'burn mark',
    discoloured: 'discoloured',
    immersed: 'was under water',
    opened: 'pack was opened',
    'wrap-torn': 'wrap torn',
    corrosion: 'corrosion',
    'protection-damaged': 'protection circuit damaged',
    'internal-short': 'internal short',
    'soft-short': 'loses charge too fast',
  }),
  ...table('hard', OURS, {
    'over-voltage': 'a cell is over its charge limit',
    'reversed-cell': 'a cell is reversed',
    'deep-discharge-severe': 'deeply discharged, too low or too long',
    'imbalance-severe': 'cells far apart',
  }),
  ...table('recall', 'SP 376; air special provision A154, from memory', {
    'safety-recall': 'recalled for safety',
    'safety-notice': 'safety notice',
  }),
  ...table('soft', OURS, {
    'case-dented': 'case dented',
    dropped: 'was dropped',
    'heat-exposed': 'was exposed to heat',
    warm: 'warm at rest',
    spill: 'liquid was spilt on it',
    wet: 'wet',
    'cannot-examine': 'cannot be examined',
    'deep-discharge': 'deeply discharged for a short time',
    imbalance: 'cells apart',
    'gauge-silent': 'gauge does not answer',
    'gauge-permanent-failure': 'gauge reports permanent failure',
    'hot-while-charging': 'got hot while charging',
    'container-alarm': 'alarm at its container: examine from outside',
    drifts: 'loses voltage at rest as a soft short would',
    'in-incident': 'lay where something burnt, smoked or leaked',
  }),
  ...table('unproven', OURS, {
    'low-voltage': 'a cell is low',
    'no-output': 'no output',
    recelled: 'rebuilt with other cells',
  }),
  ...table('spent', OURS, {
    'worn-out': 'worn out',
    unwanted: 'not wanted',
    expired: 'past its date',
    'swelling-spent': 'grown to the end of its allowance',
  }),
];

const BY_CODE = new Map(FINDINGS.map((f) => [f.code, f]));

/** The finding of a code; undefined for an unknown code, which is an input error and never harmless. */
export const findingOf = (code: string): FindingKind | undefined => BY_CODE.get(code);

/** Codes that may be recorded by a person; measured ones come from readings but may be recorded too. */
export const FINDING_CODES: readonly string[] = FINDINGS.map((f) => f.code);

/** Smell is critical together with one of these. */
export const SMELL_WITH: readonly string[] = ['wet', 'immersed', 'hot-while-charging', 'warm'];

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

/** The look in which a finding is found; null for papers, wishes and what only readings show. */
export const groupOf = (code: string): LookGroup | null =>
  (Object.keys(GROUP_FINDINGS) as LookGroup[]).find((g) => GROUP_FINDINGS[g].includes(code)) ?? null;
