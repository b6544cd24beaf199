import { type FastenersBody, groupName, groupsOf, mirrored, type Screw, counted } from '@gavrel/core';
import { useState } from 'react';
import { View } from 'react-native';
import { chooseFile, type Frame, shrink } from '../../device/picture';
import { useActions } from '../../state/context';
import { useTokens } from '../../theme';
import { Row } from '../../ui/frame';
import { Button } from '../../ui/buttons';
import { Sheet } from '../../ui/sheet';
import { Figures, Words } from '../../ui/words';
import { MetricLengths } from '../../ui/display';
import { Ask } from '../../entry/ask';
import { Base } from './base-drawing';
import { CornerPicker } from './corner-picker';
import { ScrewForm } from './screw-form';
import { type MapDraft, useMap } from './use-map';

/** What makes ten screws quick. */
function MapKeys({ map }: { map: MapDraft }) {
  const { screws } = map.body;
  return (
    <Row gap={6}>
      <Button label="Undo" onPress={map.undo} testID="map-undo" />
      <Button
        label="Mirror"
        hint="the same screws on the other side"
        onPress={map.mirror}
        disabled={mirrored(screws).length === 0}
        testID="map-mirror"
      />
      <Button
        label="Repeat"
        hint="one more at the same distance"
        onPress={map.repeat}
        disabled={screws.length < 2}
        testID="map-repeat"
      />
      <Button label="All the same" onPress={map.makeSame} disabled={screws.length < 2} testID="map-same" />
      {map.picked === null ? null : <Button label={`Take away ${map.picked}`} onPress={map.takeAway} testID="map-away" />}
    </Row>
  );
}

/** How many come out, length by length. */
function ScrewsOut({ screws }: { screws: readonly Screw[] }) {
  const t = useTokens();
  const out = groupsOf(screws);
  const captive = screws.filter((s) => s.captive).length;
  return (
    <View style={{ borderTopWidth: 1, borderColor: t.line, paddingTop: 8, gap: 2 }}>
      <Words bold>{`${counted(screws.length, 'screw')}, ${out.reduce((n, g) => n + g.count, 0)} come out`}</Words>
      {out.map((g) => (
        <Figures key={groupName(g)} size={15}>{`${g.count} × ${groupName(g)}`}</Figures>
      ))}
      {captive > 0 ? <Figures size={15}>{`${captive} captive`}</Figures> : null}
    </View>
  );
}

/** A picture of the base under the drawing; its corners are tapped so that it lies true. */
function BasePicture({ map }: { map: MapDraft }) {
  const actions = useActions();
  const [file, setFile] = useState<File | null>(null);
  const [trouble, setTrouble] = useState('');
  const framed = async (frame: Frame | null) => {
    setFile(null);
    if (!frame || !file) return;
    try {
      const p = await shrink(file, frame);
      await actions.keepPicture(p);
      map.setBody((s) => ({ ...s, photo: p.sha256, ratio: Math.min(5, Math.max(0.2, p.width / p.height)) }));
    } catch (e) {
      setTrouble((e as Error).message);
    }
  };
  return (
    <>
      <Row>
        <Button
          label={map.body.photo ? 'Another picture of the base' : 'Picture of the base'}
          onPress={() => chooseFile('image/*', true).then((f) => f && setFile(f))}
          testID="map-photo"
        />
      </Row>
      {trouble ? <Words bold>{trouble}</Words> : null}
      {file ? <CornerPicker file={file} onDone={(f) => void framed(f)} /> : null}
    </>
  );
}

interface MapEditorProps {
  /** Whose drawing it is, for coming back to it. */
  readonly job: string;
  readonly start: FastenersBody;
  readonly onKeep: (b: FastenersBody) => Promise<unknown>;
  readonly onClose: () => void;
}

/** The fastener map being drawn: a brush, taps, and what makes ten screws quick. */
export function MapEditor({ job, start, onKeep, onClose }: MapEditorProps) {
  const map = useMap(job, start);
  const { body, picked } = map;
  return (
    <Sheet
      title="Screws of the base"
      onClose={onClose}
      footer={
        <Button
          label={`Keep ${counted(body.screws.length, 'screw')}`}
          tone="next"
          height={64}
          onPress={() => onKeep(body).then(map.done, () => undefined)}
          testID="keep-map"
        />
      }
    >
      <Base body={body} picked={picked} onTap={map.tap} />
      <MapKeys map={map} />
      <Words bold>{picked === null ? 'The next screw is' : `Screw ${picked} is`}</Words>
      <MetricLengths>
        <ScrewForm now={map.now} tray={body.habit === 'tray'} onSet={map.set} />
      </MetricLengths>
      <Ask
        label="Habit"
        options={['map', 'tray'] as const}
        words={{ map: 'map of the base', tray: 'a tray for each part' }}
        value={body.habit}
        onSay={(habit) => map.setBody({ ...body, habit })}
      />
      <BasePicture map={map} />
      <ScrewsOut screws={body.screws} />
    </Sheet>
  );
}
