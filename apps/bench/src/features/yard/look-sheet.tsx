import { type ContainerLookBody, type Figure, overRoom, parseDigits, type Subject, type TemperatureUnit } from '@gavrel/core';
import { useState } from 'react';
import { type Draft, draft } from '../../device/write';
import { useActions } from '../../state/context';
import { Field } from '../../ui/field';
import { Row } from '../../ui/frame';
import { Choice, Button } from '../../ui/buttons';
import { LimitScale } from '../../ui/limit-scale';
import { Sheet } from '../../ui/sheet';
import { useDisplay } from '../../ui/display';
import { Words } from '../../ui/words';
import { useInstrument } from '../../entry/instruments';
import { heatLimit } from './heat';
import { inParts } from '../../stock/parts';

/** One tap says all of this; the key names it. */
export const ALL_QUIET: ContainerLookBody = { smell: 'none', sound: 'none', smoke: 'none', lid: 'closed', seen: 'nothing' };
export const QUIET_WORDS = 'no smell, no hiss, no smoke, lid closed, nothing grows';

/** A look at a container concerns every pack that lies in it. */
export const lookDrafts = (place: string, packs: readonly string[], body: ContainerLookBody): Draft[] =>
  inParts(packs).map((part) => draft('container-looked', [`place:${place}`, ...part.map((id): Subject => `pack:${id}`)], body));

const degrees = (typed: string, unit: TemperatureUnit): Figure<TemperatureUnit> | undefined => {
  const digits = parseDigits(typed);
  return digits === null ? undefined : { digits, unit };
};

/** A container's temperature and what it is held against, as typed. */
interface Heat {
  readonly probe: 'wall' | 'fill';
  readonly against: 'room' | 'empty twin';
  readonly inside: string;
  readonly room: string;
}

/** The two temperatures, in the unit of the workshop. @param wrong what is typed is none. @param half one of them is missing. */
function Temperatures({
  heat,
  onHeat,
  wrong,
  half,
}: {
  heat: Heat;
  onHeat: (part: Partial<Heat>) => void;
  wrong: boolean;
  half: boolean;
}) {
  const { temperatures: unit, decimalMark } = useDisplay();
  return (
    <>
      <Row>
        <Choice
          label="Measured at"
          options={['wall', 'fill'] as const}
          words={{ wall: 'container wall', fill: 'probe in the fill' }}
          value={heat.probe}
          onChange={(probe) => onHeat({ probe })}
        />
      </Row>
      <Field
        label={`Its temperature, ${unit}`}
        value={heat.inside}
        onChange={(inside) => onHeat({ inside })}
        testID="look-inside"
      />
      <Choice
        label="Against"
        options={['room', 'empty twin'] as const}
        words={{ room: 'the room', 'empty twin': 'an empty twin' }}
        value={heat.against}
        onChange={(against) => onHeat({ against })}
      />
      <Field
        label={`${heat.against === 'room' ? 'Room' : 'Empty twin'}, ${unit}`}
        value={heat.room}
        onChange={(room) => onHeat({ room })}
        testID="look-room"
      />
      {wrong ? <Words bold>{`Write a temperature as ${decimalMark === 'comma' ? '19,5' : '19.5'}.`}</Words> : null}
      {half ? <Words bold>Both temperatures are needed: one alone says nothing.</Words> : null}
    </>
  );
}

/** A closer look without unpacking: signs one by one, and the container against its room or an empty twin. */
export function LookSheet({
  place,
  name,
  packs,
  onClose,
}: {
  place: string;
  name: string;
  packs: readonly string[];
  onClose: () => void;
}) {
  const actions = useActions();
  const instrument = useInstrument('temperature');
  const [signs, setSigns] = useState<ContainerLookBody>({});
  const [heat, setHeat] = useState<Heat>({ probe: 'wall', against: 'room', inside: '', room: '' });
  const [note, setNote] = useState('');
  const unit = useDisplay().temperatures;
  const { probe, against, inside, room } = heat;
  const [a, b] = [degrees(inside, unit), degrees(room, unit)];
  const wrong = [inside, room].some((t) => t.trim() !== '' && degrees(t, unit) === undefined);
  const half = (a === undefined) !== (b === undefined);
  const body: ContainerLookBody = {
    ...signs,
    ...(a && { temperature: a, probe }),
    ...(b && { room: b, against }),
    ...(a && instrument && { instrument: instrument.plain }),
    ...(note.trim() && { note: note.trim() }),
  };
  const now = overRoom(body);
  const sign = signs.smoke === 'smoke' || signs.sound === 'hiss' || signs.smell === 'smell';
  const keep = async () => {
    await actions.write(lookDrafts(place, packs, body), `look at ${name}`);
    onClose();
  };
  const say = <K extends keyof ContainerLookBody>(
    field: K,
    options: readonly NonNullable<ContainerLookBody[K]>[],
    words: string,
  ) => (
    <Row gap={8}>
      <Words style={{ width: 74 }}>{words}</Words>
      <Choice
        label={words}
        options={options as readonly string[]}
        value={(signs[field] as string | undefined) ?? null}
        onChange={(v) => setSigns({ ...signs, [field]: v })}
        height={56}
      />
    </Row>
  );
  return (
    <Sheet
      title={`Look at ${name}`}
      onClose={onClose}
      footer={
        <Button
          label={sign ? 'Keep: everyone is told' : 'Keep'}
          tone={sign ? 'critical' : 'next'}
          height={64}
          disabled={Object.keys(body).length === 0 || wrong || half}
          onPress={() => keep()}
          testID="keep-look"
        />
      }
    >
      <Words bold>Smoke or hiss: leave, alarm, call. Never unpack to look.</Words>
      {say('smoke', ['none', 'smoke'], 'Smoke')}
      {say('sound', ['none', 'hiss'], 'Hiss')}
      {say('smell', ['none', 'smell'], 'Smell')}
      {say('lid', ['closed', 'open'], 'Lid')}
      {say('seen', ['nothing', 'growing'], 'Growth')}
      <Temperatures heat={heat} onHeat={(part) => setHeat({ ...heat, ...part })} wrong={wrong} half={half} />
      {now ? <LimitScale limit={heatLimit(now)} /> : null}
      <Field label="Note" value={note} onChange={setNote} />
    </Sheet>
  );
}
