import type { StatedLabel } from '../pack/series';
import type { Stated } from '../quantity/stated';

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
export interface StatedFacts extends StatedLabel {
  readonly mass?: Stated;
  /** Pack volts as measured. */
  readonly packVolts?: readonly Stated[];
  /** How many cells each set of cell voltages says that the pack has. */
  readonly cellSets?: readonly number[];
  readonly stateOfCharge?: number;
  readonly findings?: readonly string[];
  readonly cleared?: boolean | readonly string[];
  readonly swelling?: 'any' | 'allowance';
  readonly placement?: 'loose' | 'with-equipment' | 'in-equipment';
  readonly package?: StatedPackage;
}
