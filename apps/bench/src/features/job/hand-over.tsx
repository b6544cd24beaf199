import { useContext, useState } from 'react';
import { View } from 'react-native';
import { inked } from '../../device/picture';
import { type Draft, draft } from '../../device/write';
import { useActions } from '../../state/context';
import { Card, Row } from '../../ui/frame';
import { Button } from '../../ui/buttons';
import { exactWords } from '../../ui/say';
import { Sheet } from '../../ui/sheet';
import { Words } from '../../ui/words';
import { ReportKey } from './report-key';
import { Ask, Caution, GoTo } from '../../entry/ask';
import { useOwner } from '../../entry/use-owner';
import { BOX, SignaturePad, type Stroke } from './signature-pad';
import { whyNotLeaving } from './held';
import type { JobView } from './view';

/** What is not done yet, each one tap away, and closing all the same. */
function UnfinishedSheet({
  left,
  onCloseJob,
  onClose,
}: {
  left: JobView['rail'];
  onCloseJob: () => unknown;
  onClose: () => void;
}) {
  const go = useContext(GoTo);
  return (
    <Sheet
      title="Not everything is done"
      onClose={onClose}
      footer={
        <Button
          label="Close it all the same"
          tone="next"
          height={64}
          onPress={() => {
            onClose();
            return onCloseJob();
          }}
          testID="close-anyway"
        />
      }
    >
      {left.map((s) => (
        <Button
          key={s.station}
          label={`${s.station}${s.state === 'owed' ? ', owed' : ''}: ${s.missing}`}
          height={56}
          onPress={() => {
            onClose();
            go(s.station);
          }}
          testID={`left-${s.station}`}
        />
      ))}
      <Words size={15}>Proofs owed are told on the owner’s page; all of it stays on the record.</Words>
    </Sheet>
  );
}

interface HandOverProps {
  readonly v: JobView;
  readonly mayClose: boolean;
  /** The entry that closes the job. */
  readonly closing: () => Draft;
  /** The signature as far as it is drawn. */
  readonly strokes: readonly Stroke[];
  readonly onStrokes: (strokes: readonly Stroke[]) => void;
  readonly onClose: () => void;
}

/** Where the old pack goes, and the signature of who takes the machine. */
function HandOverSheet({ v, mayClose, closing, strokes, onStrokes, onClose }: HandOverProps) {
  const actions = useActions();
  const damaged = v.inside.some((p) => p.judgement.condition === 'damaged' || p.judgement.condition === 'critical');
  // What the owner said at the counter is what is taken for granted here.
  const [oldPack, setOldPack] = useState<'stays here' | 'given back' | 'none'>(
    v.inside.length === 0 ? 'none' : wantsBack(v) ? 'given back' : 'stays here',
  );
  const leaves = v.packs.filter((p) => p.facts.use === 'fitted' || (oldPack === 'given back' && p.facts.use === 'removed'));
  const held = whyNotLeaving(leaves);
  const keep = async (andClose: boolean) => {
    const signature = strokes.length > 0 ? (await actions.keepPicture(await inked(strokes, BOX.width, BOX.height))).sha256 : null;
    const on = [
      `job:${v.job.id}` as const,
      ...(v.job.notebook ? [`notebook:${v.job.notebook}` as const] : []),
      ...leaves.map((p) => `pack:${p.facts.id}` as const),
    ];
    await v.write(
      [draft('handed-over', on, { oldPack, ...(signature && { signature }) }), ...(andClose ? [closing()] : [])],
      andClose ? 'handed over, job closed' : 'handed over',
    );
    onStrokes([]);
    onClose();
  };
  return (
    <Sheet
      title="Hand over"
      onClose={onClose}
      footer={
        <View style={{ gap: 6 }}>
          {mayClose ? (
            <Button
              label="Hand over and close the job"
              tone="next"
              height={64}
              disabled={held !== ''}
              onPress={() => keep(true)}
              testID="hand-over-and-close"
            />
          ) : null}
          <Button
            label="Hand over"
            tone={mayClose ? 'plain' : 'next'}
            height={64}
            disabled={held !== ''}
            onPress={() => keep(false)}
            testID="keep-hand-over"
          />
        </View>
      }
    >
      <Ask label="The old pack" options={['stays here', 'given back', 'none'] as const} value={oldPack} onSay={setOldPack} />
      {held !== '' ? (
        <Words bold live testID="hand-over-held">
          {held}
        </Words>
      ) : null}
      {oldPack === 'given back' && damaged ? (
        <Caution>
          It is damaged: it goes in a metal container with dry fill, by road, as its ruling says. Never back into a machine, never
          in the post.
        </Caution>
      ) : null}
      <Words size={15} soft>
        Signature of who takes it
      </Words>
      <SignaturePad strokes={strokes} onStrokes={onStrokes} />
      <Button label="Sign anew" onPress={() => onStrokes([])} />
    </Sheet>
  );
}

const wantsBack = (v: JobView): boolean => v.job.intake.oldPack === 'owner wants it back';

/** Back to its owner: the old pack, a signature, a page to take home. */
export function HandOver({ v }: { v: JobView }) {
  const owner = useOwner(v.job.owner);
  const [open, setOpen] = useState(false);
  const [strokes, setStrokes] = useState<readonly Stroke[]>([]);
  const wants = wantsBack(v);
  const [asking, setAsking] = useState(false);
  const left = v.rail.filter((s) => s.state !== 'done' && s.state !== 'skipped');
  const done = v.job.handedOver;
  const closing = () =>
    draft('job-closed', [`job:${v.job.id}`, ...(v.job.notebook ? [`notebook:${v.job.notebook}` as const] : [])], {});
  const close = () => v.write([closing()], 'job closed');
  const judged = v.packs.every((p) => p.judgement.condition !== 'unproven' || p.facts.use === 'spare');
  const mayClose = judged && left.length === 0 && !v.job.closedAt;
  return (
    <Card title="Hand-over" testID="card-hand-over">
      {done ? (
        <Words>{`Handed over ${exactWords(done.at)}, old pack ${done.body.oldPack}${done.body.signature ? ', signed' : ''}.`}</Words>
      ) : null}
      {wants ? <Words bold>The owner wants the old pack back.</Words> : null}
      <Row>
        <ReportKey v={v} owner={owner?.name ?? ''} />
        <Button label={done ? 'Hand over again' : 'Hand over'} onPress={() => setOpen(true)} testID="hand-over" />
        {v.job.closedAt ? null : (
          <Button
            label="Close the job"
            disabled={!judged}
            onPress={left.length > 0 ? () => setAsking(true) : close}
            testID="close-job"
          />
        )}
      </Row>
      {!judged && !v.job.closedAt ? <Words soft>A pack is still unproven: examine it before the job closes.</Words> : null}
      {asking ? <UnfinishedSheet left={left} onCloseJob={close} onClose={() => setAsking(false)} /> : null}
      {open ? (
        <HandOverSheet
          v={v}
          mayClose={mayClose}
          closing={closing}
          strokes={strokes}
          onStrokes={setStrokes}
          onClose={() => setOpen(false)}
        />
      ) : null}
    </Card>
  );
}
