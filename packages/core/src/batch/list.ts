import Papa from 'papaparse';

/** A cell that a spreadsheet would take for a formula is marked as text. */
export const harmless = (text: string): string => (/^[=+\-@\t\r]/.test(text) ? `'${text}` : text);

/** Any list as CSV, CRLF, every cell harmless. */
export const writeList = (head: readonly string[], rows: readonly (readonly string[])[]): string =>
  Papa.unparse({ fields: [...head], data: rows.map((r) => r.map(harmless)) }, { newline: '\r\n' });
