import { counted } from '@gavrel/core';
import type { PackFacts, Ruling } from '@gavrel/core';
import { useState } from 'react';
import { Asked, KeepKey } from '../ui/asked';
import { Choice } from '../ui/buttons';
import { Sheet } from '../ui/sheet';
import { Words } from '../ui/words';
import type { Keep } from './card';
import { labelDrafts } from './label-draft';
import { useRecord } from './use-record';

const COUNTS = ['1', '2', '3', '4', '5', '6'] as const;
type Count = (typeof COUNTS)[number];

/** Cells as they were counted, in series and, where they were seen, in parallel. @param onCounted cells in series, once they are kept. */
export function CellsSheet({
  facts,
  ruling,
  onKeep,
  onClose,
  onCounted,
}: {
  facts: PackFacts;
  ruling: Ruling;
  onKeep: Keep;
  onClose: () => void;
  onCounted?: (series: number) => void;
}) {
  const label = ruling.judgement.label.all;
  const record = useRecord(facts.id);
  const [series, setSeries] = useState<Count | null>(null);
  const [parallel, setParallel] = useState<Count | null>(null);
  const [asked, setAsked] = useState('');
  const keep = async () => {
    if (series === null) return;
    const change = { series: Number(series), ...(parallel !== null && { parallel: Number(parallel) }) };
    const drafts = labelDrafts(facts, label, change);
    const asks = record.asks(drafts).join('\n');
    if (asks !== '' && asks !== asked) return setAsked(asks);
    for (const d of drafts) await onKeep(d, `${counted(Number(series), 'cell')} in series`);
    onClose();
    onCounted?.(Number(series));
  };
  return (
    <Sheet
      title="Count the cells"
      onClose={onClose}
      footer={<KeepKey asked={asked} disabled={series === null} onKeep={keep} testID="keep-cells" />}
    >
      <Words>From the taps or the welded strips, never by opening the pack. Groups welded side by side count as one.</Words>
      <Words size={15} soft>
        In series
      </Words>
      <Choice
        label="Cells in series"
        options={COUNTS}
        value={series}
        onChange={(n) => {
          setAsked('');
          setSeries(n);
        }}
        height={56}
      />
      <Words size={15} soft>
        In parallel, where it was seen
      </Words>
      <Choice label="Cells in parallel" options={COUNTS} value={parallel} onChange={setParallel} height={52} />
      <Asked words={asked} />
    </Sheet>
  );
}
