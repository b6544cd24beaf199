import { INCIDENT_MINUTES, INCIDENT_STEPS, type IncidentFacts, nextLook, type Subject } from '@gavrel/core';
import { format, parseISO } from 'date-fns';
import { router } from 'expo-router';
import { useState } from 'react';
import { View } from 'react-native';
import { draft } from '../../device/write';
import { useAppSelector } from '../../state';
import { useMay } from '../../state/may';
import { useActions } from '../../state/context';
import { rulingOf, useZone } from '../../state/rulings';
import { Field } from '../../ui/field';
import { Card, Column, Row } from '../../ui/frame';
import { Choice, Button } from '../../ui/buttons';
import { exactWords } from '../../ui/say';
import { ConditionShape } from '../../ui/shape';
import { Figures, Heading, Words } from '../../ui/words';
import { print } from '../../paper/print';
import { SignKey } from '../../entry/sign-sheet';
import { courseOf, incidentPaper } from './incident-paper';
import { IncidentSheet } from './incident-sheet';
import { incidentWords } from '../../stock/incident-words';
import { inParts } from '../../stock/parts';
import { lookWords, packsWord } from '../../stock/place-words';

/** The look that is due, from a distance; nothing seen is one tap, anything else opens it anew. */
function Reignition({ incident, onAgain }: { incident: IncidentFacts; onAgain: () => void }) {
  const actions = useActions();
  const now = new Date();
  const looks = incident.looks.map((l) => l.at);
  const next = nextLook(incident.lastAt, looks, false, INCIDENT_MINUTES);
  return (
    <Card
      title="Does it burn again?"
      testID="card-reignition"
      right={<Words bold={parseISO(next) < now}>{lookWords(next, now)}</Words>}
    >
      <Words size={15}>From a distance. Cells burn again hours and days later. Do not open, do not move.</Words>
      <Row>
        <Button
          label="Nothing seen"
          tone="next"
          height={64}
          onPress={() =>
            actions.write([draft('incident-looked', [`incident:${incident.id}`], { seen: 'nothing' })], 'nothing seen')
          }
          style={{ flexGrow: 1 }}
          testID="incident-quiet"
        />
        <Button label="It does" tone="critical" height={64} onPress={onAgain} style={{ flexGrow: 1 }} testID="incident-again" />
      </Row>
    </Card>
  );
}

function Steps({ incident }: { incident: IncidentFacts }) {
  const actions = useActions();
  const [note, setNote] = useState('');
  const done = new Set(incident.steps.map((s) => s.body.step));
  return (
    <Card title="What was done" testID="card-steps">
      <Field label="With these words" value={note} onChange={setNote} testID="step-note" />
      <Row gap={6}>
        {INCIDENT_STEPS.map((step) => (
          <Button
            key={step}
            label={step}
            selected={done.has(step)}
            height={52}
            disabled={step === 'other' && !note.trim()}
            onPress={() => {
              const body = { step, ...(note.trim() && { note: note.trim() }) };
              setNote('');
              void actions.write([draft('incident-noted', [`incident:${incident.id}`], body)], step);
            }}
            testID={`step-${step.replace(/\W+/g, '-')}`}
          />
        ))}
      </Row>
    </Card>
  );
}

/** A lead declares it over, a second person signs: only then are its packs free to be examined and cleared. */
function Over({
  incident,
  packs,
  nameOf,
}: {
  incident: IncidentFacts;
  packs: readonly string[];
  nameOf: (id: string) => string;
}) {
  const actions = useActions();
  const person = useAppSelector((s) => s.session.session!.person);
  const [reason, setReason] = useState('');
  const mayClose = useMay('incident-closed');
  const [was, setWas] = useState<'it happened' | 'false alarm' | null>(null);
  const about = (part: readonly string[]): Subject[] => [`incident:${incident.id}`, ...part.map((p): Subject => `pack:${p}`)];
  const others = incident.closing.filter((c) => c.by !== person.id);
  const sign = () =>
    actions.write(
      others.map((c) => draft('confirmed', about(c.packs), { confirms: c.id })),
      'signed',
    );
  return (
    <Card title="Over" testID="card-over">
      <Words size={15}>
        A lead says so, a second person, trained to assess, signs. Until then its packs are frozen: nobody clears them, none
        leaves.
      </Words>
      {incident.closing.length > 0 ? (
        <Words bold>
          {`Declared over${incident.closing[0]!.falseAlarm ? ' as a false alarm' : ''} by ${nameOf(incident.closing[0]!.by)}: ${incident.closing[0]!.reason}`}
        </Words>
      ) : null}
      {others.length > 0 && !person.competent ? (
        <>
          <Words>It waits for a second person, trained to assess.</Words>
          <SignKey ids={incident.closing.map((c) => c.id)} />
        </>
      ) : others.length > 0 ? (
        <Button label="Sign that it is over" tone="next" height={56} onPress={() => sign()} testID="sign-over" />
      ) : incident.closing.length > 0 ? (
        <>
          <Words>It waits for a second person, trained to assess.</Words>
          <SignKey ids={incident.closing.map((c) => c.id)} />
        </>
      ) : mayClose ? (
        <>
          <Choice
            label="What it was"
            options={['it happened', 'false alarm'] as const}
            value={was}
            onChange={setWas}
            height={56}
          />
          <Words size={15}>
            {was === 'false alarm'
              ? 'Nothing burnt, smoked or leaked: what it says of its packs goes, everything else found on them stays.'
              : 'What burnt, smoked or leaked stays damaged for good; what lay beside it is examined.'}
          </Words>
          <Field label="Why it is over" value={reason} onChange={setReason} testID="over-reason" />
          <Button
            label="Declare it over"
            height={56}
            disabled={reason.trim().length < 3 || was === null}
            onPress={() =>
              actions.write(
                inParts(packs).map((part) =>
                  draft('incident-closed', about(part), {
                    reason: reason.trim(),
                    ...(was === 'false alarm' && { falseAlarm: true }),
                  }),
                ),
                'declared over',
              )
            }
            testID="declare-over"
          />
        </>
      ) : (
        <Words>The lead declares it over.</Words>
      )}
    </Card>
  );
}

