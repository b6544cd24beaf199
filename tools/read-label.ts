import { createRequire } from 'node:module';
import { basename, dirname, join } from 'node:path';
import { readFileSync, statSync } from 'node:fs';
import { availableParallelism } from 'node:os';
import { greyOf, linesOf, type OfferedFigure, pgm, readLabel, type ReadBlock } from '@gavrel/core/read-label';
import { fileGiven, Trouble } from './common';

const { resolve } = createRequire(join(process.cwd(), 'package.json'));
/** Larger pictures are no photograph of a label, bytes. */
const MOST = 60 * 1024 * 1024;
/** Fields that are numbers. */
const NUMBERS = ['nominalVoltage', 'ratedCapacity', 'typicalCapacity', 'ratedEnergy', 'limitedChargeVoltage'];

const told = ({ field, said, unit, sure, box }: OfferedFigure) => ({
  field,
  ...(NUMBERS.includes(field) ? { digits: said, unit } : { text: said }),
  sure,
  box: box.map(Math.round),
});

/** Reads codes and labels, with what it needs loaded once. */
async function reader() {
  const [{ createWorker, OEM }, { prepareZXingModule, readBarcodes }, { default: sharp }] = await Promise.all([
    import('tesseract.js'),
    import('zxing-wasm/reader'),
    import('sharp'),
  ]);
  const wasm = readFileSync(resolve('zxing-wasm/reader/zxing_reader.wasm'));
  prepareZXingModule({
    overrides: { wasmBinary: wasm.buffer.slice(wasm.byteOffset, wasm.byteOffset + wasm.length) as ArrayBuffer },
  });
  const langPath = join(dirname(resolve('@tesseract.js-data/eng/package.json')), '4.0.0_best_int');
  const worker = await createWorker('eng', OEM.LSTM_ONLY, { langPath, gzip: true, cacheMethod: 'none' });
  await worker.setParameters({ user_defined_dpi: '300', debug_file: '/dev/null' } as Parameters<typeof worker.setParameters>[0]);
  const read = async (file: string) => {
    const size = statSync(file, { throwIfNoEntry: false })?.size;
    if (size === undefined) throw new Trouble('there is no such file');
    if (size > MOST) throw new Trouble('larger than 60 MB: make the picture smaller');
    const from = performance.now();
    const picture = await sharp(file)
      .rotate()
      .toColourspace('srgb')
      .flatten({ background: '#ffffff' })
      .ensureAlpha()
      .raw()
      .toBuffer({ resolveWithObject: true })
      .catch(() => {
        throw new Trouble('this is no picture that can be read: give JPEG, PNG or WebP');
      });
    const { width, height } = picture.info;
    const data = new Uint8ClampedArray(picture.data);
    const codes = await readBarcodes({ data, width, height, colorSpace: 'srgb' } as ImageData, {
      tryHarder: true,
      maxNumberOfSymbols: 32,
    });
    const today = new Date().toISOString().slice(0, 10);
    const { figures } = await readLabel(
      greyOf(data, width, height),
      async (g) => {
        const { data: page } = await worker.recognize(
          Buffer.from(pgm(g.width, g.height, g.data)),
          {},
          { text: false, blocks: true },
        );
        return linesOf(page.blocks as readonly ReadBlock[] | null);
      },
      today,
    );
    return {
      figures: figures.map(told),
      codes: codes.filter((c) => c.isValid).map((c) => ({ format: c.format, text: c.text })),
      ms: Math.round(performance.now() - from),
    };
  };
  return { read, close: () => worker.terminate() };
}

type Read = Awaited<ReturnType<typeof reader>>['read'];

/** One line of JSON of a picture. */
async function lineOf(file: string, read: Read): Promise<{ line: string; fault: boolean }> {
  try {
    return { line: JSON.stringify({ file: basename(file), ...(await read(fileGiven(file))) }), fault: false };
  } catch (e) {
    if (!(e instanceof Trouble)) throw e;
    return { line: JSON.stringify({ file: basename(file), error: e.message }), fault: true };
  }
}

/** Reads the label in each picture, several at once, and writes one line of JSON each in their order; a picture that cannot be read says so. */
export async function main(files: readonly string[], write: (text: string) => void): Promise<void> {
  if (files.length === 0) throw new Trouble('which picture? ./gavrel read-label PICTURE...');
  const readers = await Promise.all(Array.from({ length: Math.min(files.length, availableParallelism()) }, reader));
  const waiting = new Map<number, string>();
  let [started, written, faults] = [0, 0, 0];
  const work = async ({ read }: (typeof readers)[number]) => {
    for (let i = started++; i < files.length; i = started++) {
      const { line, fault } = await lineOf(files[i]!, read);
      if (fault) faults += 1;
      waiting.set(i, line);
      for (let done = waiting.get(written); done !== undefined; done = waiting.get(written)) {
        write(`${done}\n`);
        waiting.delete(written++);
      }
    }
  };
  await Promise.all(readers.map(work));
  await Promise.all(readers.map((r) => r.close()));
  if (faults > 0) throw new Trouble(`${faults} of ${files.length} pictures could not be read`);
}
