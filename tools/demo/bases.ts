import type { CoverBody, FastenersBody, IsolatedBody, PackRemovedBody, Screw } from '@gavrel/core';

/** What the base of an invented machine is like. */
export interface Base {
  readonly fasteners: FastenersBody;
  readonly cover: CoverBody;
  readonly isolation: IsolatedBody;
  readonly removal: PackRemovedBody;
}

type Row = Pick<Screw, 'thread' | 'drive' | 'hidden' | 'captive'> & {
  readonly long: string;
  readonly at: readonly (readonly [x: number, y: number])[];
};

const screws = (rows: readonly Row[]): Screw[] =>
  rows
    .flatMap(({ long, at, ...kind }) => at.map(([x, y]) => ({ ...kind, x, y, length: { digits: long, unit: 'mm' as const } })))
    .map((s, i) => ({ id: i + 1, ...s }));

const across = (y: number, ...xs: number[]) => xs.map((x) => [x, y] as const);

const REAR = { thread: 'M2', drive: 'PH0', long: '6.0', at: across(0.08, 0.08, 0.36, 0.64, 0.92) } as const;
const FRONT = { thread: 'M2', drive: 'PH0', long: '3.0', at: across(0.92, 0.08, 0.36, 0.64, 0.92) } as const;
const UNDER_FOOT = { thread: 'M2', drive: 'PH0', long: '4.0', hidden: 'foot', at: across(0.5, 0.1, 0.9) } as const;

const gannet = (rows: readonly Row[]): Base => ({
  fasteners: { habit: 'map', ratio: 1.45, screws: screws(rows) },
  cover: { pryStart: 'hinge side', tool: 'plastic', lifts: 'straight', cables: ['fan', 'speaker'] },
  isolation: { connector: 'lift-off', tape: true, reach: 'free', coinCell: 'not seen' },
  removal: {
    mounting: ['screws'],
    screws: [{ thread: 'M2', length: { digits: '3.0', unit: 'mm' }, count: 6 }],
    cables: 'routed on it',
    cable: 'part of the pack',
    bay: {
      length: { digits: '182', unit: 'mm' },
      width: { digits: '106', unit: 'mm' },
      depth: { digits: '5.8', unit: 'mm' },
    },
  },
});

export const GANNET = gannet([REAR, UNDER_FOOT, FRONT]);
/** The same machine with a later base: no screws under the feet. */
export const GANNET_LATER = gannet([REAR, FRONT]);
export const HARRIER: Base = {
  fasteners: {
    habit: 'map',
    ratio: 1.5,
    screws: screws([
      { thread: 'M2.5', drive: 'T6', long: '5.0', captive: true, at: across(0.06, 0.1, 0.37, 0.63, 0.9) },
      { thread: 'M2', drive: 'T5', long: '3.5', at: across(0.94, 0.15, 0.5, 0.85) },
    ]),
  },
  cover: { pryStart: 'front middle', tool: 'plastic', lifts: 'slides', cables: ['to the cover'] },
  isolation: { connector: 'side tabs', tape: false, reach: 'free', coinCell: 'left' },
  removal: {
    mounting: ['pull tabs'],
    cables: 'free',
    cable: 'keep it',
    bay: {
      length: { digits: '208', unit: 'mm' },
      width: { digits: '96', unit: 'mm' },
      depth: { digits: '6.0', unit: 'mm' },
    },
  },
};
