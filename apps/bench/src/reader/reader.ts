import {
  greyOf,
  linesOf,
  pgm,
  type PixelBox,
  plateTexts,
  type Quarter,
  type ReadBlock,
  readLabel,
} from '@gavrel/core/read-label';
import { createWorker, OEM } from 'tesseract.js';
import { prepareZXingModule, readBarcodes } from 'zxing-wasm/reader';
import type { ReaderAnswer, ReaderQuestion, SeenCode, SeenFigure, SeenText } from './messages';

/**
 * Reads labels and codes off the interface's thread. Built into a file of its own, served with a policy of its own: WebAssembly may run here
 * and nowhere else.
 */
const at = (file: string) => new URL(file, self.location.href).href;
const say = (answer: ReaderAnswer) => self.postMessage(answer);
/** Longest side that is read, px: beyond it nothing is gained. */
const LONGEST = 3200;
/** Codes in one picture: a tray of packs. */
const MOST_CODES = 64;

prepareZXingModule({ overrides: { locateFile: (file: string) => at(file) } });

let words: ReturnType<typeof createWorker> | null = null;
/** Loaded at the first label: a picture of codes does not need it. */
const characters = () =>
  (words ??= createWorker('eng', OEM.LSTM_ONLY, {
    workerPath: at('tesseract-worker.js'),
    corePath: at('tesseract-core-simd-lstm.js'),
    langPath: at('.').replace(/\/$/, ''),
    workerBlobURL: false,
    cacheMethod: 'none',
  }).then(async (w) => {
    await w.setParameters({ user_defined_dpi: '300' });
    return w;
  }));

const opened = (picture: Blob): Promise<ImageBitmap> =>
  createImageBitmap(picture, { imageOrientation: 'from-image' }).catch(() => {
    throw new Error('this file is not a picture that can be read: take it as JPEG or PNG');
  });

function drawn(image: ImageBitmap): OffscreenCanvas {
  const k = Math.min(1, LONGEST / Math.max(image.width, image.height));
  const canvas = new OffscreenCanvas(Math.max(1, Math.round(image.width * k)), Math.max(1, Math.round(image.height * k)));
  canvas.getContext('2d', { willReadFrequently: true })!.drawImage(image, 0, 0, canvas.width, canvas.height);
  image.close();
  return canvas;
}

/** The piece of the picture a figure was read from, with a little round it, upright. @param quarter by which the picture lies turned. */
async function pieceOf(canvas: OffscreenCanvas, [x, y, w, h]: PixelBox, quarter: Quarter): Promise<Blob | null> {
  const m = Math.min(w, h) * 0.6;
  const [left, top] = [Math.max(0, x - m), Math.max(0, y - m)];
  const [width, height] = [Math.min(canvas.width - left, w + 2 * m), Math.min(canvas.height - top, h + 2 * m)];
  if (width < 1 || height < 1) return null;
  const [across, down] = quarter % 180 === 0 ? [width, height] : [height, width];
  const piece = new OffscreenCanvas(Math.ceil(across), Math.ceil(down));
  const pen = piece.getContext('2d')!;
  pen.translate(piece.width / 2, piece.height / 2);
  pen.rotate((-quarter * Math.PI) / 180);
  pen.drawImage(canvas, left, top, width, height, -width / 2, -height / 2, width, height);
  return piece.convertToBlob({ type: 'image/png' });
}

async function read(question: ReaderQuestion): Promise<void> {
  const canvas = drawn(question.want === 'frame' ? question.frame : await opened(question.picture));
  const { width, height } = canvas;
  const image = canvas.getContext('2d')!.getImageData(0, 0, width, height);
  const found = await readBarcodes(image, { tryHarder: true, maxNumberOfSymbols: MOST_CODES });
  const codes = found.filter((c) => c.isValid).map((c): SeenCode => ({ format: c.format, text: c.text }));
  if (question.want === 'codes' || question.want === 'frame') return say({ kind: 'done', figures: [], texts: [], codes });
  const worker = await characters();
  const { figures, lines, quarter } = await readLabel(
    greyOf(image.data, width, height),
    async (g) => {
      const { data } = await worker.recognize(new Blob([pgm(g.width, g.height, g.data)]), {}, { text: false, blocks: true });
      return linesOf(data.blocks as readonly ReadBlock[] | null);
    },
    new Date().toISOString().slice(0, 10),
    (reading) => say({ kind: 'progress', reading }),
  );
  if (question.want === 'plate') {
    const told = plateTexts(
      lines,
      codes.map((c) => c.text),
    );
    const texts = await Promise.all(
      told.map(async (t): Promise<SeenText> => ({ ...t, piece: t.box && (await pieceOf(canvas, t.box, quarter)) })),
    );
    return say({ kind: 'done', figures: [], texts, codes });
  }
  const seen = await Promise.all(
    figures.map(async (f): Promise<SeenFigure> => ({ ...f, piece: await pieceOf(canvas, f.box, quarter) })),
  );
  say({ kind: 'done', figures: seen, texts: [], codes });
}

self.onmessage = (e: MessageEvent<ReaderQuestion>) => {
  read(e.data).catch((error: unknown) => {
    words = null;
    const said = error instanceof Error ? error.message : String(error);
    // What it needs is fetched at its first use, and kept from then on.
    const missing = /fetch|load|network|import/i.test(said);
    say({ kind: 'trouble', words: missing ? 'The reader is not on this device yet: use it once with the server.' : said });
  });
};
