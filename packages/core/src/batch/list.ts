import Papa from 'papaparse';

/**
 * Where a spreadsheet would begin a formula: at the start, and after anything that some country's spreadsheet takes for the end of a cell,
 * with spaces or quotes between or not; by the signs themselves or their full-width twins.
 */
const SIGN = '[\\s\\u00a0"\']{0,64}[=+\\-@＝＋－＠]';
const AFTER = new RegExp(`([;,|\\t\\r\\n])(?=${SIGN})`, 'gu');
const FIRST = new RegExp(`^(?=${SIGN}|[\\t\\r])`, 'u');

/** A cell, or a part of one, that a spreadsheet would take for a formula is marked as text. */
export const harmless = (text: string): string => text.replace(AFTER, "$1'").replace(FIRST, "'");

/** Any list as CSV, CRLF, every cell harmless. */
export const writeList = (head: readonly string[], rows: readonly (readonly string[])[]): string =>
  Papa.unparse({ fields: [...head], data: rows.map((r) => r.map(harmless)) }, { newline: '\r\n' });
