import type { Judgement, PackFacts } from '@gavrel/core';
import { fadeOutlook, fadePoints, healthTrend } from '@gavrel/core/care';
import { Trend } from '../ui/trend';
import { Words } from '../ui/words';
import { outlookWords } from './outlook-words';

/** Health by every gauge reading that can be trusted; nothing before the second. What may be told of its further course stands below. */
export function HealthTrend({ facts, label }: { facts: PackFacts; label: Judgement['label']['sure'] }) {
  const points = fadePoints(facts, label.madeOn);
  const outlook = points.length < 2 ? null : fadeOutlook(points);
  return (
    <>
      <Trend
        what="health"
        points={healthTrend(facts)}
        level={null}
        unit="%"
        decimals={0}
        words="Health by its gauge; the truth lies within the thin lines."
      />
      {outlook ? (
        <Words size={15} testID="fade-outlook">
          {outlookWords(outlook)}
        </Words>
      ) : null}
    </>
  );
}
