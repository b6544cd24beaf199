import type { Condition, PackFacts } from '@gavrel/core';
import { whyNotFitted, whyNotLeaving } from './held';

const pack = (condition: Condition, use: PackFacts['use'] = 'replacement', frozen = false) =>
  ({ facts: { tag: 'TH-1', use, incidents: frozen ? [{ body: { frozen } }] : [] }, judgement: { condition } }) as never;

test('only a sound pack goes in; one that is in comes out again once it is damaged, not because a look grew old', () => {
  expect(whyNotFitted(pack('sound'), false)).toBe('');
  for (const c of ['spent', 'unproven', 'damaged', 'critical'] as const)
    expect(whyNotFitted(pack(c), false)).toContain('only a sound pack goes in');
  expect(whyNotFitted(undefined, false)).toContain('not on this device');
  expect(whyNotFitted(pack('unproven', 'fitted'), true)).toBe('');
  expect(whyNotFitted(pack('damaged', 'fitted'), true)).toContain('take it out');
});

test('an owner takes their damaged pack away as its ruling says, never a critical one, one held by an incident, or one in the machine', () => {
  expect(whyNotLeaving([pack('damaged', 'removed'), pack('unproven', 'removed'), pack('sound', 'fitted')])).toBe('');
  expect(whyNotLeaving([pack('sound', 'fitted'), pack('critical', 'removed')])).toMatch(/goes nowhere/);
  expect(whyNotLeaving([pack('sound', 'removed', true)])).toMatch(/held by an incident/);
  expect(whyNotLeaving([pack('damaged', 'fitted')])).toMatch(/comes out first/);
});
