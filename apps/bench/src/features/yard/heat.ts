import { ALARM_OVER_ROOM, judge, type Limit, type OverRoom } from '@gavrel/core';

/** A container over its room as a scale; too close to tell is an alarm too. */
export const heatLimit = ({ kelvin, u }: OverRoom): Limit => ({
  id: 'container.over-room',
  label: 'over its room',
  unit: 'K',
  value: kelvin,
  u,
  limit: ALARM_OVER_ROOM,
  side: 'max',
  verdict: judge(kelvin, u, ALARM_OVER_ROOM, 'max'),
  beyond: 'alarm: examine from outside',
  between: 'alarm: examine from outside',
  perReading: 1,
  readingUnit: '°C',
  decimals: 1,
  nature: 'observation',
});
