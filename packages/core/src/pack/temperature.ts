import { judge, type Limit } from '../quantity/limit';

/** Surface limits. Trade convention, no source. */
export const HOT = { absolute: 60, overRoom: 10, restMinutes: 30, warm: 40 } as const;

export interface HeatJudgement {
  readonly hot: boolean;
  readonly unclear: boolean;
  /** Warm enough that the room and the rest must be known: ten kelvin over the room cannot be excluded. */
  readonly roomAsked: boolean;
  readonly limits: readonly Limit[];
}

/**
 * Hot: surface over 60 °C, or more than 10 K over the room after half an hour at rest.
 * @param u expanded uncertainty of the surface reading, K; @param room room temperature, null when not taken.
 */
export function judgeHeat(surface: number, u: number, room: number | null, restMinutes: number | undefined): HeatJudgement {
  const limits: Limit[] = [];
  const add = (id: string, label: string, value: number, uncertainty: number, limit: number) =>
    limits.push({
      id,
      label,
      unit: id === 'heat.surface' ? '°C' : 'K',
      value,
      u: uncertainty,
      limit,
      side: 'max',
      verdict: judge(value, uncertainty, limit, 'max'),
      beyond: 'hot',
      between: 'unproven',
      perReading: 1,
      readingUnit: '°C',
      decimals: 1,
      nature: 'observation',
    });
  add('heat.surface', 'surface', surface, u, HOT.absolute);
  // Warm, and nobody says against which room or after which rest: it cannot pass.
  const roomAsked = (room === null || restMinutes === undefined) && judge(surface, u, HOT.warm, 'max') !== 'pass';
  if (room !== null && (restMinutes ?? 0) >= HOT.restMinutes) {
    add('heat.over-room', 'over the room', surface - room, Math.SQRT2 * u, HOT.overRoom);
  }
  return {
    hot: limits.some((l) => l.verdict === 'fail'),
    unclear: limits.some((l) => l.verdict === 'cannot tell'),
    roomAsked,
    limits,
  };
}
