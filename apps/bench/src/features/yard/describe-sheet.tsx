import {
  type Condition,
  CONDITIONS,
  FILLS,
  parseDigits,
  type PlaceDescription,
  type PlaceFacts,
  type PlaceKind,
  PLACE_KINDS,
  taggedId,
} from '@gavrel/core';
import { MEASURE_UNITS, MEASURES } from '@gavrel/core/place';
import { View } from 'react-native';
import { draft } from '../../device/write';
import { useAppSelector } from '../../state';
import { useActions } from '../../state/context';
import { useDraft } from '../../state/use-draft';
import { Field } from '../../ui/field';
import { LeftEmpty } from '../../ui/left-empty';
import { Row } from '../../ui/frame';
import { Choice, Button } from '../../ui/buttons';
import { Sheet } from '../../ui/sheet';
import { Words } from '../../ui/words';

/** What may lie in a new place follows from its kind; the lead changes it. */
const HOLDS: Record<PlaceKind, readonly Condition[]> = {
  intake: ['unproven', 'sound', 'spent'],
  bench: ['sound', 'spent', 'unproven'],
  shelf: ['sound'],
  cabinet: ['sound'],
  quarantine: ['damaged', 'unproven'],
  drum: ['spent'],
  outdoors: ['damaged', 'critical'],
  customer: [],
};
const KIND_WORDS: Partial<Record<PlaceKind, string>> = { customer: 'customer’s bench' };

export function AddPlace({ onClose }: { onClose: () => void }) {
  const actions = useActions();
  const workshop = useAppSelector((s) => s.session.session?.workshop.id ?? '');
  const places = useAppSelector((s) => s.logbook.places);
  const [{ name, kind }, setForm, done] = useDraft('a new place', { name: '', kind: null as PlaceKind | null });
  const id = name.trim() === '' ? null : taggedId(workshop, 'place', name.trim());
  const taken = id !== null && places[id] !== undefined && places[id].closed === null;
  const add = async () => {
    if (kind === null || id === null) return;
    await actions.write(
      [draft('place-added', [`place:${id}`], { name: name.trim(), kind, holds: [...HOLDS[kind]] })],
      `place ${name.trim()}`,
    );
    done();
    onClose();
  };
  return (
    <Sheet
      title="Add a place"
      onClose={onClose}
      footer={
        <Button
          label="Add"
          tone="next"
          height={64}
          disabled={id === null || kind === null || taken}
          onPress={() => add()}
          testID="add-place-now"
        />
      }
    >
      <Field label="Name" value={name} onChange={(x) => setForm((f) => ({ ...f, name: x }))} autoFocus testID="place-name" />
      {taken ? <Words bold>There is a place of this name.</Words> : null}
      <Choice
        label="Kind"
        options={PLACE_KINDS}
        words={KIND_WORDS}
        value={kind}
        onChange={(x) => setForm((f) => ({ ...f, kind: x }))}
      />
    </Sheet>
  );
}

/** The longest words last, in a row of their own. */
const METRES = ['burns', 'exit', 'openings'] as const;
const METRE_WORDS = { burns: 'To what burns, m', openings: 'To doors, windows, vents, m', exit: 'To the way out, m' };
const BOX = ['x', 'y', 'width', 'depth'] as const;
const BOX_WORDS = { x: 'From the left, m', y: 'From the top, m', width: 'Width, m', depth: 'Depth, m' };

const shown = (x: number | undefined) => (x === undefined ? '' : String(x));

/** A place that is not used any more is closed, with the reason; what lies in it stays shown. */
function ClosePlace({ place, lying, onClosed }: { place: PlaceFacts; lying: number; onClosed: () => void }) {
  const actions = useActions();
  const [closing, setClosing, done] = useDraft(`close ${place.id}`, '');
  return (
    <>
      <Words bold>Not used any more</Words>
      {lying > 0 ? <Words>{`${lying} still lie in it: they stay shown here until they are moved.`}</Words> : null}
      <Field label="Why" value={closing} onChange={setClosing} testID="close-why" />
      <Button
        label="Close this place"
        disabled={closing.trim().length < 3}
        onPress={() =>
          actions
            .write([draft('place-closed', [`place:${place.id}`], { reason: closing.trim() })], `${place.name} closed`)
            .then(() => {
              done();
              onClosed();
            })
        }
        testID="close-place"
      />
    </>
  );
}

/** A place as its form shows it. */
function placeForm(place: PlaceFacts) {
  const figures: Readonly<Record<string, string>> = {
    ...Object.fromEntries(MEASURES.map((m) => [m, shown(place.limits?.[m])])),
    ...Object.fromEntries(METRES.map((m) => [m, shown(place.near?.[m])])),
    ...Object.fromEntries(BOX.map((b) => [b, shown(place.box?.[b])])),
    room: place.room ?? '',
    turn: shown(place.turn),
  };
  const { holds, fill = null, bags = false, outdoors = false } = place;
  return { holds, fill, bags, outdoors, figures };
}

