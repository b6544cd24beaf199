import type { PictureType } from '@gavrel/contract';
import sharp from 'sharp';

/** Pixels a picture may have: some cameras' largest. A small file can claim any number, and would be unpacked to four bytes each. */
const MOST_PIXELS = 50_000_000;
const SECONDS = 20;
/** Bytes of pictures a workshop keeps, where nobody says otherwise: some ten thousand as the application sends them. */
export const PICTURE_QUOTA = 5_000_000_000;
const FORMAT: Record<PictureType, string> = { 'image/jpeg': 'jpeg', 'image/png': 'png' };

// Pictures come one by one: nothing is kept for the next, and one takes no more than one processor.
sharp.cache(false);
sharp.concurrency(1);

export const isPictureType = (type: string): type is PictureType => type in FORMAT;

/**
 * The picture drawn anew, off the main thread: what stands in it besides its pixels (place, device, comments, what was hung on behind) is
 * not in the new one.
 * @returns its bytes, or what is wrong with it and what to do.
 */
export async function redrawn(bytes: Buffer, type: PictureType): Promise<Buffer | string> {
  const picture = sharp(bytes, { limitInputPixels: MOST_PIXELS, failOn: 'error' }).timeout({ seconds: SECONDS });
  try {
    const { format, width, height } = await picture.metadata();
    if (format !== FORMAT[type]) return 'Its content is not what its type says: save it again as JPEG or PNG.';
    if (width * height > MOST_PIXELS) return 'It has more than 50 million pixels: send it smaller.';
    const upright = picture.autoOrient();
    return await (type === 'image/jpeg' ? upright.jpeg({ quality: 88 }) : upright.png()).toBuffer();
  } catch (e) {
    return /pixel limit/i.test((e as Error).message)
      ? 'It has more than 50 million pixels: send it smaller.'
      : 'It cannot be read: save it again as JPEG or PNG.';
  }
}
