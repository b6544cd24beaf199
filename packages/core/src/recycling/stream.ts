import type { Condition, Purpose } from '../logbook/entry';

export type Stream = 'reuse' | 'refurbish' | 'recycle' | 'recycle damaged' | 'hold';

export interface StreamRuling {
  readonly stream: Stream;
  readonly why: string;
}

/**
 * The stream a pack belongs to. Reuse needs the cell voltages seen, by gauge or taps; damage and doubt never lead to reuse.
 * Common practice, no source.
 */
export function streamOf(condition: Condition, purpose: Purpose | null, cellsSeen: boolean): StreamRuling {
  switch (condition) {
    case 'critical':
      return { stream: 'hold', why: 'not before it is stable' };
    case 'unproven':
      return { stream: 'hold', why: 'examine it first' };
    case 'damaged':
      return { stream: 'recycle damaged', why: 'kept apart from spent packs, closed sound container' };
    case 'spent':
      return { stream: 'recycle', why: 'worn out or not wanted' };
    case 'sound':
      if (purpose === 'recycling' || purpose === 'disposal') return { stream: 'recycle', why: 'meant for recycling' };
      return cellsSeen
        ? { stream: 'reuse', why: 'nothing against it and the cell voltages were seen' }
        : { stream: 'refurbish', why: 'cell voltages not seen: read the gauge, or one full cycle in a host' };
  }
}
