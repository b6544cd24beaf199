import type { Condition, PlaceKind } from '../logbook/entry';

/** Where a pack must lie and how. Common practice, no source, unless a line names one; local code decides. */
export interface StorageOrder {
  /** Kinds of place it may lie in; empty: do not carry it anywhere. */
  readonly places: readonly PlaceKind[];
  /** The order in a few words, for the strip. */
  readonly short: string;
  readonly steps: readonly string[];
  /** Hours between looks; null: no watch of its own. */
  readonly watchHours: number | null;
  readonly source: string;
}

const PRACTICE = 'common practice, no source; local code and trained people decide';

/** The storage order that follows from a condition. */
export function storageOrder(condition: Condition, kind: 'reacting' | 'unstable' | null): StorageOrder {
  switch (condition) {
    case 'critical':
      return kind === 'reacting'
        ? {
            places: [],
            short: 'leave, alarm, call',
            steps: ['Leave the room. Take everyone with you.', 'Raise the alarm.', 'Call the fire service from outside.'],
            watchHours: null,
            source: PRACTICE,
          }
        : {
            places: ['outdoors'],
            short: 'keep away: a trained person isolates it outdoors',
            steps: [
              'Keep people away. Do not touch what leaks; no flames, no sparks.',
              'A trained person carries it outdoors in a metal container with dry fill.',
              'Tell the lead. Smoke, hiss or heat: leave, alarm, call.',
            ],
            watchHours: 1,
            source: PRACTICE,
          };
    case 'damaged':
      return {
        places: ['quarantine', 'outdoors'],
        short: 'quarantine',
        steps: [
          'Do not charge, do not discharge, do not press flat.',
          'Contacts covered, one pack in a bag, metal container that vents, dry sand or vermiculite round it.',
          '3 m, better 5 m, from anything that burns, openings and ways out.',
          'Write date and finding on it. Look closely for 72 hours, then daily.',
        ],
        watchHours: 24,
        source: PRACTICE,
      };
    case 'unproven':
      return {
        places: ['intake', 'quarantine', 'outdoors'],
        short: 'apart until examined',
        steps: [
          'Keep it apart from sound packs, not stacked, not plugged in.',
          'Examine it: what is worth taking next stands on its slip.',
        ],
        watchHours: 24,
        source: PRACTICE,
      };
    case 'spent':
      return {
        places: ['drum', 'quarantine'],
        short: 'recycling drum',
        steps: ['Cover the contacts, one by one.', 'Into the drum for recycling; note the date it became waste.'],
        watchHours: null,
        source: PRACTICE,
      };
    case 'sound':
      return {
        places: ['shelf', 'cabinet', 'bench'],
        short: 'shelf',
        steps: [
          'Contacts covered, cool and dry, 15 to 25 °C, 30 to 60 % charge.',
          'Look again within 3 to 6 months; top up below about 20 %.',
        ],
        watchHours: null,
        source: PRACTICE,
      };
  }
}
