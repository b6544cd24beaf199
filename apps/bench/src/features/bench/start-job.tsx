import { LONGEST } from '@gavrel/contract';
import { normalTag, taggedId } from '@gavrel/core';
import { router } from 'expo-router';
import { useMemo } from 'react';
import { View } from 'react-native';
import { v7 } from 'uuid';
import { draft } from '../../device/write';
import { useAppSelector } from '../../state';
import { useActions } from '../../state/context';
import { useDraft } from '../../state/use-draft';
import { type KnownModel, knownModels } from '../../stock/known-models';
import { knownWords, useKnownMachine } from '../../stock/known-machine';
import { PlateReader } from '../../entry/plate-reader';
import { ScanField } from '../../entry/scan-field';
import { Choice, Button } from '../../ui/buttons';
import { Field } from '../../ui/field';
import { Row } from '../../ui/frame';
import { Sheet } from '../../ui/sheet';
import { useOnce } from '../../ui/use-once';
import { Words } from '../../ui/words';

const EMPTY_JOB = {
  tag: '',
  plate: 'read' as 'read' | 'unreadable',
  maker: '',
  model: '',
  serial: '',
  complaint: '',
};

/** Models offered. */
const OFFERED = 3;

/** Models that came before: one tap instead of two fields. */
function Models({ maker, model, onPick }: KnownModel & { onPick: (m: KnownModel) => void }) {
  const notebooks = useAppSelector((s) => s.logbook.notebooks);
  const known = useMemo(() => knownModels(Object.values(notebooks), { maker, model }, OFFERED), [notebooks, maker, model]);
  const chosen = known.some((m) => m.maker === maker && m.model === model);
  if (known.length === 0 || chosen) return null;
  return (
    <Row gap={6}>
      {known.map((m) => (
        <Button
          key={`${m.maker} ${m.model}`}
          label={`${m.maker} ${m.model}`}
          onPress={() => onPick(m)}
          testID={`model-${m.model.replace(/ /g, '-')}`}
        />
      ))}
    </Row>
  );
}

/** A notebook on the bench: its tag, its plate if it can be read, and what is wrong. */
export function StartJob({ onClose }: { onClose: () => void }) {
  const actions = useActions();
  const workshop = useAppSelector((s) => s.session.session?.workshop.id ?? '');
  const [form, setForm, done] = useDraft('start a job', EMPTY_JOB);
  const { tag, plate, maker, model, serial, complaint } = form;
  const set = (part: Partial<typeof EMPTY_JOB>) => setForm((f) => ({ ...f, ...part }));
  const partly = useAppSelector((s) => s.logbook.holds !== null);
  const known = useKnownMachine()(tag);
  const start = useOnce(async () => {
    const id = taggedId(workshop, 'notebook', tag);
    // It may be known to the server alone: what is known of it is shown before anything is written.
    if (!known && partly && (await actions.fetchLog(`notebook:${id}`).catch(() => false))) return;
    const job = known?.open?.id ?? v7();
    const read =
      plate === 'read'
        ? {
            ...(maker.trim() && { maker: maker.trim() }),
            ...(model.trim() && { model: model.trim() }),
            ...(serial.trim() && { serial: serial.trim() }),
          }
        : {};
    if (!known?.open)
      await actions.write(
        [
          ...(known ? [] : [draft('notebook-identified', [`notebook:${id}`], { tag: normalTag(tag), plate, ...read })]),
          draft('job-opened', [`job:${job}`, `notebook:${id}`], { ...(complaint.trim() && { complaint: complaint.trim() }) }),
        ],
        `job on ${normalTag(tag)} started`,
      );
    done();
    onClose();
    router.push(`/job/${job}`);
  });
  return (
    <Sheet
      title="Start a job"
      onClose={onClose}
      footer={
        <Button
          label={known?.open ? 'Go on with its job' : known ? 'The same machine again' : 'Start'}
          tone="next"
          height={64}
          disabled={tag.trim() === ''}
          onPress={() => start()}
          testID="start-job-now"
        />
      }
    >
      <Words bold>Hot, hissing, smoking, or smelling of solvent? Stop. Leave, alarm, call.</Words>
      <ScanField
        label="Workshop tag"
        value={tag}
        onChange={(v) => set({ tag: v })}
        onScan={(code) => set({ tag: code })}
        asTag
        longest={LONGEST.tag}
        testID="notebook-tag"
      />
      {known ? (
        <View role="status" style={{ gap: 4 }} testID="known-machine">
          {knownWords(known).map((w) => (
            <Words key={w} bold>
              {w}
            </Words>
          ))}
          <Words size={15}>{known.open ? '' : 'It is looked at from outside anew. '}Another machine? Give it another tag.</Words>
        </View>
      ) : (
        <Choice
          label="Plate"
          options={['read', 'unreadable'] as const}
          words={{ read: 'plate can be read', unreadable: 'plate unreadable' }}
          value={plate}
          onChange={(v) => set({ plate: v })}
        />
      )}
      {plate === 'read' && !known ? (
        <>
          <PlateReader plate={{ maker, model, serial }} onTake={(field, said) => set({ [field]: said })} />
          <Models maker={maker} model={model} onPick={set} />
          <Field label="Maker" value={maker} onChange={(v) => set({ maker: v })} longest={LONGEST.name} testID="maker" />
          <Field label="Model" value={model} onChange={(v) => set({ model: v })} longest={LONGEST.name} testID="model" />
          <Field label="Serial" value={serial} onChange={(v) => set({ serial: v })} longest={LONGEST.name} testID="serial" />
        </>
      ) : null}
      {known?.open ? null : (
        <Field
          label="What is wrong"
          value={complaint}
          onChange={(v) => set({ complaint: v })}
          longest={LONGEST.story}
          multiline
          testID="complaint"
        />
      )}
    </Sheet>
  );
}
