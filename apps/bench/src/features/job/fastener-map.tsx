import { DRIVES, type FastenersBody, groupName, groupsOf, mirrored, type Screw, THREADS, COVERS } from '@gavrel/core';
import { useMemo, useRef, useState } from 'react';
import { Image, View } from 'react-native';
import Svg, { Line, Rect } from 'react-native-svg';
import { chooseFile, type Frame, shrink } from '../../device/picture';
import { useActions } from '../../state/context';
import { useDraft } from '../../state/use-draft';
import { useTokens } from '../../theme';
import { Field } from '../../ui/field';
import { Row } from '../../ui/frame';
import { Choice, Button } from '../../ui/buttons';
import { Sheet } from '../../ui/sheet';
import { Figures, Words } from '../../ui/words';
import { Ask } from './ask';
import { usePicture } from '../../entry/pictures';
import { ScrewMark, screwWords } from './screw-mark';

const W = 340;
const LENGTHS = ['2', '3', '4', '5', '6', '8', '10'] as const;
type Brush = Omit<Screw, 'id' | 'x' | 'y'>;

/** The base to scale with its screws. Tapping it answers where, as fractions. */
export function Base({
  body,
  picked,
  onTap,
}: {
  body: FastenersBody;
  picked?: number | null;
  onTap?: (x: number, y: number) => void;
}) {
  const t = useTokens();
  const ratio = body.ratio ?? 1.45;
  const h = W / ratio;
  const url = usePicture(body.photo);
  const [cursor, setCursor] = useState<readonly [number, number] | null>(null);
  const onKey = (e: { key: string; preventDefault: () => void }) => {
    const move = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, -1], ArrowDown: [0, 1] }[e.key];
    const [x, y] = cursor ?? [0.5, 0.5];
    if (move) {
      e.preventDefault();
      setCursor([Math.min(1, Math.max(0, x + move[0]! / 40)), Math.min(1, Math.max(0, y + move[1]! / 28))]);
    } else if (e.key === 'Enter' || e.key === ' ') {
      e.preventDefault();
      onTap?.(x, y);
    }
  };
  const drawing = (
    <Svg width="100%" height="100%" viewBox={`0 0 ${W} ${h}`} aria-hidden>
      <Rect x={2} y={2} width={W - 4} height={h - 4} rx={14} fill="none" stroke={t.ink} strokeWidth={2} />
      <Line x1={W * 0.16} x2={W * 0.36} y1={5} y2={5} stroke={t.ink} strokeWidth={5} />
      <Line x1={W * 0.64} x2={W * 0.84} y1={5} y2={5} stroke={t.ink} strokeWidth={5} />
      {body.screws.map((s) => (
        <ScrewMark key={s.id} s={s} x={s.x * W} y={s.y * h} ink={t.ink} ground={t.card} picked={picked === s.id} />
      ))}
      {cursor ? (
        <>
          <Line
            x1={cursor[0] * W - 10}
            x2={cursor[0] * W + 10}
            y1={cursor[1] * h}
            y2={cursor[1] * h}
            stroke={t.accent}
            strokeWidth={2}
          />
          <Line
            x1={cursor[0] * W}
            x2={cursor[0] * W}
            y1={cursor[1] * h - 10}
            y2={cursor[1] * h + 10}
            stroke={t.accent}
            strokeWidth={2}
          />
        </>
      ) : null}
    </Svg>
  );
  const web = onTap
    ? {
        onClick: (e: { clientX: number; clientY: number; currentTarget: { getBoundingClientRect: () => DOMRect } }) => {
          const r = e.currentTarget.getBoundingClientRect();
          onTap((e.clientX - r.left) / r.width, (e.clientY - r.top) / r.height);
        },
        onKeyDown: onKey,
        onFocus: () => setCursor([0.5, 0.5]),
        onBlur: () => setCursor(null),
        tabIndex: 0 as const,
        role: 'application' as const,
        'aria-label': 'base from below, hinge side up: tap, or move with the arrow keys and press Enter, to place a screw',
      }
    : { role: 'img' as const, 'aria-label': `base with ${body.screws.map(screwWords).join('; ') || 'no screws'}` };
  return (
    <View
      {...(web as object)}
      testID="base"
      style={{
        width: '100%',
        maxWidth: 460,
        aspectRatio: ratio,
        alignSelf: 'center',
        backgroundColor: t.card,
        outlineColor: t.accent,
      }}
    >
      {url ? (
        <Image
          source={{ uri: url }}
          style={{ position: 'absolute', inset: 0, opacity: 0.35 }}
          resizeMode="stretch"
          accessibilityLabel=""
        />
      ) : null}
      {drawing}
    </View>
  );
}

