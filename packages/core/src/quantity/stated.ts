import { type Figure, show, step, value } from './figure';

/** A figure as somebody stated it: its value and how far the truth may lie from it on either side, both in the base unit. */
export interface Stated {
  readonly value: number;
  /** Half a unit of the last digit for what is printed, expanded uncertainty for what is measured. */
  readonly half: number;
  /** As it is repeated in a sentence: "11.4 V". */
  readonly words: string;
}

/** A printed figure: rounded to its last digit. */
export const statedFigure = (f: Figure): Stated => ({ value: value(f), half: step(f) / 2, words: show(f) });

/** Most decimals a table carries. */
const DECIMALS = 6;

/** One unit of the last digit of a number as it is written. */
function lastDigit(x: number): number {
  let unit = 1;
  for (let i = 0; i < DECIMALS && Math.abs(x / unit - Math.round(x / unit)) > 1e-6; i++) unit /= 10;
  return unit;
}

/** A number of a table, worded only when a sentence needs it. */
class StatedNumber implements Stated {
  readonly half: number;

  constructor(
    readonly value: number,
    private readonly unit: string,
  ) {
    // Spreadsheets and JSON drop trailing zeros ("5.0" arrives as 5), so at least two digits are taken as said.
    this.half = Math.min(lastDigit(value), Math.abs(value) < 10 ? 0.1 : Infinity) / 2;
  }

  get words(): string {
    return `${this.value} ${this.unit}`;
  }
}

/** A number of a table or of JSON, without the digits it was printed with. @param unit base unit. */
export const statedNumber = (x: number, unit: string): Stated => new StatedNumber(x, unit);
