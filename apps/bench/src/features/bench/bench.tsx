import { addDays, changeDays, type JobFacts, localDay, SHIPPING_RULES } from '@gavrel/core';
import { router } from 'expo-router';
import { type ComponentType, Suspense, useState } from 'react';
import { View } from 'react-native';
import { useAppDispatch, useAppSelector } from '../../state';
import { useMay } from '../../state/may';
import { useDraft } from '../../state/use-draft';
import { finderOpened } from '../../state/view';
import { SPACE, useWide } from '../../theme';
import { Choice, Button } from '../../ui/buttons';
import { Card, Column, Row } from '../../ui/frame';
import { Figures, Heading, Words } from '../../ui/words';
import { DuesCard } from './dues';
import { JobLine } from './job-line';
import { PracticeOffer } from './practice-offer';
import { StartJob } from './start-job';

/** Days ahead in which a change of rules is told. */
const NOTICE_DAYS = 60;

/** Jobs in hand, what is due, and a new job. @param lanes draws the jobs by station; it is not in the first load. */
export function Bench({ lanes: Lanes }: { lanes: ComponentType<{ jobs: readonly JobFacts[] }> }) {
  const dispatch = useAppDispatch();
  const jobs = useAppSelector((s) => s.logbook.jobs);
  const session = useAppSelector((s) => s.session.session);
  const mayStart = useMay('job-opened');
  const mayAdd = useMay('pack-added');
  const wide = useWide();
  const [starting, setStarting] = useState(false);
  const open = Object.values(jobs)
    .filter((j) => j.closedAt === null)
    .sort((a, b) => (a.openedAt < b.openedAt ? 1 : -1));
  const today = localDay(session?.workshop.zone ?? 'UTC', new Date());
  // A notice early enough to bring charges down or to send before the day.
  const soon = addDays(today, NOTICE_DAYS);
  const ahead = changeDays(SHIPPING_RULES, today, soon)[0];
  const [shape, setShape] = useDraft<'list' | 'lanes'>('bench', 'list');
  const lanes = wide && shape === 'lanes';
  const side = wide && !lanes ? { flex: 1 } : undefined;
  return (
    <Column>
      <View style={{ flexDirection: 'row', justifyContent: 'space-between', alignItems: 'center', gap: 8 }}>
        <View style={{ flex: 1 }}>
          <Heading level={1} size={26}>
            Bench
          </Heading>
          <Words soft>{session?.workshop.name}</Words>
        </View>
        {mayAdd ? <Button label="Take in a load" height={64} onPress={() => router.push('/batch')} testID="take-in" /> : null}
        {mayStart ? (
          <Button label="Start a job" tone="next" height={64} size={18} onPress={() => setStarting(true)} testID="start-job" />
        ) : null}
      </View>
      {wide ? null : (
        <Button
          label="Find or scan a tag, a place, a model"
          height={56}
          onPress={() => dispatch(finderOpened())}
          style={{ alignItems: 'flex-start' }}
          testID="find"
        />
      )}
      <View
        style={{
          flexDirection: wide && !lanes ? 'row' : 'column',
          gap: SPACE,
          alignItems: wide && !lanes ? 'flex-start' : 'stretch',
        }}
      >
        <Card
          title="Jobs in hand"
          style={side}
          right={
            <Row>
              <Figures>{open.length}</Figures>
              {wide ? <Choice label="Jobs as" options={['list', 'lanes'] as const} value={shape} onChange={setShape} /> : null}
            </Row>
          }
        >
          {open.length === 0 ? <Words>No job is open. Start one with its workshop tag.</Words> : null}
          {lanes ? (
            <Suspense>
              <Lanes jobs={open} />
            </Suspense>
          ) : (
            open.map((j) => <JobLine key={j.id} job={j} />)
          )}
        </Card>
        <DuesCard today={today} style={side} />
      </View>
      <PracticeOffer />
      {ahead && (session?.person.role === 'lead' || session?.person.role === 'shipper') ? (
        <Button
          label={`Rules change on ${ahead}: look at the stock`}
          height={56}
          onPress={() => router.push('/rules')}
          testID="rules-ahead"
        />
      ) : null}
      {starting ? <StartJob onClose={() => setStarting(false)} /> : null}
    </Column>
  );
}