/** What a lead says of a place: what it may hold, its limits, what surrounds it, where it stands in the drawing. */
export function DescribeSheet({ place, lying, onClose }: { place: PlaceFacts; lying: number; onClose: () => void }) {
  const actions = useActions();
  const { figures, ...onRecord } = placeForm(place);
  // Only what was touched is a draft: what others said of the place meanwhile shows in the rest.
  const [touched, setTouched, done] = useDraft<Partial<typeof onRecord> & { text?: typeof figures }>(`place ${place.id}`, {});
  const { holds, fill, bags, outdoors } = { ...onRecord, ...touched };
  const text = { ...figures, ...touched.text };
  const set = (part: typeof touched) => setTouched((f) => ({ ...f, ...part }));
  const number = (key: string): number | undefined => {
    const typed = (text[key] ?? '').trim();
    const digits = typed === '' ? null : parseDigits(typed);
    return digits === null ? undefined : Number(digits);
  };
  const wrong = [...MEASURES, ...METRES, ...BOX, 'turn'].filter((k) => (text[k] ?? '').trim() !== '' && number(k) === undefined);
  const some = <K extends string>(keys: readonly K[]): Partial<Record<K, number>> =>
    Object.fromEntries(keys.flatMap((k) => (number(k) === undefined ? [] : [[k, number(k)]]))) as Partial<Record<K, number>>;
  const box = some(BOX);
  const whole = BOX.every((b) => box[b] !== undefined) && box.width! > 0 && box.depth! > 0;
  const half = Object.keys(box).length > 0 && !whole;
  const emptied = [
    !text.room?.trim() && place.room && `the room stays ${place.room}`,
    number('turn') === undefined && place.turn !== undefined && `the turn stays ${place.turn}`,
    Object.keys(box).length === 0 && place.box && 'it stays in the drawing',
  ];
  const keep = async () => {
    const body: PlaceDescription = {
      holds,
      limits: some(MEASURES),
      near: some(METRES),
      bags,
      outdoors,
      ...(whole && { box: box as NonNullable<PlaceFacts['box']> }),
      ...(fill && { fill }),
      ...(text.room?.trim() && { room: text.room.trim() }),
      ...(number('turn') !== undefined && { turn: Math.round(number('turn')!) }),
    };
    await actions.write([draft('place-described', [`place:${place.id}`], body)], `${place.name} described`);
    done();
    onClose();
  };
  const field = (key: string, label: string) => (
    <View key={key} style={{ flexGrow: 1, flexBasis: 150 }}>
      <Field
        label={label}
        value={text[key] ?? ''}
        onChange={(v) => set({ text: { ...touched.text, [key]: v } })}
        testID={`say-${key}`}
      />
    </View>
  );
  return (
    <Sheet
      title={place.name}
      onClose={onClose}
      footer={
        <Button
          label="Keep"
          tone="next"
          height={64}
          disabled={wrong.length > 0 || half}
          onPress={() => keep()}
          testID="keep-place"
        />
      }
    >
      <Words bold>May hold</Words>
      <Row gap={6}>
        {CONDITIONS.map((c) => (
          <Button
            key={c}
            label={c}
            role="checkbox"
            selected={holds.includes(c)}
            onPress={() => set({ holds: holds.includes(c) ? holds.filter((h) => h !== c) : [...holds, c] })}
          />
        ))}
      </Row>
      <Words bold>At most</Words>
      <Row>{MEASURES.map((m) => field(m, MEASURE_UNITS[m]))}</Row>
      <Words bold>By tape measure</Words>
      <Row>{METRES.map((m) => field(m, METRE_WORDS[m]))}</Row>
      <Words bold>Fill and bags</Words>
      <Choice label="Fill" options={FILLS} value={fill} onChange={(x) => set({ fill: x })} />
      <Button label="One pack in each bag" role="checkbox" selected={bags} onPress={() => set({ bags: !bags })} />
      <Button label="Outdoors" role="checkbox" selected={outdoors} onPress={() => set({ outdoors: !outdoors })} />
      <Words bold>In the drawing</Words>
      <Row>
        {field('room', 'Room')}
        {field('turn', 'Turn on the round')}
        {BOX.map((b) => field(b, BOX_WORDS[b]))}
      </Row>
      {wrong.length > 0 ? <Words bold>Write numbers as 2,5.</Words> : null}
      <LeftEmpty stays={emptied} />
      {half ? <Words bold>The drawing needs all four lengths, or none.</Words> : null}
      <ClosePlace place={place} lying={lying} onClosed={onClose} />
    </Sheet>
  );
}
