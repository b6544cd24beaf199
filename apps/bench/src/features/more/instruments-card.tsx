import {
  INSTRUMENT_KINDS,
  type InstrumentAddress,
  type InstrumentBody,
  type InstrumentFacts,
  localDay,
  parseDigits,
  SPEAKS,
} from '@gavrel/core';
import { useState } from 'react';
import { View } from 'react-native';
import { v7 } from 'uuid';
import { draft } from '../../device/write';
import { useAppDispatch, useAppSelector } from '../../state';
import { useActions } from '../../state/context';
import { useMay } from '../../state/may';
import { useZone } from '../../state/rulings';
import { shiftChosen, speakChosen } from '../../state/view';
import { useDraft } from '../../state/use-draft';
import { Field } from '../../ui/field';
import { Card, Row } from '../../ui/frame';
import { Choice, Button } from '../../ui/buttons';
import { dayWords } from '../../ui/say';
import { Sheet } from '../../ui/sheet';
import { Words } from '../../ui/words';
import { accuracyWords } from '../../entry/instruments';
import { hasCables } from '../../device/serial';
import { CableSheet } from './cable-sheet';

type Measures = InstrumentBody['measures'];
const UNIT: Record<Measures, string> = {
  volts: 'V',
  thickness: 'mm',
  temperature: '°C',
  mass: 'kg',
  discharge: 'A',
  gauge: 'mAh',
};
/** What two of the kinds are called on a bench. */
const KIND_WORDS: Partial<Record<Measures, string>> = { discharge: 'electronic load', gauge: 'gauge reader' };

/** What the form starts with. */
const NEW = { name: '', measures: 'volts' as Measures, percent: '0,5', digits: '2', fixed: '', until: '' };

function AddInstrument({ onClose }: { onClose: () => void }) {
  const actions = useActions();
  const [form, setForm, done] = useDraft('instrument', NEW);
  const { name, measures, percent, digits, fixed, until } = form;
  const set = (f: keyof typeof form) => (x: string) => setForm((b) => ({ ...b, [f]: x }));
  const number = (s: string) => (s.trim() === '' ? 0 : Number(parseDigits(s) ?? Number.NaN));
  const [p, d, f] = [number(percent), number(digits), number(fixed)];
  const badDay = until !== '' && !/^\d{4}-\d{2}-\d{2}$/.test(until);
  const good = name.trim() !== '' && !badDay && p >= 0 && p <= 100 && Number.isInteger(d) && d >= 0 && f >= 0 && p + d + f > 0;
  const keep = async () => {
    const body: InstrumentBody = {
      name: name.trim(),
      measures,
      accuracy: { percent: p, digits: d, ...(f > 0 && { fixed: f }) },
      ...(until && { calibratedUntil: until }),
    };
    await actions.write([draft('instrument-added', [`instrument:${v7()}`], body)], `instrument ${name.trim()}`);
    done();
    onClose();
  };
  return (
    <Sheet
      title="Add an instrument"
      onClose={onClose}
      footer={<Button label="Keep" tone="next" height={64} disabled={!good} onPress={() => keep()} testID="keep-instrument" />}
    >
      <Field label="Name on it" value={name} onChange={set('name')} autoFocus testID="instrument-name" />
      <Choice label="Measures" options={INSTRUMENT_KINDS} value={measures} onChange={set('measures')} words={KIND_WORDS} />
      <Field label="Accuracy, % of reading" value={percent} onChange={set('percent')} testID="instrument-percent" />
      <Field label="and digits of the last place" value={digits} onChange={set('digits')} testID="instrument-digits" />
      <Field label={`and a fixed part, ${UNIT[measures]}`} value={fixed} onChange={set('fixed')} testID="instrument-fixed" />
      <Field label="Calibrated until (YYYY-MM-DD)" value={until} onChange={set('until')} testID="instrument-until" />
      {good ? null : <Words size={15}>A name, and an accuracy above zero; the day as 2027-03-01.</Words>}
    </Sheet>
  );
}

