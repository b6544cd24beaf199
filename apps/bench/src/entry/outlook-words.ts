import { counted } from '@gavrel/core';
import type { FadeOutlook } from '@gavrel/core/care';

const percent = (x: number): string => `${Math.round(100 * x)} %`;
const years = (x: number): string => (x < 1.5 ? counted(Math.max(1, Math.round(12 * x)), 'month') : `${x.toFixed(1)} years`);

/** What may be told of how a pack goes on, used as in its last year: eight of ten such packs do so. */
export function outlookWords(o: FadeOutlook): string {
  if (o.kind === 'refused') return `How it goes on cannot be told: ${o.words}.`;
  const then = `${percent(o.then.lo)} to ${percent(o.then.hi)} of its design in ${years(o.ahead)}`;
  const reached = o.years ? `, down to ${percent(o.level)} in ${years(o.years.lo)} to ${years(o.years.hi)}` : '';
  return `Used as in its last year: ${then}${reached}. Eight of ten do so; a sudden fall is not foreseen. It says nothing about danger.`;
}
