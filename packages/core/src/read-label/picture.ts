/** A picture as shades of grey, 0 black to 255 white, row by row. */
export interface Grey {
  readonly width: number;
  readonly height: number;
  readonly data: Uint8Array;
}

/**
 * Shades of grey of a picture in colour (Rec. 601 luma weights, ITU-R BT.601).
 * @param rgba four bytes a pixel, row by row.
 */
export function greyOf(rgba: ArrayLike<number>, width: number, height: number): Grey {
  const data = new Uint8Array(width * height);
  for (let i = 0, p = 0; i < data.length; i++, p += 4)
    data[i] = (299 * rgba[p]! + 587 * rgba[p + 1]! + 114 * rgba[p + 2]!) / 1000;
  return { width, height, data };
}

/** Sums of all pixels above and left of each, so that the mean of any box is four look-ups (Crow 1984, summed-area tables). */
function sums({ width, height, data }: Grey): Float64Array {
  const out = new Float64Array((width + 1) * (height + 1));
  for (let y = 0; y < height; y++) {
    let row = 0;
    for (let x = 0; x < width; x++) {
      row += data[y * width + x]!;
      out[(y + 1) * (width + 1) + x + 1] = out[y * (width + 1) + x + 1]! + row;
    }
  }
  return out;
}

/**
 * The ink of a picture, whatever the light: how much each pixel differs from what surrounds it, dark on white. Glare and shadow change slowly and
 * fall out; light letters on a dark label are turned round.
 * @param radius of what counts as surroundings, px.
 */
export function inkOf(g: Grey, radius: number): Grey {
  const { width, height, data } = g;
  const table = sums(g);
  const w = width + 1;
  const differs = new Int16Array(data.length);
  let skew = 0;
  for (let y = 0; y < height; y++) {
    const [y0, y1] = [Math.max(0, y - radius), Math.min(height, y + radius + 1)];
    for (let x = 0; x < width; x++) {
      const [x0, x1] = [Math.max(0, x - radius), Math.min(width, x + radius + 1)];
      const sum = table[y1 * w + x1]! - table[y0 * w + x1]! - table[y1 * w + x0]! + table[y0 * w + x0]!;
      const mean = sum / ((y1 - y0) * (x1 - x0));
      // By the light there is: a shadow halves letters and label alike.
      const d = ((data[y * width + x]! - mean) * 128) / Math.max(24, mean);
      differs[y * width + x] = d;
      skew += (data[y * width + x]! - mean) ** 3;
    }
  }
  // Letters are the smaller part of where they stand, and stand out the further.
  const sign = skew > 0 ? -1 : 1;
  const out = new Uint8Array(data.length);
  for (let i = 0; i < out.length; i++) out[i] = Math.max(0, Math.min(255, 255 + sign * (differs[i]! * 2.5) + 25));
  return { width, height, data: out };
}

/** Turned by an angle round its middle and scaled, white where nothing was. @param degrees counter-clockwise is positive, as the picture is seen. */
export function turned(g: Grey, degrees: number, scale = 1): Grey {
  const [sin, cos] = [Math.sin((degrees * Math.PI) / 180), Math.cos((degrees * Math.PI) / 180)];
  const width = Math.max(1, Math.round((Math.abs(g.width * cos) + Math.abs(g.height * sin)) * scale));
  const height = Math.max(1, Math.round((Math.abs(g.width * sin) + Math.abs(g.height * cos)) * scale));
  const data = new Uint8Array(width * height).fill(255);
  for (let y = 0; y < height; y++) {
    for (let x = 0; x < width; x++) {
      const [dx, dy] = [(x + 0.5 - width / 2) / scale, (y + 0.5 - height / 2) / scale];
      const sx = dx * cos - dy * sin + g.width / 2 - 0.5;
      const sy = dx * sin + dy * cos + g.height / 2 - 0.5;
      const [ix, iy] = [Math.floor(sx), Math.floor(sy)];
      if (ix < 0 || iy < 0 || ix + 1 >= g.width || iy + 1 >= g.height) continue;
      const [fx, fy] = [sx - ix, sy - iy];
      const at = iy * g.width + ix;
      const top = g.data[at]! * (1 - fx) + g.data[at + 1]! * fx;
      const low = g.data[at + g.width]! * (1 - fx) + g.data[at + g.width + 1]! * fx;
      data[y * width + x] = top * (1 - fy) + low * fy;
    }
  }
  return { width, height, data };
}

/** Made smaller by whole steps, each pixel the mean of those it stands for. */
export function halved(g: Grey): Grey {
  const [width, height] = [g.width >> 1, g.height >> 1];
  const data = new Uint8Array(width * height);
  for (let y = 0; y < height; y++) {
    for (let x = 0; x < width; x++) {
      const at = 2 * y * g.width + 2 * x;
      data[y * width + x] = (g.data[at]! + g.data[at + 1]! + g.data[at + g.width]! + g.data[at + g.width + 1]! + 2) >> 2;
    }
  }
  return { width, height, data };
}

