/** A day of 24 hours, ms. A legal day may be an hour longer or shorter: that is asked of a zone. */
export const DAY_MS = 86_400_000;

/** Making a format takes far longer than using it. */
const FORMATS = new Map<string, Intl.DateTimeFormat>();

/** The local day of a moment in a zone (IANA name), YYYY-MM-DD; a legal day is never a moment. @throws RangeError for no zone or no moment. */
export function localDay(zone: string, at: Date): string {
  let format = FORMATS.get(zone);
  if (!format) {
    format = new Intl.DateTimeFormat('en-CA', { timeZone: zone, year: 'numeric', month: '2-digit', day: '2-digit' });
    FORMATS.set(zone, format);
  }
  return format.format(at);
}

/** Is it a day of the calendar, YYYY-MM-DD? 30 February is none. */
export function isDay(text: string): boolean {
  if (!/^\d{4}-\d{2}-\d{2}$/.test(text)) return false;
  const at = new Date(`${text}T00:00:00Z`);
  return !Number.isNaN(at.getTime()) && at.toISOString().slice(0, 10) === text;
}

/** The day so many days later, or earlier below 0; days are YYYY-MM-DD. */
export const addDays = (day: string, days: number): string =>
  new Date(Date.parse(`${day}T00:00:00Z`) + days * DAY_MS).toISOString().slice(0, 10);

/** Is it a day, a month or a year of the calendar: YYYY-MM-DD, YYYY-MM or YYYY? */
export const isPartialDay = (text: string): boolean =>
  /^\d{4}(-\d{2}){0,2}$/.test(text) && isDay(`${text}${'-01-01'.slice(text.length - 4)}`);

/** Does even the first day that a partial date can mean lie after a day? */
export const isAfter = (partial: string, day: string): boolean => partial > day.slice(0, partial.length);
