import type { Condition, PlaceKind, PlaceLimits } from '../logbook/entry';
import type { PlaceFacts } from '../logbook/fold-place';
import type { Stored } from './stored';

const HOLDS: Partial<Record<PlaceKind, readonly Condition[]>> = {
  quarantine: ['damaged', 'unproven'],
  outdoors: ['damaged', 'critical'],
  drum: ['spent'],
  intake: ['unproven', 'sound', 'spent'],
};

/** Test helper: a place. */
export const aPlace = (name: string, kind: PlaceKind, limits: PlaceLimits = {}, more: Partial<PlaceFacts> = {}): PlaceFacts => ({
  id: name,
  name,
  kind,
  holds: HOLDS[kind] ?? ['sound'],
  limits,
  dues: [],
  closed: null,
  looks: [],
  answered: [],
  counted: null,
  collections: [],
  lastAt: '2026-11-25T08:00:00.000Z',
  ...more,
});

/** Test helper: a pack of 50 Wh, 300 g. */
export const aPack = (tag: string, condition: Condition, place: string | null = null, more: Partial<Stored> = {}): Stored => ({
  id: tag,
  tag,
  condition,
  kind: condition === 'critical' ? 'unstable' : null,
  place,
  placedAs: condition,
  placedAt: place === null ? null : '2026-11-25T08:00:00.000Z',
  despite: null,
  wattHours: 50,
  kg: 0.3,
  litres: 0.2,
  ...more,
});