/** One incident: whether it burns again first, then what was done, what lay there, and the record. */
export function Incident({ id }: { id: string }) {
  const incident = useAppSelector((s) => s.logbook.incidents[id]);
  const logbook = useAppSelector((s) => s.logbook);
  const zone = useZone();
  const session = useAppSelector((s) => s.session.session!);
  const [again, setAgain] = useState(false);
  const [trouble, setTrouble] = useState('');
  if (!incident) {
    return (
      <Column>
        <Words>This incident is not here. It may not have reached this device yet.</Words>
      </Column>
    );
  }
  const nameOf = (p: string) => session.people.find((x) => x.id === p)?.name ?? 'somebody';
  const names = (ids: readonly string[]) => ids.map(nameOf).join(', ');
  const packs = Object.values(logbook.packs).filter((f) => f.incidents.some((i) => i.body.incident === id));
  // A pack whose move arrived after the declaration is not named by it: it stays frozen, and is declared free like the others.
  const frozen = packs.filter((f) => f.incidents.some((i) => i.body.incident === id && i.body.frozen));
  const over = incident.closed !== null && frozen.length === 0 ? incident.closed : null;
  const place = incident.places[0] === undefined ? undefined : logbook.places[incident.places[0]];
  const record = () => {
    setTrouble('');
    const paper = incidentPaper(incident, packs, logbook.places, logbook.policy, nameOf, session.workshop.name, new Date());
    void print('incident', { kind: 'report', paper }).catch((e: Error) => setTrouble(e.message));
  };
  return (
    <Column style={{ width: '100%', maxWidth: 760, alignSelf: 'center' }}>
      <Heading level={1} size={26}>
        {incidentWords(incident, logbook.places)}
      </Heading>
      <Words bold testID="incident-state">
        {over
          ? `Over since ${exactWords(over.at)}${over.falseAlarm ? ', a false alarm' : ''}: ${over.reason}. Declared by ${names(over.by)}, signed by ${names(over.signedBy)}.`
          : `Not over. ${packsWord(frozen.length)} frozen: not moved, not cleared, not shipped.`}
      </Words>
      {over ? null : <Reignition incident={incident} onAgain={() => setAgain(true)} />}
      {over ? null : <Steps incident={incident} />}
      <Card title="Course" testID="card-course">
        {courseOf(incident, nameOf).map((c, n) => (
          <View key={n} style={{ flexDirection: 'row', gap: 10 }}>
            <Figures size={15} style={{ width: 112 }}>
              {format(parseISO(c.at), 'd MMM HH:mm')}
            </Figures>
            <Words style={{ flex: 1 }}>{c.words}</Words>
          </View>
        ))}
        {incident.notes.map((n) => (
          <Words key={n}>{n}</Words>
        ))}
        <Button label="Print the record" onPress={record} testID="print-incident" />
        {trouble ? <Words bold>{trouble}</Words> : null}
      </Card>
      <Card title={`What lay there: ${packsWord(packs.length)}`} testID="card-lay">
        {packs.map((f) => (
          <Button key={f.id} label={f.tag} height={56} onPress={() => router.push(`/pack/${f.id}`)} testID={`lay-${f.tag}`}>
            <View style={{ flexDirection: 'row', alignItems: 'center', gap: 10 }}>
              <ConditionShape condition={rulingOf(f, logbook.policy, zone).judgement.condition} size={22} named />
              <Figures bold>{f.tag}</Figures>
              {incident.sources.includes(f.id) ? <Words>the source</Words> : null}
            </View>
          </Button>
        ))}
      </Card>
      {over ? null : <Over incident={incident} packs={packs.map((f) => f.id)} nameOf={nameOf} />}
      {again ? (
        <IncidentSheet
          place={place ? { id: place.id, name: place.name } : null}
          incident={id}
          packs={packs.map((f) => ({ id: f.id, tag: f.tag }))}
          onClose={() => setAgain(false)}
        />
      ) : null}
    </Column>
  );
}
