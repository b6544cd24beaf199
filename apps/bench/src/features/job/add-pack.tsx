import { LONGEST } from '@gavrel/contract';
import { type JobFacts, normalTag, type PackUse, taggedId } from '@gavrel/core';
import { useState } from 'react';
import { draft } from '../../device/write';
import { useAppSelector } from '../../state';
import { useActions } from '../../state/context';
import { ScanField } from '../../entry/scan-field';
import { Choice, Button } from '../../ui/buttons';
import { Sheet } from '../../ui/sheet';
import { useOnce } from '../../ui/use-once';
import { Words } from '../../ui/words';

/** A pack joins the job: by its tag, typed or scanned by a keyboard scanner. */
export function AddPack({
  job,
  first = 'removed',
  onClose,
  onAdded,
}: {
  job: JobFacts;
  first?: PackUse;
  onClose: () => void;
  onAdded: (id: string) => void;
}) {
  const actions = useActions();
  const workshop = useAppSelector((s) => s.session.session?.workshop.id ?? '');
  const [tag, setTag] = useState('');
  const [use, setUse] = useState<PackUse>(first);
  const [slot, setSlot] = useState<'internal' | 'external' | 'dock'>('internal');
  const id = tag.trim() === '' ? null : taggedId(workshop, 'pack', tag);
  const taken = useAppSelector((s) => (id === null ? undefined : s.logbook.packs[id]));
  const add = useOnce(async () => {
    if (id === null || taken) return;
    // A tag that is known to the server alone is said before anything is written; without the server nobody knows, and the work goes on.
    const onRecord = await actions.packsOnRecord([id]);
    if (onRecord?.[id]) return;
    const links = [`job:${job.id}` as const, ...(job.notebook ? [`notebook:${job.notebook}` as const] : [])];
    await actions.write(
      [draft('pack-added', [`pack:${id}`, ...links], { tag: normalTag(tag), use, slot })],
      `pack ${normalTag(tag)} added`,
    );
    onClose();
    onAdded(id);
  });
  return (
    <Sheet
      title={first === 'replacement' ? 'Add a new pack' : 'Add its pack'}
      onClose={onClose}
      footer={
        <Button
          label="Add"
          tone="next"
          height={64}
          disabled={id === null || taken !== undefined}
          onPress={() => add()}
          testID="add-pack-now"
        />
      }
    >
      <ScanField
        label="Tag of the pack"
        value={tag}
        onChange={setTag}
        onScan={setTag}
        asTag
        onEnter={() => void add()}
        longest={LONGEST.tag}
        testID="pack-tag"
      />
      {taken ? <Words bold>This tag is on another pack already. Tags are never used again: take a new one.</Words> : null}
      <Choice label="Use" options={['removed', 'replacement', 'spare', 'fitted'] as const} value={use} onChange={setUse} />
      <Choice label="Where it sits" options={['internal', 'external', 'dock'] as const} value={slot} onChange={setSlot} />
    </Sheet>
  );
}