/** Two taps on the picture name opposite corners of the base; what lies outside is cut away. */
function CornerPicker({ file, onDone }: { file: File; onDone: (f: Frame | null) => void }) {
  const url = useMemo(() => URL.createObjectURL(file), [file]);
  const [first, setFirst] = useState<readonly [number, number] | null>(null);
  const tap = (e: { clientX: number; clientY: number; currentTarget: { getBoundingClientRect: () => DOMRect } }) => {
    const r = e.currentTarget.getBoundingClientRect();
    const at = [(e.clientX - r.left) / r.width, (e.clientY - r.top) / r.height] as const;
    if (!first) return setFirst(at);
    const frame = {
      left: Math.min(first[0], at[0]),
      right: Math.max(first[0], at[0]),
      top: Math.min(first[1], at[1]),
      bottom: Math.max(first[1], at[1]),
    };
    onDone(frame.right - frame.left > 0.1 && frame.bottom - frame.top > 0.1 ? frame : null);
  };
  const [ratio, setRatio] = useState(1.4);
  return (
    <Sheet title={first ? 'Tap the opposite corner' : 'Tap one corner of the base'} onClose={() => onDone(null)}>
      <View {...({ onClick: tap } as object)} style={{ width: '100%', aspectRatio: ratio }} testID="corners">
        <Image
          source={{ uri: url }}
          style={{ width: '100%', height: '100%' }}
          resizeMode="stretch"
          accessibilityLabel="the base as photographed"
          onLoad={() => Image.getSize(url, (w, h) => setRatio(w / h))}
        />
      </View>
      <Button
        label="Take the whole picture"
        onPress={() => onDone({ left: 0, top: 0, right: 1, bottom: 1 })}
        testID="whole-picture"
      />
    </Sheet>
  );
}

