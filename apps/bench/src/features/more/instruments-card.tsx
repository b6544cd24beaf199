import { INSTRUMENT_KINDS, type InstrumentBody, localDay, parseDigits } from '@gavrel/core';
import { useState } from 'react';
import { View } from 'react-native';
import { v7 } from 'uuid';
import { draft } from '../../device/write';
import { useAppDispatch, useAppSelector } from '../../state';
import { useActions } from '../../state/context';
import { useZone } from '../../state/rulings';
import { shiftChosen, speakChosen } from '../../state/view';
import { Field } from '../../ui/field';
import { Card, Row } from '../../ui/frame';
import { Choice, Button } from '../../ui/buttons';
import { Sheet } from '../../ui/sheet';
import { Words } from '../../ui/words';
import { accuracyWords } from '../../entry/instruments';

type Measures = InstrumentBody['measures'];
const UNIT: Record<Measures, string> = { volts: 'V', thickness: 'mm', temperature: '°C', mass: 'kg' };

function AddInstrument({ onClose }: { onClose: () => void }) {
  const actions = useActions();
  const [name, setName] = useState('');
  const [measures, setMeasures] = useState<Measures>('volts');
  const [percent, setPercent] = useState('0,5');
  const [digits, setDigits] = useState('2');
  const [fixed, setFixed] = useState('');
  const [until, setUntil] = useState('');
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
    onClose();
  };
  return (
    <Sheet
      title="Add an instrument"
      onClose={onClose}
      footer={
        <Button label="Keep" tone="next" height={64} disabled={!good} onPress={() => void keep()} testID="keep-instrument" />
      }
    >
      <Field label="Name on it" value={name} onChange={setName} autoFocus testID="instrument-name" />
      <Choice label="Measures" options={INSTRUMENT_KINDS} value={measures} onChange={setMeasures} />
      <Field label="Accuracy, % of reading" value={percent} onChange={setPercent} />
      <Field label="and digits of the last place" value={digits} onChange={setDigits} />
      <Field label={`and a fixed part, ${UNIT[measures]}`} value={fixed} onChange={setFixed} />
      <Field label="Calibrated until (YYYY-MM-DD)" value={until} onChange={setUntil} testID="instrument-until" />
      {good ? null : <Words size={15}>A name, and an accuracy above zero; the day as 2027-03-01.</Words>}
    </Sheet>
  );
}

/** Instruments, chosen once a shift; what was chosen stands with each reading. */
export function InstrumentsCard() {
  const dispatch = useAppDispatch();
  const [adding, setAdding] = useState(false);
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
            {k}
          </Words>
          {all
            .filter((i) => i.measures === k)
            .map((i) => {
              const late = i.calibratedUntil !== undefined && i.calibratedUntil < day;
              return (
                <Button
                  key={i.id}
                  label={`${accuracyWords(i)}${i.calibratedUntil ? `; calibrated until ${i.calibratedUntil}${late ? ', over' : ''}` : ''}`}
                  role="radio"
                  selected={chosen[k] === i.id}
                  onPress={() => dispatch(shiftChosen({ person, day, chosen: { ...chosen, [k]: i.id } }))}
                  testID={`instrument-${i.name}`}
                />
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
    </Card>
  );
}
