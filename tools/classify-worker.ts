import { type Row, type Ruled, ruleRow } from '@gavrel/core/batch';

/** A stretch of rows, and whether it is wanted as objects (for CSV, whose columns come last) or as JSON lines. */
export interface Stretch {
  readonly rows: readonly Row[];
  readonly csv: boolean;
}

/** As the cases name it: the tag is their id. */
const line = ({ tag, ...r }: Ruled): string => `${JSON.stringify({ id: tag, ...r })}\n`;

/** Rules on a stretch of a table. Runs in a thread of its own where the table is long. */
export function ruleStretch({ rows, csv }: Stretch): string | Ruled[] {
  const ruled = rows.map(ruleRow);
  return csv ? ruled : ruled.map(line).join('');
}

export default ruleStretch;
