import { type CurveKey, voltsAt } from '../cell/curve';
import { type Figure, figure } from '../quantity/figure';
import type { VoltUnit } from '../quantity/figure';

/** A simulated pack: what instruments would show on it. For the demo and for tests, never for judging. */
export interface SimulatedPack {
  readonly series: number;
  readonly curve: CurveKey;
  /** % of full charge, one figure per cell. */
  readonly charges: readonly number[];
  /** Thickness per point, mm. */
  readonly thickness: Readonly<Record<string, number>>;
}

/** Cell volts of the pack, from the negative end. */
export const cellVolts = (p: SimulatedPack): number[] => p.charges.map((soc) => voltsAt(p.curve, soc));

/** What a multimeter with two decimals shows at the plug after rest. */
export function plugVolts(p: SimulatedPack, noise: number): Figure<VoltUnit> {
  return figure(cellVolts(p).reduce((a, b) => a + b, 0) + noise, 'V', 2);
}

/** What a calliper with two decimals shows at a point. */
export function calliper(p: SimulatedPack, point: string, noise: number): Figure<'mm'> {
  return figure((p.thickness[point] ?? 0) + noise, 'mm', 2);
}
