import {
  type CapacityUnit,
  type EnergyUnit,
  type Figure,
  figure,
  INSTRUMENTS,
  type Instrument,
  type LabelBody,
  latest,
  LENGTH_UNITS,
  type Limit,
  type PackFacts,
  type Quantity,
  type ReadingSet,
  seriesOf,
  type Subject,
  TEMPERATURE_UNITS,
  type VoltUnit,
} from '@gavrel/core';
import { v4 } from 'uuid';
import { draft } from '../device/write';
import type { Point } from '../ui/pack-drawing';
import { accuracyWords } from './instruments';
import type { NumberTask } from './number-task';

interface ReadingTask {
  readonly title: string;
  readonly quantity: Quantity;
  readonly units: readonly string[];
  readonly instrument: Instrument;
  readonly limits: readonly string[];
  readonly askRest?: boolean;
  readonly signed?: boolean;
}

const READINGS: Record<'volts' | 'cell' | 'thickness' | 'surface' | 'room' | 'mass', ReadingTask> = {
  volts: {
    title: 'Pack voltage',
    quantity: 'pack-voltage',
    units: ['V'],
    instrument: INSTRUMENTS.multimeter,
    limits: ['pack.low', 'pack.over'],
    askRest: true,
    signed: true,
  },
  cell: {
    title: 'Cell',
    quantity: 'cell-voltage',
    units: ['V', 'mV'],
    instrument: INSTRUMENTS.multimeter,
    limits: ['cell.low', 'cell.over'],
    askRest: true,
    signed: true,
  },
  thickness: {
    title: 'Thickness',
    quantity: 'thickness',
    units: LENGTH_UNITS,
    instrument: INSTRUMENTS.calliper,
    limits: ['swelling.any', 'swelling.allowance'],
  },
  surface: {
    title: 'Surface',
    quantity: 'surface-temperature',
    units: TEMPERATURE_UNITS,
    instrument: INSTRUMENTS.contactProbe,
    limits: ['heat.surface', 'heat.over-room'],
    askRest: true,
    signed: true,
  },
  room: {
    title: 'Room',
    quantity: 'room-temperature',
    units: TEMPERATURE_UNITS,
    instrument: INSTRUMENTS.contactProbe,
    limits: [],
    signed: true,
  },
  mass: { title: 'Mass', quantity: 'mass', units: ['g', 'kg'], instrument: INSTRUMENTS.scale, limits: [] },
};
export type ReadingKey = keyof typeof READINGS;

const MEASURES = {
  volts: 'volts',
  cell: 'volts',
  thickness: 'thickness',
  surface: 'temperature',
  room: 'temperature',
  mass: 'mass',
} as const;

/**
 * A reading of the pack; several points follow one another without leaving the keypad.
 * @param set the run it belongs to: cells are compared only within one, and one that was left in the middle passes nothing.
 */
export function readingTask(
  facts: PackFacts,
  series: number | null,
  key: ReadingKey,
  points: readonly string[] = [],
  set: ReadingSet | undefined = key === 'cell' ? { id: v4(), of: Math.max(series ?? 1, points.length) } : undefined,
): NumberTask {
  const r = READINGS[key];
  const [point, ...rest] = points;
  const subject: Subject = `pack:${facts.id}`;
  const before = latest(seriesOf(facts.readings, r.quantity).filter((s) => s.point === (point ?? '')));
  const decimals = key === 'surface' || key === 'room' ? 1 : key === 'mass' ? 0 : 2;
  const last = before === undefined ? undefined : (key === 'mass' ? before.mean * 1000 : before.mean).toFixed(decimals);
  return {
    packId: facts.id,
    title: point ? `${r.title} ${point}` : r.title,
    units: r.units,
    unit: r.units[0]!,
    ...(last !== undefined && { last }),
    quantity: r.quantity,
    series,
    instrument: accuracyWords(r.instrument),
    measures: MEASURES[key],
    limits: r.limits,
    ...(point !== undefined && { point }),
    ...(r.askRest && { askRest: true }),
    ...(r.signed && { signed: true }),
    draft: (f, extra) =>
      draft('reading-taken', [subject], {
        quantity: r.quantity,
        figure: f,
        instrument: r.instrument,
        ...(point && { point }),
        ...(set && { set }),
        ...extra,
      }),
    ...(rest.length > 0 && { next: () => readingTask(facts, series, key, rest, set) }),
  };
}

/** The new thickness, from a data sheet, a measured new part, or a trade code. */
export function newThicknessTask(
  facts: PackFacts,
  source: 'measured-new' | 'data-sheet' | 'trade-code',
  then?: Point,
): NumberTask {
  return {
    packId: facts.id,
    title: `New thickness, ${source.replace('-', ' ')}`,
    units: LENGTH_UNITS,
    unit: 'mm',
    quantity: 'new-thickness',
    series: null,
    draft: (f) => draft('reading-taken', [`pack:${facts.id}`], { quantity: 'new-thickness', figure: f, source }),
    ...(then && { next: () => readingTask(facts, null, 'thickness', [then]) }),
  };
}

/** 100 Wh, the line where transport changes: declared figures are compared exactly. */
const hundred = (x: number): Limit => ({
  id: 'energy.small',
  label: 'declared energy',
  unit: 'Wh',
  value: x,
  u: 0,
  limit: 100,
  side: 'max',
  verdict: x <= 100 ? 'pass' : 'fail',
  beyond: 'fully regulated',
  between: '',
  perReading: 1,
  readingUnit: 'Wh',
  decimals: 2,
  nature: 'observation',
});

type LabelFigure = 'nominalVoltage' | 'ratedCapacity' | 'ratedEnergy' | 'limitedChargeVoltage';
export const LABEL_FIGURES: Record<LabelFigure, { title: string; units: readonly string[] }> = {
  nominalVoltage: { title: 'Nominal voltage', units: ['V'] },
  ratedCapacity: { title: 'Rated capacity', units: ['mAh', 'Ah'] },
  ratedEnergy: { title: 'Rated energy', units: ['Wh', 'mWh'] },
  limitedChargeVoltage: { title: 'Limited charge voltage', units: ['V'] },
};

/** A figure of the label. `write` decides whether it is new or a correction. */
export function labelTask(
  key: LabelFigure,
  present: Figure | undefined,
  write: (change: Partial<LabelBody>) => ReturnType<typeof draft>,
  next?: () => NumberTask | null,
): NumberTask {
  const { title, units } = LABEL_FIGURES[key];
  return {
    title,
    units,
    unit: present?.unit ?? units[0]!,
    ...(present && { last: present.digits }),
    series: null,
    ...(key === 'ratedEnergy' && { ownLimit: hundred }),
    draft: (f) =>
      write({ [key]: f as Figure<VoltUnit & CapacityUnit & EnergyUnit>, ...(key === 'ratedEnergy' && { energyMarked: true }) }),
    ...(next && { next }),
  };
}

/** mAh of a gauge as a figure. */
export const milliampHours = (digits: string): Figure<CapacityUnit> => figure(Number(digits), 'mAh', 0) as Figure<CapacityUnit>;
