import type { Due } from '@gavrel/core';
import ICAL from 'ical.js';
import { calendarOf } from '../../apps/server/src/log/calendar';

// What we write is read by another iCalendar library (ical.js), RFC 5545.
const NOW = new Date('2026-11-25T12:00:00.000Z');
const due = (id: string, on: string, more: Partial<Due> = {}): Due => ({
  id,
  what: 'look',
  title: 'Look at it',
  on,
  note: `${id}; a comma, a line\nand “quotes”`,
  subject: 'place:x',
  derived: true,
  ...more,
});
const LIST: readonly Due[] = [
  due('later today', '2026-11-25', { at: '2026-11-25T14:30:00.000Z' }),
  due('late since noon', '2026-11-25', { at: '2026-11-25T11:59:00.000Z' }),
  due('some day', '2026-12-03'),
  due('late day', '2026-11-01', { what: 'clock' }),
  due('a very long one '.repeat(20), '2026-12-24'),
];

test.each(['Atlantic/Faroe', 'Pacific/Auckland', 'America/Los_Angeles'])('days, moments and words survive, in %s', (zone) => {
  const text = calendarOf({ name: 'Tern Harbour Repair', zone }, LIST, NOW);
  // RFC 5545, 3.1: lines end in CRLF and hold at most 75 octets.
  const lines = text.split('\r\n');
  expect(Math.max(...lines.map((l) => Buffer.byteLength(l)))).toBeLessThanOrEqual(75);
  const root = new ICAL.Component(ICAL.parse(text) as unknown[]);
  const events = root.getAllSubcomponents('vevent').map((e) => new ICAL.Event(e));
  expect(events).toHaveLength(LIST.length);
  const by = new Map(events.map((e) => [e.uid, e]));
  const [moment, late, day, old, long] = LIST.map((d) => by.get(`${d.id}@gavrel`)!);
  const today = new Intl.DateTimeFormat('en-CA', { timeZone: zone }).format(NOW);
  expect([moment!.startDate.isDate, moment!.startDate.toJSDate().toISOString()]).toEqual([false, '2026-11-25T14:30:00.000Z']);
  expect(moment!.component.getAllSubcomponents('valarm')).toHaveLength(1);
  expect([day!.startDate.isDate, day!.startDate.toString()]).toEqual([true, '2026-12-03']);
  expect([late!.startDate.toString(), old!.startDate.toString()]).toEqual([today, today]);
  expect(old!.summary).toBe(`late: Look at it: ${LIST[3]!.note}`);
  expect(long!.summary).toBe(`Look at it: ${LIST[4]!.note}`);
  expect(day!.description).toContain('leave, alarm, call');
});
