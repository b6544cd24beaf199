import { classify, relationOf } from '@gavrel/core';
import fc from 'fast-check';
import { facts, route } from './random-packs';
import { secondOpinion } from './second-opinion';

// What contradicts itself is held by rules of our own, with tests of their own; here both read the same, coherent facts.
const coherent = facts.filter((f) =>
  classify(f, { on: '2026-11-24' }).contradictions.every((c) => !['size', 'hold'].includes(relationOf(c.relation).effect)),
);

test('a second implementation, in tables, agrees on 20,000 random packs', () => {
  fc.assert(
    fc.property(coherent, route, (f, r) => {
      const want = secondOpinion(f, r);
      const { condition, outcome, provision, un, batteryMark } = classify(f, r);
      // Where several facts are open, which of several provisions a hold names is a matter of words.
      const named = want.provision === 'open' ? 'open' : provision;
      expect({ condition, outcome, provision: named, un, batteryMark }).toEqual(want);
    }),
    { numRuns: 20_000, seed: 20261124 },
  );
});