/** Where the server reaches an instrument that talks; only an address of one's own network, and only the lead says it. */
function ConnectSheet({ instrument, onClose }: { instrument: InstrumentFacts; onClose: () => void }) {
  const actions = useActions();
  const { address } = instrument;
  const [host, setHost] = useState(address?.host ?? '');
  const [port, setPort] = useState(String(address?.port ?? 5025));
  const [speaks, setSpeaks] = useState<InstrumentAddress['speaks']>(address?.speaks ?? 'scpi');
  const number = /^\d{1,5}$/.test(port.trim()) ? Number(port) : 0;
  const good = /^[0-9a-f.:]{3,45}$/i.test(host.trim()) && number >= 1 && number <= 65_535;
  const keep = async (to: InstrumentAddress | null) => {
    await actions.write(
      [draft('instrument-connected', [`instrument:${instrument.id}`], { address: to })],
      to ? `${instrument.name} connected` : `${instrument.name} not connected`,
    );
    onClose();
  };
  return (
    <Sheet
      title={`Connect ${instrument.name}`}
      onClose={onClose}
      footer={
        <Button
          label="Keep"
          tone="next"
          height={64}
          disabled={!good}
          onPress={() => keep({ host: host.trim(), port: number, speaks })}
          testID="keep-address"
        />
      }
    >
      <Words>The server asks it when a person taps Read on the keypad. An address of your own network, never a name.</Words>
      <Field label="Address, as 192.168.1.40" value={host} onChange={setHost} autoFocus longest={45} testID="instrument-host" />
      <Field label="Port" value={port} onChange={setPort} longest={5} testID="instrument-port" />
      <Choice label="Speaks" options={SPEAKS} value={speaks} onChange={setSpeaks} />
      {address ? <Button label="Not connected any more" onPress={() => keep(null)} testID="disconnect" /> : null}
    </Sheet>
  );
}

/** Instruments, chosen once a shift; what was chosen stands with each reading. */
export function InstrumentsCard() {
  const dispatch = useAppDispatch();
  const [adding, setAdding] = useState(false);
  const [connecting, setConnecting] = useState<InstrumentFacts | null>(null);
  const [cabling, setCabling] = useState<InstrumentFacts | null>(null);
  const cables = useAppSelector((s) => s.view.cables);
  const connects = useMay('instrument-connected');
  const instruments = useAppSelector((s) => s.logbook.instruments);
  const person = useAppSelector((s) => s.session.session?.person.id ?? '');
  const { shift, speak } = useAppSelector((s) => s.view);
  const day = localDay(useZone(), new Date());
  const chosen = shift && shift.person === person && shift.day === day ? shift.chosen : {};
  const all = Object.values(instruments);
  return (
    <Card
      title="Instruments of this shift"
      right={<Button label="Add" onPress={() => setAdding(true)} testID="add-instrument" />}
      testID="card-instruments"
    >
      {all.length === 0 ? <Words>None yet. Readings carry the usual accuracy of a handheld one.</Words> : null}
      {INSTRUMENT_KINDS.filter((k) => all.some((i) => i.measures === k)).map((k) => (
        <View key={k} style={{ gap: 6 }}>
          <Words size={15} soft>
            {KIND_WORDS[k] ?? k}
          </Words>
          {all
            .filter((i) => i.measures === k)
            .map((i) => {
              const late = i.calibratedUntil !== undefined && i.calibratedUntil < day;
              return (
                <View key={i.id} style={{ flexDirection: 'row', gap: 6 }}>
                  <Button
                    label={`${accuracyWords(i)}${i.calibratedUntil ? `; calibrated until ${dayWords(i.calibratedUntil)}${late ? ', over' : ''}` : ''}${i.address ? '; talks' : ''}${cables[i.id] ? '; on a cable here' : ''}`}
                    role="radio"
                    selected={chosen[k] === i.id}
                    style={{ flex: 1 }}
                    onPress={() => dispatch(shiftChosen({ person, day, chosen: { ...chosen, [k]: i.id } }))}
                    testID={`instrument-${i.name}`}
                  />
                  {connects ? (
                    <Button
                      label={i.address ? 'Address' : 'Connect'}
                      hint={i.name}
                      tone="quiet"
                      onPress={() => setConnecting(i)}
                      testID={`connect-${i.name}`}
                    />
                  ) : null}
                  {hasCables() && k !== 'discharge' && k !== 'gauge' ? (
                    <Button label="Cable" hint={i.name} tone="quiet" onPress={() => setCabling(i)} testID={`cable-${i.name}`} />
                  ) : null}
                </View>
              );
            })}
        </View>
      ))}
      <Row>
        <Button
          label="Speak numbers back"
          role="switch"
          selected={speak}
          onPress={() => dispatch(speakChosen(!speak))}
          testID="speak"
        />
      </Row>
      {adding ? <AddInstrument onClose={() => setAdding(false)} /> : null}
      {cabling ? <CableSheet instrument={cabling} onClose={() => setCabling(null)} /> : null}
      {connecting ? <ConnectSheet instrument={connecting} onClose={() => setConnecting(null)} /> : null}
    </Card>
  );
}
