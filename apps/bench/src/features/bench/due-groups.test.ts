import type { Due } from '@gavrel/core';
import { dueGroups } from './due-groups';

const due = (id: string, on: string, more: Partial<Due> = {}): Due =>
  ({ id, what: 'look', title: id, note: '', on, subject: 'pack:1', derived: true, ...more }) as Due;

test('every due stands once, who it needs and how late it is before when it comes', () => {
  const dues = [
    due('far', '2026-12-30'),
    due('tomorrow', '2026-12-01'),
    due('an hour ago', '2026-11-30', { at: '2026-11-30T09:00:00.000Z' }),
    due('in an hour', '2026-11-30', { at: '2026-11-30T11:00:00.000Z' }),
    due('a colleague', '2026-12-30', { what: 'second person' }),
    due('yesterday', '2026-11-29'),
    due('in six days', '2026-12-06'),
  ];
  const groups = dueGroups(dues, '2026-11-30', '2026-11-30T10:00:00.000Z');
  expect(groups.map((g) => [g.title, g.dues.map((d) => d.id)])).toEqual([
    ['Needs a second person', ['a colleague']],
    ['Late', ['an hour ago', 'yesterday']],
    ['Today', ['in an hour']],
    ['Tomorrow', ['tomorrow']],
    ['Within a week', ['in six days']],
    ['Later', ['far']],
  ]);
});
