import { localDay } from '@gavrel/core';
import { GRADES, WRITTEN } from '@gavrel/core/practice';
import { useState } from 'react';
import { View } from 'react-native';
import { saveFile } from '../../device/picture';
import { print } from '../../paper/print';
import { useAppSelector } from '../../state';
import { useZone } from '../../state/rulings';
import { useWide } from '../../theme';
import { Button } from '../../ui/buttons';
import { Card, Column, Row } from '../../ui/frame';
import { Figures, Heading, Words } from '../../ui/words';
import { PracticeBand } from './band';
import { BetsCard } from './bets-card';
import { OwnCard } from './own-card';
import { recordPaper } from './record-paper';
import { openScenario, ScenarioRow } from './scenario-row';
import { brierOf, calibrationOf, lastOf, nextScenario, practiceCsv } from './record';
import { useRecord } from './use-record';
import { UnwrittenCard } from './unwritten-card';
import { WorkshopCard } from './workshop-card';

/** What was practised, and what to practise next. */
export function Practice() {
  const [record, change] = useRecord();
  const session = useAppSelector((s) => s.session.session);
  const [trouble, setTrouble] = useState('');
  const wide = useWide();
  const zone = useZone();
  if (!record) return null;
  const person = session?.person;
  const paper = () => recordPaper(record.played, person?.name ?? '', session?.workshop.name ?? '', localDay(zone, new Date()));
  const next = nextScenario(record, new Date());
  const calibration = calibrationOf(record.played);
  const done = WRITTEN.filter((s) => lastOf(record, s.id)?.full).length;
  const about = (
    <>
      {calibration.length > 0 ? <BetsCard calibration={calibration} brier={brierOf(record.played)} /> : null}
      {person?.role === 'lead' ? <WorkshopCard /> : null}
      <Words bold testID="practice-done">{`${done} of ${WRITTEN.length} all right the last time`}</Words>
      {record.played.length > 0 ? (
        <Row>
          <Button
            label="My record on paper"
            height={56}
            onPress={() => print('practice', { kind: 'report', paper: paper() }).catch((e: Error) => setTrouble(e.message))}
            testID="practice-paper"
          />
          <Button
            label="CSV"
            hint="my record"
            height={56}
            onPress={() => saveFile('practice.csv', new Blob([practiceCsv(record.played)], { type: 'text/csv' }))}
            testID="practice-csv"
          />
        </Row>
      ) : null}
      {trouble ? <Words bold>{trouble}</Words> : null}
    </>
  );
  const unwritten = <UnwrittenCard />;
  const own = <OwnCard record={record} change={change} />;
  const written = GRADES.map((grade) => {
    const all = WRITTEN.filter((s) => s.grade === grade);
    return (
      <Card key={grade} title={`${grade[0]!.toUpperCase()}${grade.slice(1)}`} right={<Figures>{all.length}</Figures>}>
        {all.map((s) => (
          <ScenarioRow key={s.id} scenario={s} record={record} />
        ))}
      </Card>
    );
  });
  return (
    <View style={{ flex: 1 }}>
      <PracticeBand />
      <Column style={{ width: '100%', maxWidth: 1280, alignSelf: 'center' }}>
        <Heading level={1} size={26}>
          Practice
        </Heading>
        <Words>Choose what to do, say what the ruling will be, and look back at what was true.</Words>
        <Button
          label={`${record.played.length === 0 ? 'Begin' : 'Go on'}: ${next.title}`}
          tone="next"
          height={64}
          onPress={() => openScenario(next)}
          testID="practice-next"
        />
        {wide ? (
          <View style={{ flexDirection: 'row', gap: 12, alignItems: 'flex-start' }}>
            <View style={{ flex: 1, gap: 12 }}>{written}</View>
            <View style={{ flex: 1, gap: 12 }}>
              {unwritten}
              {own}
              {about}
            </View>
          </View>
        ) : (
          <>
            {unwritten}
            {about}
            {written}
            {own}
          </>
        )}
      </Column>
    </View>
  );
}