/** Ink this dark is a stroke, not its edge. */
const STROKE = 170;
/** How far to either side a ruled line is taken out, px. */
const EDGE = 2;

/**
 * Frames and ruled lines taken out of a level picture of ink: with them a reader of characters takes a table for a drawing. A line may stray
 * from its row by a pixel.
 * @param across longest stroke that may still be part of a letter, px. @param down the same, upright.
 */
export function withoutRules(g: Grey, across: number, down: number): Grey {
  const { width, height, data } = g;
  const out = Uint8Array.from(data);
  /** @param side from one line of pixels to the next. @param step from one pixel of a line to the next. */
  const along = (lines: number, long: number, least: number, side: number, step: number) => {
    for (let l = 1; l < lines - 1; l++) {
      let run = 0;
      for (let i = 0, at = l * side; i <= long; i++, at += step) {
        if (i < long && (data[at]! < STROKE || data[at - side]! < STROKE || data[at + side]! < STROKE)) {
          run += 1;
          continue;
        }
        if (run > least)
          for (let k = Math.max(0, l - EDGE); k <= Math.min(lines - 1, l + EDGE); k++)
            for (let n = i - run; n < i; n++) out[k * side + n * step] = 255;
        run = 0;
      }
    }
  };
  along(height, width, across, width, 1);
  along(width, height, down, 1, width);
  return { width, height, data: out };
}

/** Pixels of ink, as x and y one after the other. */
function inked({ width, height, data }: Grey): Int16Array {
  const out: number[] = [];
  for (let y = 0; y < height; y++) for (let x = 0; x < width; x++) if (data[y * width + x]! < 195) out.push(x - (width >> 1), y);
  return Int16Array.from(out);
}

/** How sharply lines of text stand apart when ink is read at this slope: the squares of what changes from row to row. */
function rowContrast(points: Int16Array, { width, height }: Grey, degrees: number): number {
  const slope = Math.tan((degrees * Math.PI) / 180);
  const offset = Math.ceil((Math.abs(slope) * width) / 2) + 1;
  const rows = new Float64Array(height + 2 * offset + 1);
  for (let i = 0; i < points.length; i += 2) rows[Math.round(points[i + 1]! + slope * points[i]!) + offset]! += 1;
  let score = 0;
  for (let i = 1; i < rows.length; i++) score += (rows[i]! - rows[i - 1]!) ** 2;
  return score;
}

/**
 * By how much a picture of ink must be turned for its lines to lie level (projection profiles: Postl 1986).
 * @returns degrees, counter-clockwise positive, within 20 either way.
 */
export function levelling(ink: Grey): number {
  let small = ink;
  while (Math.max(small.width, small.height) > 900) small = halved(small);
  const points = inked(small);
  const best = (from: number, to: number, step: number): number => {
    let [at, most] = [0, -1];
    for (let a = from; a <= to + 1e-9; a += step) {
      const score = rowContrast(points, small, a);
      if (score > most) [at, most] = [a, score];
    }
    return at;
  };
  const rough = best(-20, 20, 1);
  return -best(rough - 0.75, rough + 0.75, 0.25);
}

/** A part of a picture; what lies outside of it is left out. @param box left, upper edge, width, height, px. */
export function cropped(g: Grey, [x, y, w, h]: readonly [number, number, number, number]): Grey {
  const [left, top] = [Math.max(0, Math.floor(x)), Math.max(0, Math.floor(y))];
  const [width, height] = [Math.min(g.width, Math.ceil(x + w)) - left, Math.min(g.height, Math.ceil(y + h)) - top];
  const data = new Uint8Array(width * height);
  for (let row = 0; row < height; row++) {
    const from = (top + row) * g.width + left;
    data.set(g.data.subarray(from, from + width), row * width);
  }
  return { width, height, data };
}

/** Each pixel the mean of nine: grain goes, strokes stay. */
export function smoothed(g: Grey): Grey {
  const table = sums(g);
  const w = g.width + 1;
  const data = new Uint8Array(g.data.length);
  for (let y = 0; y < g.height; y++) {
    const [y0, y1] = [Math.max(0, y - 1), Math.min(g.height, y + 2)];
    for (let x = 0; x < g.width; x++) {
      const [x0, x1] = [Math.max(0, x - 1), Math.min(g.width, x + 2)];
      const sum = table[y1 * w + x1]! - table[y0 * w + x1]! - table[y1 * w + x0]! + table[y0 * w + x0]!;
      data[y * g.width + x] = sum / ((y1 - y0) * (x1 - x0));
    }
  }
  return { ...g, data };
}
