import { CONDITIONS, type PlaceFacts, type Stored } from '@gavrel/core';
import { assign, assignByHand, yardOf } from '@gavrel/core/place';
import { seeded } from './common';

const KINDS = ['cabinet', 'quarantine', 'drum', 'intake', 'outdoors'] as const;

/** Places of every kind, together a little too small for the packs, and packs that lie anywhere. */
function yard(packs: number, places: number): { all: Stored[]; yard: ReturnType<typeof yardOf> } {
  const random = seeded(47);
  const room = Math.ceil((packs * 1.1) / places);
  const sites = Array.from({ length: places }, (_, j): PlaceFacts => ({
    id: `P${j}`,
    name: `P${j}`,
    kind: KINDS[j % KINDS.length]!,
    holds: [...CONDITIONS],
    limits: { packs: room, wattHours: room * 58, kg: room * 0.34 },
    dues: [],
    closed: null,
    looks: [],
    answered: [],
    counted: null,
    collections: [],
    lastAt: '2026-11-25T08:00:00.000Z',
  }));
  const all = Array.from({ length: packs }, (_, i): Stored => {
    const condition = CONDITIONS[Math.floor(random() * 4)]!;
    return {
      id: `k${i}`,
      tag: `k${i}`,
      condition,
      kind: null,
      place: random() < 0.7 ? `P${Math.floor(random() * places)}` : null,
      placedAs: condition,
      placedAt: null,
      despite: null,
      wattHours: 30 + random() * 50,
      kg: 0.2 + random() * 0.2,
      litres: 0.2,
    };
  });
  return { all, yard: yardOf(sites, all) };
}

/** Many packs to 40 places, against putting them one after another by hand, and how it grows. */
export function places(say: (line: string) => void): void {
  const sizes = [500, 1000, 2000, 4000];
  const warm = yard(500, 40);
  assign(warm.all, warm.yard);
  const times = sizes.map((n) => {
    const { all, yard: y } = yard(n, 40);
    const start = performance.now();
    const plan = assign(all, y);
    const ours = performance.now() - start;
    const hand = performance.now();
    const simple = assignByHand(all, y);
    const theirs = performance.now() - hand;
    const moved = `${plan.placed} placed of ${plan.atMost} at most, ${plan.moves} moved (by hand ${simple.placed}, ${simple.moves})`;
    if (n === 1000)
      say(`places:  1000 packs to 40 places in ${ours.toFixed(0)} ms, ${(ours / theirs).toFixed(1)} x one by one: ${moved}`);
    return ours;
  });
  const slope = Math.log(times[3]! / times[0]!) / Math.log(sizes[3]! / sizes[0]!);
  say(`         grows with the power ${slope.toFixed(2)} of the packs, from ${sizes[0]} to ${sizes[3]}`);
}
