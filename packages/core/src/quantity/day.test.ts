import { localDay } from './day';

// Offsets of the IANA time zone database: Kiritimati +14:00, Lisbon +00:00 and from the last Sunday of March +01:00, Los Angeles -08:00.
test.each([
  ['UTC', '2026-11-25T23:59:59Z', '2026-11-25'],
  ['Pacific/Kiritimati', '2026-11-25T10:00:00Z', '2026-11-26'],
  ['Pacific/Kiritimati', '2026-11-25T09:59:59Z', '2026-11-25'],
  ['America/Los_Angeles', '2026-01-01T07:59:59Z', '2025-12-31'],
  ['Europe/Lisbon', '2026-03-28T23:30:00Z', '2026-03-28'],
  ['Europe/Lisbon', '2026-03-29T23:30:00Z', '2026-03-30'],
])('the day in %s at %s is %s', (zone, at, day) => expect(localDay(zone, new Date(at))).toBe(day));

test('no such zone, no such moment: an error, not a day', () => {
  expect(() => localDay('Nowhere/At_All', new Date())).toThrow(RangeError);
  expect(() => localDay('UTC', new Date('nonsense'))).toThrow(RangeError);
});
