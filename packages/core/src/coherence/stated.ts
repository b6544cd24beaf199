import type { Chemistry } from '../pack/label';
import { type Figure, show, step, value } from '../quantity/figure';

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

/**
 * A number of a table or of JSON. Spreadsheets and JSON drop trailing zeros ("5.0" arrives as 5), so at least two digits are taken as said.
 * @param unit base unit, for the sentence.
 */
export function statedNumber(x: number, unit: string): Stated {
  const decimals = String(x).includes('e') ? 6 : (String(x).split('.')[1]?.length ?? 0);
  const twoDigits = 10 ** (Math.floor(Math.log10(Math.abs(x) || 1)) - 1);
  return { value: x, half: Math.min(10 ** -decimals, twoDigits) / 2, words: unit === '' ? String(x) : `${x} ${unit}` };
}

/** What a package is said to hold. */
export interface StatedPackage {
  readonly packs?: number;
  readonly equipment?: number;
  readonly packsPerEquipment?: number;
  readonly fittedPacks?: number;
  readonly netKg?: number;
  readonly grossKg?: number;
}

/**
 * What relations are asked of: everything somebody stated of one pack, one row, one package. A figure that is absent contradicts nothing.
 * Volts in V, capacity in Ah, energy in Wh, mass in kg, charge in %.
 */
export interface StatedFacts {
  readonly chemistry?: Chemistry;
  readonly series?: number;
  readonly parallel?: number;
  readonly nominalVoltage?: Stated;
  readonly ratedCapacity?: Stated;
  readonly ratedEnergy?: Stated;
  readonly limitedChargeVoltage?: Stated;
  readonly designation?: string;
  readonly mass?: Stated;
  /** Pack volts as measured. */
  readonly packVolts?: readonly Stated[];
  readonly stateOfCharge?: number;
  readonly findings?: readonly string[];
  readonly cleared?: boolean | readonly string[];
  readonly swelling?: 'any' | 'allowance';
  readonly placement?: 'loose' | 'with-equipment' | 'in-equipment';
  readonly package?: StatedPackage;
}
