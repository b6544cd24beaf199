import { type Due, isDay, localDay } from '@gavrel/core';
import ical, { ICalAlarmType, ICalCalendarMethod } from 'ical-generator';
import type { WorkshopRow } from '../store/workshop';

const LOOK_MINUTES = 15;
/** Control characters, which RFC 5545 keeps out of a text. */
const UNWRITABLE = /[\u0000-\u0009\u000b-\u001f\u007f]/g;

/** One event a due thing. What is late stands today, where a phone still shows it. */
export function calendarOf(workshop: Pick<WorkshopRow, 'name' | 'zone'>, list: readonly Due[], now: Date): string {
  const today = localDay(workshop.zone, now);
  const calendar = ical({ name: `${workshop.name}: due`, method: ICalCalendarMethod.PUBLISH, ttl: 3600 });
  for (const d of list) {
    // A day that is none would end the whole feed: it is told as of today.
    const on = isDay(d.on) ? d.on : today;
    const late = d.at === undefined ? on < today : d.at < now.toISOString();
    const moment = d.at !== undefined && !Number.isNaN(Date.parse(d.at)) && !late ? new Date(d.at) : null;
    // An all-day event has a day and no moment: the library writes the day that the UTC date names.
    const day = new Date(`${late ? today : on}T00:00:00.000Z`);
    const event = calendar.createEvent({
      id: `${d.id}@gavrel`,
      stamp: now,
      summary: `${late ? 'late: ' : ''}${`${d.title}: ${d.note}`.replace(UNWRITABLE, ' ')}`,
      description: 'Smoke or hiss: leave, alarm, call. Never unpack a damaged pack to look at it.',
      start: moment ?? day,
      ...(moment ? { end: new Date(moment.getTime() + LOOK_MINUTES * 60_000) } : { allDay: true, timezone: 'UTC' }),
    });
    if (moment) event.createAlarm({ type: ICalAlarmType.display, trigger: 0 });
  }
  return calendar.toString();
}
