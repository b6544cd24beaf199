import type { OfferedFigure, OfferedText } from '@gavrel/core/read-label';

/** A picture to read, and what of it; or one of many that a camera takes, for the codes in it. */
export type ReaderQuestion =
  | { readonly picture: Blob; readonly want: 'label' | 'plate' | 'codes' }
  | { readonly frame: ImageBitmap; readonly want: 'frame' };

/** A figure with its piece of the picture. */
export interface SeenFigure extends OfferedFigure {
  readonly piece: Blob | null;
}

/** A text of a plate with its piece of the picture; a code has none. */
export interface SeenText extends OfferedText {
  readonly piece: Blob | null;
}

export interface SeenCode {
  readonly format: string;
  readonly text: string;
}

export type ReaderAnswer =
  | { readonly kind: 'progress'; readonly reading: number }
  | {
      readonly kind: 'done';
      readonly figures: readonly SeenFigure[];
      readonly texts: readonly SeenText[];
      readonly codes: readonly SeenCode[];
    }
  | { readonly kind: 'trouble'; readonly words: string };
