import type { PackFacts } from '@gavrel/core';
import { healthTrend } from '@gavrel/core/care';
import { Trend } from '../ui/trend';

/** Health by every gauge reading that can be trusted; nothing before the second. */
export const HealthTrend = ({ facts }: { facts: PackFacts }) => (
  <Trend
    what="health"
    points={healthTrend(facts)}
    level={null}
    unit="%"
    decimals={0}
    words="Health by its gauge; the truth lies within the thin lines."
  />
);
