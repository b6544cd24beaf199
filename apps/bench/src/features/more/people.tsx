import { type Invited, type PersonDetail, type Role, ROLES, TRAININGS } from '@gavrel/contract';
import { localDay } from '@gavrel/core';
import { useEffect, useState } from 'react';
import { View } from 'react-native';
import { api, errorMessage } from '../../device/api';
import { useAppSelector } from '../../state';
import { useZone } from '../../state/rulings';
import { useActions } from '../../state/context';
import { Field } from '../../ui/field';
import { Card, Column, Row } from '../../ui/frame';
import { Choice, Button } from '../../ui/buttons';
import { Sheet } from '../../ui/sheet';
import { Figures, Heading, Words } from '../../ui/words';
import { useWide } from '../../theme';
import { PeopleGrid } from './people-grid';
import { Outside } from './people-outside';
import { TRAINED_FOR, trainingWords } from '../../ui/training-words';
import { ROLE_WORDS } from './people-words';
import { TrailCard } from './trail-card';

type Do = (work: () => Promise<unknown>) => Promise<void>;

/** Said once; whoever it is for chooses their own with it. */
function Told({ name, passphrase }: { name: string; passphrase: string }) {
  return (
    <View role="alert" style={{ gap: 4 }}>
      <Words bold>{`Passphrase of ${name}, shown only now:`}</Words>
      <Figures size={22} bold testID="told">
        {passphrase}
      </Figures>
      <Words size={15}>Tell them in person; it is good once, to choose their own.</Words>
    </View>
  );
}

function Trainings({ person, run }: { person: PersonDetail; run: Do }) {
  const [until, setUntil] = useState('');
  const [kind, setKind] = useState<(typeof TRAININGS)[number]>('assess');
  const today = localDay(useZone(), new Date());
  const good = /^\d{4}-\d\d-\d\d$/.test(until.trim());
  const put = (k: typeof kind, day: string | null) =>
    run(() => api('PUT', `/people/${person.id}/trainings`, { kind: k, until: day }));
  return (
    <>
      <Words bold>Trained for</Words>
      {(person.trainings ?? []).map((t) => (
        <Row key={t.kind} style={{ justifyContent: 'space-between' }}>
          <Words style={{ flex: 1 }}>{trainingWords(t, today)}</Words>
          <Button label="End it" hint={TRAINED_FOR[t.kind]} onPress={() => put(t.kind, null)} />
        </Row>
      ))}
      <Choice label="Training" options={TRAININGS} words={TRAINED_FOR} value={kind} onChange={setKind} />
      <Field label="Good until, as 2027-03-31" value={until} onChange={setUntil} testID="training-until" />
      <Button label="Keep the training" disabled={!good} onPress={() => put(kind, until.trim())} testID="keep-training" />
      <Words size={14} soft>
        Refreshers, from memory: air within 24 months, United States within 3 years. Check the current rules.
      </Words>
    </>
  );
}

function PersonSheet({
  person,
  told,
  run,
  onReset,
  onClose,
}: {
  person: PersonDetail;
  told: string | null;
  run: Do;
  onReset: () => void;
  onClose: () => void;
}) {
  const change = (body: object) => void run(() => api('PATCH', `/people/${person.id}`, body));
  return (
    <Sheet title={person.name} onClose={onClose}>
      {told ? <Told name={person.name} passphrase={told} /> : null}
      {person.role === 'outside' ? null : (
        <Choice label="Role" options={ROLES} value={person.role} onChange={(role) => change({ role })} height={52} />
      )}
      <Words size={15}>{ROLE_WORDS[person.role]}</Words>
      <Trainings person={person} run={run} />
      <Row>
        {person.role === 'outside' ? null : <Button label="New passphrase" onPress={onReset} testID="reset-person" />}
        <Button
          label={person.disabled ? 'Let in again' : person.role === 'outside' ? 'Signs no longer' : 'Let in no longer'}
          onPress={() => change({ disabled: !person.disabled })}
          testID="disable-person"
        />
      </Row>
    </Sheet>
  );
}

/** What each role may do. */
function RolesCard() {
  return (
    <Card title="What each may do">
      {([...ROLES, 'outside'] as const).map((r) => (
        <Words key={r}>
          <Words bold>{r}</Words>
          {`: ${ROLE_WORDS[r]}`}
        </Words>
      ))}
    </Card>
  );
}

