import { Words } from './words';

/** What stands on record of fields that were emptied: a form takes nothing away. @param stays "the day stays 2026-12-03", or nothing. @param how to take it away. */
export function LeftEmpty({ stays, how = '' }: { stays: readonly (string | false | null | undefined)[]; how?: string }) {
  const all = stays.filter(Boolean);
  return all.length === 0 ? null : <Words bold>{`Left empty, ${all.join(', ')}${how}.`}</Words>;
}