/** The fastener map being drawn: a brush, taps, and what makes ten screws quick. */
export function MapEditor({
  job,
  start,
  onKeep,
  onClose,
}: {
  /** Whose drawing it is, for coming back to it. */
  job: string;
  start: FastenersBody;
  onKeep: (b: FastenersBody) => Promise<unknown>;
  onClose: () => void;
}) {
  const t = useTokens();
  const actions = useActions();
  const [body, setBody, done] = useDraft<FastenersBody>(`map ${job}`, start);
  const [brush, setBrush] = useState<Brush>({ thread: 'M2', length: { digits: '4', unit: 'mm' }, drive: 'PH0' });
  const [picked, setPicked] = useState<number | null>(null);
  const [file, setFile] = useState<File | null>(null);
  const [trouble, setTrouble] = useState('');
  const past = useRef<FastenersBody[]>([]);
  const { screws } = body;
  const change = (next: readonly Screw[]) => {
    past.current.push(body);
    setBody({ ...body, screws: next });
  };
  const tap = (x: number, y: number) => {
    const hit = screws.find((s) => Math.hypot(s.x - x, (s.y - y) / (body.ratio ?? 1.45)) < 0.05);
    if (hit) return setPicked(hit.id === picked ? null : hit.id);
    const id = Math.max(0, ...screws.map((s) => s.id)) + 1;
    change([...screws, { ...brush, id, x: Math.round(x * 1000) / 1000, y: Math.round(y * 1000) / 1000 }]);
    setPicked(null);
  };
  const now: Brush = picked === null ? brush : screws.find((s) => s.id === picked)!;
  /** A choice goes to the picked screw, else to the brush. */
  const set = (part: { [K in keyof Brush]?: Brush[K] | undefined }) => {
    const apply = <S extends Brush>(s: S): S =>
      Object.fromEntries(Object.entries({ ...s, ...part }).filter(([, x]) => x !== undefined && x !== false)) as unknown as S;
    if (picked === null) setBrush(apply(brush));
    else change(screws.map((s) => (s.id === picked ? apply(s) : s)));
  };
  const mm = Number(now.length?.digits ?? 0);
  const length = (x: number) => set({ length: { digits: String(x), unit: 'mm' } });
  const repeat = () => {
    const [a, b] = screws.slice(-2);
    if (!a || !b) return;
    const [x, y] = [2 * b.x - a.x, 2 * b.y - a.y];
    if (x < 0 || x > 1 || y < 0 || y > 1) return;
    change([...screws, { ...b, id: b.id + 1, x, y }]);
  };
  const framed = async (frame: Frame | null) => {
    setFile(null);
    if (!frame || !file) return;
    try {
      const p = await shrink(file, frame);
      await actions.keepPicture(p);
      setBody((s) => ({ ...s, photo: p.sha256, ratio: Math.min(5, Math.max(0.2, p.width / p.height)) }));
    } catch (e) {
      setTrouble((e as Error).message);
    }
  };
  const out = groupsOf(screws);
  return (
    <Sheet
      title="Screws of the base"
      onClose={onClose}
      footer={
        <Button
          label={`Keep ${screws.length} screws`}
          tone="next"
          height={64}
          onPress={() => void onKeep(body).then(done, () => undefined)}
          testID="keep-map"
        />
      }
    >
      <Base body={body} picked={picked} onTap={tap} />
      <Row gap={6}>
        <Button label="Undo" onPress={() => setBody(past.current.pop() ?? body)} testID="map-undo" />
        <Button
          label="Mirror"
          hint="the same screws on the other side"
          onPress={() => change([...screws, ...mirrored(screws)])}
          disabled={mirrored(screws).length === 0}
          testID="map-mirror"
        />
        <Button
          label="Repeat"
          hint="one more at the same distance"
          onPress={repeat}
          disabled={screws.length < 2}
          testID="map-repeat"
        />
        <Button
          label="All the same"
          onPress={() =>
            change(
              screws.map(({ id, x, y, state, hidden, captive }) => ({
                ...now,
                id,
                x,
                y,
                ...(state && { state }),
                ...(hidden && { hidden }),
                ...(captive && { captive }),
              })),
            )
          }
          disabled={screws.length < 2}
          testID="map-same"
        />
        {picked === null ? null : (
          <Button
            label={`Take away ${picked}`}
            onPress={() => {
              change(screws.filter((s) => s.id !== picked));
              setPicked(null);
            }}
            testID="map-away"
          />
        )}
      </Row>
      <Words bold>{picked === null ? 'The next screw is' : `Screw ${picked} is`}</Words>
      <Choice
        label="Length, mm"
        options={LENGTHS}
        value={(now.length?.digits as (typeof LENGTHS)[number]) ?? null}
        onChange={(d) => set({ length: { digits: d, unit: 'mm' } })}
        words={Object.fromEntries(LENGTHS.map((l) => [l, `${l} mm`]))}
      />
      <Row gap={6}>
        <Button label="½ mm shorter" disabled={mm <= 0.5} onPress={() => length(mm - 0.5)} testID="map-shorter" />
        <Figures bold>{now.length ? `${now.length.digits} mm` : 'no length'}</Figures>
        <Button label="½ mm longer" disabled={mm >= 40} onPress={() => length(mm + 0.5)} testID="map-longer" />
      </Row>
      <Choice label="Thread" options={THREADS} value={now.thread ?? null} onChange={(thread) => set({ thread })} />
      <Choice label="Drive" options={DRIVES} value={now.drive ?? null} onChange={(drive) => set({ drive })} />
      <Row gap={6}>
        <Button
          label="captive"
          role="checkbox"
          selected={now.captive === true}
          onPress={() => set({ captive: now.captive ? undefined : true })}
          testID="map-captive"
        />
        {(['missing', 'stripped'] as const).map((s) => (
          <Button
            key={s}
            label={s}
            role="checkbox"
            selected={now.state === s}
            onPress={() => set({ state: now.state === s ? undefined : s })}
            testID={`map-${s}`}
          />
        ))}
        {(['pack', 'both'] as const).map((h) => (
          <Button
            key={h}
            label={h === 'pack' ? 'holds the pack' : 'shared with the pack'}
            role="checkbox"
            selected={now.holds === h}
            onPress={() => set({ holds: now.holds === h ? undefined : h })}
          />
        ))}
      </Row>
      <Words size={15} soft>
        Hidden under
      </Words>
      <Row gap={6}>
        {COVERS.map((c) => (
          <Button
            key={c}
            label={c}
            role="checkbox"
            selected={now.hidden === c}
            onPress={() => set({ hidden: now.hidden === c ? undefined : c })}
          />
        ))}
      </Row>
      <Ask
        label="Habit"
        options={['map', 'tray'] as const}
        words={{ map: 'map of the base', tray: 'a tray for each part' }}
        value={body.habit}
        onSay={(habit) => setBody({ ...body, habit })}
      />
      {body.habit === 'tray' ? (
        <Field
          label="Part these screws belong to"
          value={now.part ?? ''}
          onChange={(x) => set({ part: x === '' ? undefined : x })}
        />
      ) : null}
      <Row>
        <Button
          label={body.photo ? 'Another picture of the base' : 'Picture of the base'}
          onPress={() => void chooseFile('image/*', true).then((f) => f && setFile(f))}
          testID="map-photo"
        />
      </Row>
      {trouble ? <Words bold>{trouble}</Words> : null}
      <View style={{ borderTopWidth: 1, borderColor: t.line, paddingTop: 8, gap: 2 }}>
        <Words bold>{`${screws.length} screws, ${out.reduce((n, g) => n + g.count, 0)} come out`}</Words>
        {out.map((g) => (
          <Figures key={groupName(g)} size={15}>{`${g.count} × ${groupName(g)}`}</Figures>
        ))}
        {screws.some((s) => s.captive) ? (
          <Figures size={15}>{`${screws.filter((s) => s.captive).length} captive`}</Figures>
        ) : null}
      </View>
      {file ? <CornerPicker file={file} onDone={(f) => void framed(f)} /> : null}
    </Sheet>
  );
}
