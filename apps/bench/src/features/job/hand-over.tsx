import { useContext, useRef, useState } from 'react';
import { View } from 'react-native';
import Svg, { Path } from 'react-native-svg';
import { inked } from '../../device/picture';
import { draft } from '../../device/write';
import { useActions } from '../../state/context';
import { useTokens } from '../../theme';
import { Card, Row } from '../../ui/frame';
import { Button } from '../../ui/buttons';
import { exactWords } from '../../ui/say';
import { Sheet } from '../../ui/sheet';
import { Words } from '../../ui/words';
import { ReportKey } from './report-key';
import { Ask, Caution, GoTo } from './ask';
import { useOwner } from '../../entry/use-owner';
import type { JobView } from './view';

type Stroke = readonly (readonly [number, number])[];
const BOX = { width: 340, height: 140 };

/** A finger signs here. */
function Pad({ strokes, onStrokes }: { strokes: readonly Stroke[]; onStrokes: (s: readonly Stroke[]) => void }) {
  const t = useTokens();
  const drawing = useRef(false);
  const at = (e: { clientX: number; clientY: number; currentTarget: Element }): readonly [number, number] => {
    const r = e.currentTarget.getBoundingClientRect();
    return [((e.clientX - r.left) / r.width) * BOX.width, ((e.clientY - r.top) / r.height) * BOX.height];
  };
  const web = {
    onPointerDown: (e: PointerEvent & { currentTarget: Element }) => {
      drawing.current = true;
      onStrokes([...strokes, [at(e)]]);
    },
    onPointerMove: (e: PointerEvent & { currentTarget: Element }) => {
      if (!drawing.current) return;
      const last = strokes[strokes.length - 1] ?? [];
      onStrokes([...strokes.slice(0, -1), [...last, at(e)]]);
    },
    onPointerUp: () => (drawing.current = false),
    onPointerLeave: () => (drawing.current = false),
  };
  return (
    <View
      {...(web as object)}
      testID="signature"
      role="img"
      aria-label="signature, drawn with a finger"
      style={{
        width: '100%',
        aspectRatio: BOX.width / BOX.height,
        borderWidth: 1,
        borderColor: t.line,
        backgroundColor: '#FFFFFF',
        ...({ touchAction: 'none' } as object),
      }}
    >
      <Svg width="100%" height="100%" viewBox={`0 0 ${BOX.width} ${BOX.height}`} aria-hidden>
        {strokes.map((s, i) => (
          <Path
            key={i}
            d={s.map(([x, y], n) => `${n === 0 ? 'M' : 'L'}${x.toFixed(1)} ${y.toFixed(1)}`).join(' ')}
            stroke="#1B1A16"
            strokeWidth={2.5}
            fill="none"
          />
        ))}
      </Svg>
    </View>
  );
}

/** Back to its owner: the old pack, a signature, a page to take home. */
export function HandOver({ v }: { v: JobView }) {
  const actions = useActions();
  const owner = useOwner(v.job.owner);
  const [open, setOpen] = useState(false);
  const [strokes, setStrokes] = useState<readonly Stroke[]>([]);
  const wants = v.job.intake.oldPack === 'owner wants it back';
  const damaged = v.inside.some((p) => p.judgement.condition === 'damaged' || p.judgement.condition === 'critical');
  // What the owner said at the counter is what is taken for granted here.
  const [oldPack, setOldPack] = useState<'stays here' | 'given back' | 'none'>(
    v.inside.length === 0 ? 'none' : wants ? 'given back' : 'stays here',
  );
  const [asking, setAsking] = useState(false);
  const go = useContext(GoTo);
  const left = v.rail.filter((s) => s.state !== 'done' && s.state !== 'skipped');
  const done = v.job.handedOver;
  const keep = async (andClose: boolean) => {
    const signature = strokes.length > 0 ? (await actions.keepPicture(await inked(strokes, BOX.width, BOX.height))).sha256 : null;
    const leaves = v.packs.filter((p) => p.facts.use === 'fitted' || (oldPack === 'given back' && p.facts.use === 'removed'));
    const on = [
      `job:${v.job.id}` as const,
      ...(v.job.notebook ? [`notebook:${v.job.notebook}` as const] : []),
      ...leaves.map((p) => `pack:${p.facts.id}` as const),
    ];
    await v.write(
      [draft('handed-over', on, { oldPack, ...(signature && { signature }) }), ...(andClose ? [closing()] : [])],
      andClose ? 'handed over, job closed' : 'handed over',
    );
    setOpen(false);
  };
  const closing = () =>
    draft('job-closed', [`job:${v.job.id}`, ...(v.job.notebook ? [`notebook:${v.job.notebook}` as const] : [])], {});
  const close = () => void v.write([closing()], 'job closed');
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
      {asking ? (
        <Sheet
          title="Not everything is done"
          onClose={() => setAsking(false)}
          footer={
            <Button
              label="Close it all the same"
              tone="next"
              height={64}
              onPress={() => {
                setAsking(false);
                close();
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
                setAsking(false);
                go(s.station);
              }}
              testID={`left-${s.station}`}
            />
          ))}
          <Words size={15}>Proofs owed are told on the owner’s page; all of it stays on the record.</Words>
        </Sheet>
      ) : null}
      {open ? (
        <Sheet
          title="Hand over"
          onClose={() => setOpen(false)}
          footer={
            <View style={{ gap: 6 }}>
              {mayClose ? (
                <Button
                  label="Hand over and close the job"
                  tone="next"
                  height={64}
                  onPress={() => void keep(true)}
                  testID="hand-over-and-close"
                />
              ) : null}
              <Button
                label="Hand over"
                tone={mayClose ? 'plain' : 'next'}
                height={64}
                onPress={() => void keep(false)}
                testID="keep-hand-over"
              />
            </View>
          }
        >
          <Ask label="The old pack" options={['stays here', 'given back', 'none'] as const} value={oldPack} onSay={setOldPack} />
          {oldPack === 'given back' && damaged ? (
            <Caution>
              It is damaged: it goes in a metal container with dry fill, by road, as its ruling says. Never back into a machine,
              never in the post.
            </Caution>
          ) : null}
          <Words size={15} soft>
            Signature of who takes it
          </Words>
          <Pad strokes={strokes} onStrokes={setStrokes} />
          <Button label="Sign anew" onPress={() => setStrokes([])} />
        </Sheet>
      ) : null}
    </Card>
  );
}
