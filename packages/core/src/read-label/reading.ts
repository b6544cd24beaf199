import { cropped, type Grey, halved, inkOf, levelling, smoothed, turned, withoutRules } from './picture';
import { type OfferedFigure, settle } from './settle';
import { around, type PixelBox, type ReadLine, type ReadWord } from './text';

/** A reader of characters: lines of words of a picture with dark letters on white, level. */
export type Recognise = (picture: Grey) => Promise<readonly ReadLine[]>;

export interface LabelReading {
  readonly figures: readonly OfferedFigure[];
  /** Every line, of the reading in which most was read. */
  readonly lines: readonly ReadLine[];
  /** By how much the picture must be turned to stand upright, counter-clockwise, in quarters of a turn. */
  readonly quarter: Quarter;
}
export type Quarter = 0 | 90 | 180 | 270;

/** Longest side worked on, px: larger pictures are halved first. */
const LONGEST = 2400;
/** How tall a word is best read, px. */
const TALL = 34;
/** A label that is shown whole has letters no taller than this part of the picture; one that is shown close up, than the second. */
const LETTERS_ACROSS = { whole: 40, close: 16 } as const;

interface View {
  /** Of the picture it was cut from. */
  readonly at: readonly [number, number];
  readonly cut: Grey;
  readonly degrees: number;
  readonly scale: number;
}

/** @param tall how tall a letter may be, px of the view. */
const drawn = (v: View, radius: number, tall: number, grain: boolean): Grey =>
  withoutRules(turned(inkOf(grain ? smoothed(v.cut) : v.cut, radius), v.degrees, v.scale), tall * 5, tall * 2.5);

/** Where a box of a turned view lies on the picture it was cut from. */
function back({ at, cut, degrees, scale }: View, seen: Grey, [x, y, w, h]: PixelBox): PixelBox {
  const [sin, cos] = [Math.sin((degrees * Math.PI) / 180), Math.cos((degrees * Math.PI) / 180)];
  const corner = (px: number, py: number): PixelBox => {
    const [dx, dy] = [(px - seen.width / 2) / scale, (py - seen.height / 2) / scale];
    return [dx * cos - dy * sin + cut.width / 2 + at[0], dx * sin + dy * cos + cut.height / 2 + at[1], 0, 0];
  };
  return around([corner(x, y), corner(x + w, y), corner(x, y + h), corner(x + w, y + h)]);
}

async function read(recognise: Recognise, v: View, radius: number, tall: number, grain = false): Promise<ReadLine[]> {
  const seen = drawn(v, radius, tall, grain);
  const lines = await recognise(seen);
  return lines.map((l) => l.map((w): ReadWord => ({ ...w, box: back(v, seen, w.box) })));
}

/** Words that are words: what a reader makes of edges and grain is short and doubtful. */
const solid = (lines: readonly ReadLine[], least = 55): ReadWord[] =>
  lines.flat().filter((w) => w.confidence >= least && /[A-Za-z0-9]{2}/.test(w.text));

/** Words that are clear, and their share of what passes for words: letters on their side or on their head are clear now and then only. */
function clear(lines: readonly ReadLine[]): { readonly words: number; readonly share: number } {
  const all = solid(lines, 0).length;
  const words = solid(lines, 80).length;
  return { words, share: all === 0 ? 0 : words / all };
}

const median = (all: readonly number[]): number => [...all].sort((a, b) => a - b)[all.length >> 1] ?? 0;

interface Upright {
  readonly whole: View;
  readonly first: readonly ReadLine[];
  readonly quarter: Quarter;
}

/**
 * Reads a level view, turned by quarters until most of its words are clear; else the way in which most were. Where hardly a word was, letters so
 * large that their strokes went for ruled lines may have been lost.
 */
async function upright(flat: View, readView: (v: View, letters: number) => Promise<ReadLine[]>): Promise<Upright> {
  const { whole: small, close: large } = LETTERS_ACROSS;
  let best: Upright = { whole: flat, first: await readView(flat, small), quarter: 0 };
  let seen = clear(best.first);
  // Long words lie along the lines, whichever end is up.
  const along = best.first.flat().filter((w) => w.text.length >= 4).length >= 3;
  for (const quarter of along ? ([180, 90, 270] as const) : ([90, 270, 180] as const)) {
    if (seen.words >= 3 && seen.share >= 0.5) break;
    const whole = { ...flat, degrees: flat.degrees + quarter };
    const first = await readView(whole, small);
    const now = clear(first);
    if (now.words * now.share > seen.words * seen.share) [best, seen] = [{ whole, first, quarter }, now];
  }
  return seen.words < 3 ? { whole: flat, first: await readView(flat, large), quarter: 0 } : best;
}

/**
 * Reads the label in a picture, more than once: whole, then close up, and once more with the grain taken out where the two do not settle it.
 * @param recognise reads characters.
 * @param today YYYY-MM-DD.
 * @param onReading called before each reading, from 1.
 */
export async function readLabel(
  picture: Grey,
  recognise: Recognise,
  today: string,
  onReading: (n: number) => void = () => undefined,
): Promise<LabelReading> {
  let g = picture;
  let shrunk = 1;
  while (Math.max(g.width, g.height) > LONGEST) [g, shrunk] = [halved(g), shrunk * 2];
  const longest = Math.max(g.width, g.height);
  const radius = Math.max(12, Math.round(longest / 50));
  const scale = Math.min(2, Math.max(1, 1450 / longest));
  let n = 0;
  const next = () => onReading((n += 1));
  const level = levelling(inkOf(g, radius));
  const flat: View = { at: [0, 0], cut: g, degrees: level, scale };
  const { whole, first, quarter } = await upright(flat, (v, letters) => {
    next();
    return read(recognise, v, radius, (longest * scale) / letters);
  });
  const words = solid(first);
  const readings: (readonly ReadLine[])[] = [first];
  if (words.length >= 2) {
    const tall = Math.max(6, median(words.map((w) => Math.min(w.box[2], w.box[3]))));
    const [x, y, w, h] = around(words.map((b) => b.box));
    // What was not read well stands at the ends of lines, more often than above or below.
    const margin = tall * 4;
    const at = [Math.max(0, Math.floor(x - margin)), Math.max(0, Math.floor(y - margin))] as const;
    const cut = cropped(g, [at[0], at[1], x + w + margin - at[0], y + h + margin - at[1]]);
    const close = { at, cut, degrees: whole.degrees, scale: Math.min(3, Math.max(0.5, TALL / tall)) };
    next();
    readings.push(await read(recognise, close, Math.max(6, Math.round(tall * 0.7)), close.scale * tall));
    if (!settle(readings, today).some((f) => f.sure && f.field === 'ratedEnergy')) {
      next();
      const larger = { ...close, scale: close.scale * 1.25 };
      readings.push(await read(recognise, larger, Math.max(6, Math.round(tall)), larger.scale * tall, true));
    }
  }
  const most = readings.reduce((a, b) => (solid(b).length > solid(a).length ? b : a));
  const sized = (b: PixelBox): PixelBox => [b[0] * shrunk, b[1] * shrunk, b[2] * shrunk, b[3] * shrunk];
  return {
    figures: settle(readings, today).map((f) => ({ ...f, box: sized(f.box) })),
    lines: most.map((l) => l.map((w) => ({ ...w, box: sized(w.box) }))),
    quarter,
  };
}
