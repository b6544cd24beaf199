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
