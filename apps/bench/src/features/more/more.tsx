import type { SiteCard } from '@gavrel/core';
import { router } from 'expo-router';
import { useState } from 'react';
import { draft } from '../../device/write';
import { useAppDispatch, useAppSelector } from '../../state';
import { useActions } from '../../state/context';
import { themeChosen } from '../../state/view';
import { Field } from '../../ui/field';
import { Card, Column, Row } from '../../ui/frame';
import { Choice, Button } from '../../ui/buttons';
import { Sheet } from '../../ui/sheet';
import { Figures, Heading, Words } from '../../ui/words';
import { BackupCard } from './backup-card';
import { CalendarCard } from './calendar-card';
import { DeviceCard } from './device-card';
import { InstrumentsCard } from './instruments-card';
import { PersonCard } from './person-card';
import { PolicyCard } from './policy-card';
import { RefusedItem } from './refused-item';
import { SlipsCard } from './slips-card';

function SiteCardSheet({ present, onClose }: { present: SiteCard | null; onClose: () => void }) {
  const actions = useActions();
  const workshop = useAppSelector((s) => s.session.session?.workshop.id ?? '');
  const [emergencyNumber, setNumber] = useState(present?.emergencyNumber ?? '');
  const [assemblyPoint, setPoint] = useState(present?.assemblyPoint ?? '');
  const [callFirst, setCall] = useState(present?.callFirst ?? '');
  const all = [emergencyNumber, assemblyPoint, callFirst].every((v) => v.trim() !== '');
  const keep = () =>
    actions
      .write([draft('site-card-set', [`policy:${workshop}`], { emergencyNumber, assemblyPoint, callFirst })], 'site card')
      .then(onClose);
  return (
    <Sheet
      title="Site card"
      onClose={onClose}
      footer={<Button label="Keep" tone="next" height={64} disabled={!all} onPress={() => void keep()} />}
    >
      <Field label="Emergency number" value={emergencyNumber} onChange={setNumber} />
      <Field label="Assembly point" value={assemblyPoint} onChange={setPoint} />
      <Field label="Call first" value={callFirst} onChange={setCall} />
    </Sheet>
  );
}

/** Person, site card, theme, and what the server sent back. */
export function More() {
  const dispatch = useAppDispatch();
  const session = useAppSelector((s) => s.session.session);
  const { unsent, refused, away, policy } = useAppSelector((s) => s.logbook);
  const theme = useAppSelector((s) => s.view.theme);
  const [card, setCard] = useState(false);
  const lead = session?.person.role === 'lead';
  const site = policy.siteCard;
  return (
    <Column style={{ width: '100%', maxWidth: 900, alignSelf: 'center' }}>
      <Heading level={1} size={26}>
        More
      </Heading>
      <PersonCard />
      <Card title="Not sent yet" right={<Figures bold>{unsent}</Figures>} testID="unsent-card">
        <Words>
          {away ? 'The server does not answer. Everything is kept on this device and goes out by itself.' : 'The server answers.'}
        </Words>
        {refused.map((r) => (
          <RefusedItem key={r.id} id={r.id} problem={r.problem} />
        ))}
      </Card>
      <DeviceCard />
      <Card title="Rules and tables" testID="card-rules">
        <Row>
          <Button label="Read the rules" onPress={() => router.push('/rules')} testID="open-rules" />
          <Button label="Rule on a table of packs" onPress={() => router.push('/table')} testID="open-table" />
        </Row>
      </Card>
      <Card title="Site card" right={lead ? <Button label="Change" onPress={() => setCard(true)} /> : undefined}>
        {site ? (
          <>
            <Words bold>{`Emergency: ${site.emergencyNumber}`}</Words>
            <Words>{`Assembly point: ${site.assemblyPoint}`}</Words>
            <Words>{`Call first: ${site.callFirst}`}</Words>
          </>
        ) : (
          <Words>Not filled in yet. The lead does it here; it is shown when a pack is critical.</Words>
        )}
      </Card>
      {lead ? (
        <Card title="People">
          <Button label="Invite, change, train" onPress={() => router.push('/people')} testID="open-people" />
        </Card>
      ) : null}
      <InstrumentsCard />
      <SlipsCard />
      <PolicyCard />
      {lead ? <BackupCard /> : null}
      {lead ? <CalendarCard /> : null}
      <Card title="Screen">
        <Choice
          label="Screen"
          options={['auto', 'light', 'dark'] as const}
          value={theme}
          onChange={(v) => dispatch(themeChosen(v))}
        />
      </Card>
      <Card title="What Gavrel is not">
        <Words>
          It never says that a pack is safe. Rules are our copy, from memory: check the current edition. Local codes and trained
          people decide.
        </Words>
      </Card>
      {card ? <SiteCardSheet present={site} onClose={() => setCard(false)} /> : null}
    </Column>
  );
}
