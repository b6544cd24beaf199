/** Colours of the instrument: a paper ground, ink, one accent for the next action, red for critical alone. */
export interface Tokens {
  readonly dark: boolean;
  readonly ground: string;
  readonly card: string;
  readonly line: string;
  readonly ink: string;
  /** Second voice, still 4.5 : 1 on ground and card. */
  readonly soft: string;
  readonly accent: string;
  readonly onAccent: string;
  /** Quiet fill of the undecided zone and of pressed keys. */
  readonly wash: string;
  readonly critical: string;
  readonly onCritical: string;
}

export const LIGHT: Tokens = {
  dark: false,
  ground: '#F3EFE4',
  card: '#FBF9F2',
  line: '#8C8574',
  ink: '#1B1A16',
  soft: '#565041',
  accent: '#0B5468',
  onAccent: '#FFFFFF',
  wash: '#E2DCCB',
  critical: '#A3150F',
  onCritical: '#FFFFFF',
};

export const DARK: Tokens = {
  dark: true,
  ground: '#14140F',
  card: '#1E1E18',
  line: '#7F7A6A',
  ink: '#F1EDE0',
  soft: '#BDB7A6',
  accent: '#7FD0E4',
  onAccent: '#06222B',
  wash: '#33322A',
  critical: '#C0241C',
  onCritical: '#FFFFFF',
};

/** What stands until the faces of the application are there is no serif either. */
export const WORDS = 'Atkinson, system-ui, sans-serif';
export const WORDS_BOLD = 'AtkinsonBold, system-ui, sans-serif';
export const FIGURES = 'AtkinsonMono, ui-monospace, monospace';
export const FIGURES_BOLD = 'AtkinsonMonoBold, ui-monospace, monospace';

/** Smallest target, and that of bench screens and the keypad, px. */
export const TARGET = 48;
export const BIG_TARGET = 64;
export const SPACE = 12;
/** From this width on list, slip and reasons stand side by side. */
export const WIDE = 1000;
/** From here on three panes stand side by side, px. */
export const ROOMY = 1200;
