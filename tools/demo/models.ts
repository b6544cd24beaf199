import type { Connector } from '@gavrel/core';

/** Invented machines with invented packs; every label is consistent in itself. */
export interface Model {
  readonly maker: string;
  readonly model: string;
  readonly code: string;
  readonly series: number;
  readonly parallel: number;
  readonly volts: string;
  readonly mAh: string;
  readonly wattHours: string | null;
  readonly limit: string | null;
  /** New thickness, mm. */
  readonly thick: string;
  /** Outline, mm. */
  readonly length: string;
  readonly width: string;
  readonly connector: Connector;
  readonly ears: number;
  readonly kg: string;
  readonly made: string;
  readonly designation?: string;
}

// prettier-ignore
export const MODELS: readonly Model[] = [
  { maker: 'Mereline', model: 'Gannet 14', code: 'MG14-B50', series: 3, parallel: 1, volts: '11.4', mAh: '4386', wattHours: '50', limit: '13.05', thick: '5.00', length: '180', width: '105', connector: 'lift-off', ears: 6, kg: '0.231', made: '2021-05', designation: '3ICP5/57/101' },
  { maker: 'Mereline', model: 'Gannet 15', code: 'MG15-B56', series: 4, parallel: 1, volts: '15.2', mAh: '3685', wattHours: '56', limit: '17.4', thick: '5.20', length: '246', width: '90', connector: 'lift-off', ears: 6, kg: '0.262', made: '2022-02' },
  { maker: 'Skarn', model: 'Plover 13', code: 'SK-PL13-42', series: 2, parallel: 1, volts: '7.7', mAh: '5450', wattHours: '42', limit: '8.8', thick: '4.40', length: '210', width: '95', connector: 'push-ridge slider', ears: 4, kg: '0.198', made: '2020-11' },
  { maker: 'Skarn', model: 'Plover 16', code: 'SK-PL16-99', series: 4, parallel: 1, volts: '15.4', mAh: '6493', wattHours: '99.99', limit: '17.6', thick: '6.80', length: '300', width: '98', connector: 'locking bar', ears: 6, kg: '0.402', made: '2023-03' },
  { maker: 'Brinehart', model: 'Cove 15', code: 'BH0C15S', series: 3, parallel: 2, volts: '10.8', mAh: '4400', wattHours: '48', limit: '12.6', thick: '20.5', length: '207', width: '53', connector: 'blade dock', ears: 0, kg: '0.318', made: '2016-09', designation: '3INR19/66-2' },
  { maker: 'Brinehart', model: 'Cove dock', code: 'BHSL-130', series: 4, parallel: 3, volts: '14.4', mAh: '9030', wattHours: '130', limit: '16.8', thick: '21.0', length: '300', width: '95', connector: 'latched external', ears: 0, kg: '0.748', made: '2017-04' },
  { maker: 'Velloway', model: 'Finch 11', code: 'VF11-1C38', series: 1, parallel: 1, volts: '3.8', mAh: '10000', wattHours: '38', limit: '4.35', thick: '4.10', length: '190', width: '100', connector: 'pull-out plug', ears: 4, kg: '0.176', made: '2021-08' },
  { maker: 'Velloway', model: 'Wader 17', code: 'VW17-B90', series: 4, parallel: 1, volts: '15.2', mAh: '5920', wattHours: '90', limit: '17.4', thick: '7.10', length: '282', width: '90', connector: 'locking bar', ears: 6, kg: '0.381', made: '2022-06' },
  { maker: 'Ternworks', model: 'Harrier 14', code: 'TW-H14', series: 3, parallel: 1, volts: '11.55', mAh: '4200', wattHours: '48.5', limit: '13.2', thick: '5.10', length: '206', width: '95', connector: 'side tabs', ears: 5, kg: '0.224', made: '2021-12' },
  { maker: 'Ternworks', model: 'Dunlin 12', code: 'TW-D12', series: 2, parallel: 1, volts: '7.6', mAh: '5000', wattHours: '38', limit: '8.7', thick: '4.60', length: '193', width: '90', connector: 'flap', ears: 4, kg: '0.171', made: '2019-10' },
  { maker: 'Mereline', model: 'Fulmar 15', code: 'MF15-6C', series: 3, parallel: 2, volts: '11.1', mAh: '4400', wattHours: null, limit: null, thick: '20.2', length: '204', width: '52', connector: 'blade dock', ears: 0, kg: '0.312', made: '2008-03' },
  { maker: 'Skarn', model: 'Knot 13', code: 'SK-KN13-54', series: 3, parallel: 1, volts: '11.61', mAh: '4650', wattHours: '54', limit: '13.35', thick: '5.00', length: '232', width: '97', connector: 'push-ridge slider', ears: 5, kg: '0.219', made: '2024-01' },
];

/** A model by its number, round and round. */
export function modelAt(i: number): Model {
  const found = MODELS[i % MODELS.length];
  if (!found) throw new Error(`no model has the number ${i}`);
  return found;
}

/** Models whose packs lie on the shelf of spares. */
const SPARES = [0, 1, 2, 3, 7, 8, 9, 11];
export const spareAt = (i: number): Model => modelAt(SPARES[i % SPARES.length] ?? 0);
