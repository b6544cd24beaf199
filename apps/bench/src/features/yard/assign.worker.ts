import type { Stored } from '@gavrel/core';
import { assign, type Assignment, type PlaceState } from '@gavrel/core/place';

export interface AssignOrder {
  readonly chosen: readonly Stored[];
  readonly yard: readonly PlaceState[];
}

self.onmessage = (e: MessageEvent<AssignOrder>) => {
  self.postMessage(assign(e.data.chosen, e.data.yard) satisfies Assignment);
};
