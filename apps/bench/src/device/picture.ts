import type { PhotoBody } from '@gavrel/core';

/** Longest side of a picture that leaves the device, px. */
export const SIDE = 1600;

/** A picture made small, drawn anew: what a camera wrote beside it, the place included, stays behind. */
export interface Shrunk extends Pick<PhotoBody, 'sha256' | 'type' | 'width' | 'height'> {
  readonly blob: Blob;
}

/** A part of a picture, as fractions of its sides. */
export interface Frame {
  readonly left: number;
  readonly top: number;
  readonly right: number;
  readonly bottom: number;
}

/** Sides that fit, never larger than they are. */
export function shrunkSize(width: number, height: number): readonly [number, number] {
  const k = Math.min(1, SIDE / Math.max(width, height));
  return [Math.max(1, Math.round(width * k)), Math.max(1, Math.round(height * k))];
}

/** Lower-case hex of what is in it. @throws Error with what to do where the browser does not reckon it. */
export async function sha256Of(blob: Blob): Promise<string> {
  if (!('subtle' in crypto)) throw new Error('keeping files needs a secure address: https, or this machine itself');
  const digest = new Uint8Array(await crypto.subtle.digest('SHA-256', await blob.arrayBuffer()));
  return [...digest].map((b) => b.toString(16).padStart(2, '0')).join('');
}

async function hashed(canvas: HTMLCanvasElement, type: Shrunk['type']): Promise<Shrunk> {
  const blob = await new Promise<Blob | null>((done) => canvas.toBlob(done, type, 0.82));
  if (!blob) throw new Error('this browser cannot write the picture: try a smaller one');
  return { blob, sha256: await sha256Of(blob), type, width: canvas.width, height: canvas.height };
}

/** Draws a file anew, at most 1600 px long. @throws Error with what to do when it is no picture. */
export async function shrink(file: Blob, frame: Frame = { left: 0, top: 0, right: 1, bottom: 1 }): Promise<Shrunk> {
  let image: ImageBitmap;
  try {
    image = await createImageBitmap(file);
  } catch {
    throw new Error('this file is not a picture that can be read: take it as JPEG or PNG');
  }
  const w = Math.max(1, Math.round((frame.right - frame.left) * image.width));
  const h = Math.max(1, Math.round((frame.bottom - frame.top) * image.height));
  const canvas = document.createElement('canvas');
  [canvas.width, canvas.height] = shrunkSize(w, h);
  canvas
    .getContext('2d')!
    .drawImage(image, frame.left * image.width, frame.top * image.height, w, h, 0, 0, canvas.width, canvas.height);
  image.close();
  return hashed(canvas, 'image/jpeg');
}

/** Strokes of a signature, in px of a box, as a small picture. */
export async function inked(
  strokes: readonly (readonly (readonly [number, number])[])[],
  width: number,
  height: number,
): Promise<Shrunk> {
  const canvas = document.createElement('canvas');
  canvas.width = width;
  canvas.height = height;
  const c = canvas.getContext('2d')!;
  c.fillStyle = '#ffffff';
  c.fillRect(0, 0, width, height);
  c.lineWidth = 2.5;
  c.lineCap = 'round';
  for (const s of strokes) {
    c.beginPath();
    s.forEach(([x, y], i) => (i === 0 ? c.moveTo(x, y) : c.lineTo(x, y)));
    c.stroke();
  }
  return hashed(canvas, 'image/png');
}

/** Lets the user take or choose a picture; null when nothing was chosen. */
export function chooseFile(accept: string, camera = false): Promise<File | null> {
  return new Promise((done) => {
    const input = document.createElement('input');
    input.type = 'file';
    input.accept = accept;
    if (camera) input.setAttribute('capture', 'environment');
    input.dataset.testid = 'file';
    input.style.display = 'none';
    input.onchange = () => {
      done(input.files?.[0] ?? null);
      input.remove();
    };
    input.oncancel = () => {
      done(null);
      input.remove();
    };
    document.body.append(input);
    input.click();
  });
}

/** Gives the user a file. */
export function saveFile(name: string, blob: Blob): void {
  const url = URL.createObjectURL(blob);
  const a = document.createElement('a');
  a.href = url;
  a.download = name;
  a.click();
  setTimeout(() => URL.revokeObjectURL(url), 10_000);
}
