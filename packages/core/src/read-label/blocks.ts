import type { ReadLine, ReadWord } from './text';

/** The part of a page of tesseract.js that is read here. */
export interface ReadBlock {
  readonly paragraphs: readonly {
    readonly lines: readonly {
      readonly words: readonly {
        readonly text: string;
        readonly confidence: number;
        readonly bbox: { readonly x0: number; readonly y0: number; readonly x1: number; readonly y1: number };
      }[];
    }[];
  }[];
}

/** Lines of words of what tesseract.js found; nothing where it found none. */
export const linesOf = (blocks: readonly ReadBlock[] | null): ReadLine[] =>
  (blocks ?? []).flatMap((b) =>
    b.paragraphs.flatMap((p) =>
      p.lines.map((l) =>
        l.words.map(({ text, confidence, bbox: { x0, y0, x1, y1 } }): ReadWord => ({
          text,
          confidence,
          box: [x0, y0, x1 - x0, y1 - y0],
        })),
      ),
    ),
  );

/** A picture of grey as a binary PGM (Netpbm, P5): what character readers take without a codec. */
export function pgm(width: number, height: number, data: Uint8Array): Uint8Array<ArrayBuffer> {
  const head = new TextEncoder().encode(`P5\n${width} ${height}\n255\n`);
  const out = new Uint8Array(head.length + data.length);
  out.set(head);
  out.set(data, head.length);
  return out;
}