/** Who belongs to the workshop, for whoever may change nothing of it. */
function Everybody() {
  const people = useAppSelector((s) => s.session.session?.people ?? []);
  const today = localDay(useZone(), new Date());
  return (
    <Column style={{ width: '100%', maxWidth: 760, alignSelf: 'center' }}>
      <Heading level={1} size={26}>
        People
      </Heading>
      <Card title="In this workshop" testID="card-people">
        {people.map((p) => (
          <Words key={p.id}>
            <Words bold>{p.name}</Words>
            {`, ${[p.role, ...(p.trainings ?? []).map((t) => trainingWords(t, today))].join(', ')}`}
          </Words>
        ))}
        <Words soft>A lead invites people, changes roles and trainings.</Words>
      </Card>
      <RolesCard />
    </Column>
  );
}

/** People as each may see them: a lead changes who is let in and as what, everybody else reads. */
export function People() {
  const lead = useAppSelector((s) => s.session.session?.person.role === 'lead');
  return lead ? <PeopleOfLead /> : <Everybody />;
}

/** Everybody of the workshop, what each may do, and who is let in. */
function PeopleOfLead() {
  const actions = useActions();
  const [all, setAll] = useState<readonly PersonDetail[] | null>(null);
  const [open, setOpen] = useState<string | null>(null);
  const [name, setName] = useState('');
  const [role, setRole] = useState<Role>('technician');
  const [told, setTold] = useState<Invited | null>(null);
  const [trouble, setTrouble] = useState('');
  const read = async () => setAll(await api<PersonDetail[]>('GET', '/people'));
  const run: Do = async (work) => {
    setTrouble('');
    try {
      await work();
      await read();
      await actions.refreshSession();
    } catch (e) {
      setTrouble(errorMessage(e));
    }
  };
  const [asked, setAsked] = useState(false);
  useEffect(() => void run(() => Promise.resolve()).then(() => setAsked(true)), []);
  const wide = useWide();
  const today = localDay(useZone(), new Date());
  const person = all?.find((p) => p.id === open);
  const title = (
    <Heading level={1} size={26}>
      People
    </Heading>
  );
  // Nothing stands below the list before it was asked for: it would move away under the finger.
  if (!asked) return title;
  return (
    <Column style={{ width: '100%', maxWidth: wide ? 1180 : 760, alignSelf: 'center' }}>
      {title}
      {trouble ? (
        <View role="alert">
          <Words bold>{trouble}</Words>
        </View>
      ) : null}
      <Card title="In this workshop" testID="card-people">
        {wide && all ? <PeopleGrid all={all} today={today} onOpen={(p) => setOpen(p.id)} /> : null}
        {(wide ? [] : (all ?? [])).map((p) => (
          <Button key={p.id} label={p.name} height={60} onPress={() => setOpen(p.id)} testID={`person-${p.name.split(' ')[0]}`}>
            <View style={{ width: '100%', flexDirection: 'row', justifyContent: 'space-between', gap: 8 }}>
              <Words bold>{p.name}</Words>
              <Words soft>
                {[
                  p.role,
                  p.competent && 'assesses',
                  p.pin && 'PIN',
                  p.disabled && (p.role === 'outside' ? 'signs no longer' : 'not let in'),
                ]
                  .filter(Boolean)
                  .join(', ')}
              </Words>
            </View>
          </Button>
        ))}
      </Card>
      <Card title="Invite somebody" testID="card-invite">
        <Field label="Name" value={name} onChange={setName} testID="invite-name" />
        <Choice label="Role" options={ROLES} value={role} onChange={setRole} height={52} />
        <Button
          label="Invite"
          tone="next"
          height={56}
          disabled={name.trim() === ''}
          onPress={() =>
            run(async () => {
              setTold(await api<Invited>('POST', '/people', { name: name.trim(), role }));
              setName('');
            })
          }
          testID="invite"
        />
        {told && open === null ? (
          <Told name={all?.find((p) => p.id === told.id)?.name ?? 'the new person'} passphrase={told.passphrase} />
        ) : null}
      </Card>
      <Outside all={all ?? []} run={run} />
      <RolesCard />
      {all ? <TrailCard all={all} /> : null}
      {person ? (
        <PersonSheet
          person={person}
          told={told?.id === person.id ? told.passphrase : null}
          run={run}
          onReset={() => void run(async () => setTold(await api<Invited>('POST', `/people/${person.id}/reset`)))}
          onClose={() => setOpen(null)}
        />
      ) : null}
    </Column>
  );
}
