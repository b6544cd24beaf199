import { show } from '@gavrel/core';
import type { ReportedBattery } from '@gavrel/core/job';
import { Words } from '../ui/words';

/** One battery as it was reported, with what is doubtful about it. */
export function Reported({ b }: { b: ReportedBattery }) {
  const { designCapacity: d, fullChargeCapacity: f, remainingCapacity: r, cycleCount: c } = b.gauge;
  return (
    <>
      <Words bold>{[b.name, b.maker, b.model, b.serial].filter(Boolean).join(' · ')}</Words>
      <Words>
        {[r && `${show(r)} left`, f && `of ${show(f)}`, d && `design ${show(d)}`, c && `${c} cycles`]
          .filter(Boolean)
          .join(', ') || 'nothing usable'}
      </Words>
      {b.doubts.map((x) => (
        <Words key={x} size={15}>{`— ${x}`}</Words>
      ))}
    </>
  );
}
