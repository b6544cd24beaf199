import { CONDITIONS, type Condition, type LoggedEntry } from '@gavrel/core';
import {
  act,
  type Action,
  ACTIONS,
  debrief,
  foundBy,
  harmsOf,
  isOver,
  mayDo,
  minutesOf,
  placeBet,
  rulingOf,
  type Scenario,
  type Session,
} from '@gavrel/core/practice';
import { router } from 'expo-router';
import { useEffect, useMemo, useRef, useState } from 'react';
import { View } from 'react-native';
import { useDraft } from '../../state/use-draft';
import { SPACE, useTokens, useWide } from '../../theme';
import { Button, Choice } from '../../ui/buttons';
import { Card, Column, Row } from '../../ui/frame';
import { RulingStrip } from '../../ui/ruling-strip';
import { entryWords } from '../../ui/say';
import { Figures, Heading, Words } from '../../ui/words';
import { PracticeBand } from './band';
import { DebriefCard, HarmList } from './debrief-card';
import { nextScenario, type PracticeRecord, scenarioOf, withSession } from './record';
import { useRecord } from './use-record';
import { durationWords } from './words';

const ALL = Object.keys(ACTIONS) as Action[];
const SURE = ['50', '70', '90', '99'] as const;

/** What was found, as the slip of a real pack would tell it. */
function FoundLines({ entries }: { entries: readonly LoggedEntry[] }) {
  return (
    <>
      {entries.map((e) => (
        <Words key={e.id} size={15}>
          {entryWords(e, entries)}
        </Words>
      ))}
    </>
  );
}

/** What was done, in order, with what it found. */
function RecordCard({ session }: { session: Session }) {
  const written = useMemo(() => foundBy(session), [session]);
  return (
    <Card title="Record" right={<Figures>{durationWords(minutesOf(session.actions))}</Figures>} testID="practice-record">
      {written.length === 0 ? <Words soft>Nothing was done.</Words> : null}
      {written.map(({ action, entries }) => (
        <View key={action}>
          <Words bold size={15}>
            {ACTIONS[action].words}
          </Words>
          <FoundLines entries={entries} />
        </View>
      ))}
    </Card>
  );
}

/** Something that was done, in the place of its key; the focus stays where the key was. */
function DoneRow({ action, entries, focused }: { action: Action; entries: readonly LoggedEntry[]; focused: boolean }) {
  const t = useTokens();
  const row = useRef<View>(null);
  useEffect(() => {
    if (focused) row.current?.focus();
  }, [focused]);
  return (
    <View
      ref={row}
      tabIndex={-1}
      testID={`done-${action.replace(/ /g, '-')}`}
      style={{ borderLeftWidth: 4, borderColor: t.ink, paddingLeft: SPACE, paddingVertical: 4, outlineWidth: 0 }}
    >
      <Words bold>{ACTIONS[action].words}</Words>
      <FoundLines entries={entries} />
    </View>
  );
}

/**
 * Everything that can be done, safe and unsafe side by side: nothing on the keys says which is which. What was found stands where the key
 * was that found it.
 */
function ActionsCard({ session, onAct }: { session: Session; onAct: (a: Action) => void }) {
  const found = useMemo(() => new Map(foundBy(session).map((w) => [w.action, w.entries])), [session]);
  const before = useRef(session.actions.length);
  const last = session.actions.length > before.current ? session.actions[session.actions.length - 1] : undefined;
  return (
    <Card title="What do you do?" right={<Figures>{durationWords(minutesOf(session.actions))}</Figures>} testID="actions">
      {ALL.map((a) => (
        <View key={a} aria-live="polite">
          {found.has(a) ? (
            <DoneRow action={a} entries={found.get(a)!} focused={a === last} />
          ) : (
            <Button
              label={ACTIONS[a].words}
              height={56}
              disabled={!mayDo(session, a)}
              onPress={() => onAct(a)}
              testID={`do-${a.replace(/ /g, '-')}`}
            >
              <View style={{ flexDirection: 'row', justifyContent: 'space-between', alignSelf: 'stretch', gap: SPACE }}>
                <Words bold style={{ flex: 1 }}>
                  {ACTIONS[a].words}
                </Words>
                <Figures size={15}>{durationWords(ACTIONS[a].minutes)}</Figures>
              </View>
            </Button>
          )}
        </View>
      ))}
    </Card>
  );
}

/** The bet, before the ruling is shown. */
function BetCard({ onBet }: { onBet: (condition: Condition, sure: number) => void }) {
  const [condition, setCondition] = useState<Condition | null>(null);
  const [sure, setSure] = useState<(typeof SURE)[number] | null>(null);
  const words = Object.fromEntries(SURE.map((s) => [s, `${s} %`]));
  return (
    <Card title="What will the ruling be?">
      <Choice label="The ruling" options={CONDITIONS} value={condition} onChange={setCondition} height={56} />
      <Words>How sure are you?</Words>
      <Choice label="How sure" options={SURE} value={sure} onChange={setSure} words={words} height={56} />
      <Button
        label="Show the ruling"
        tone="next"
        height={64}
        disabled={condition === null || sure === null}
        onPress={() => condition !== null && sure !== null && onBet(condition, Number(sure) / 100)}
        testID="practice-bet"
      />
    </Card>
  );
}

/** After the end: the ruling, the look back, and on to the next. */
function EndPart({ session, record, onAgain }: { session: Session; record: PracticeRecord | null; onAgain: () => void }) {
  const d = useMemo(() => debrief(session), [session]);
  const next = record ? nextScenario(record, new Date()) : null;
  return (
    <>
      <RulingStrip ruling={rulingOf(session)} tag="PRACTICE" />
      <DebriefCard session={session} debrief={d} />
      <Row>
        {next && next.id !== session.scenario.id ? (
          <Button
            label={`Next: ${next.title}`}
            tone="next"
            height={64}
            onPress={() => router.replace(`/practice/${next.id}`)}
            testID="practice-go-on"
          />
        ) : null}
        <Button label="Again" height={64} onPress={onAgain} testID="practice-again" />
        <Button
          label="All of practice"
          tone="quiet"
          height={64}
          onPress={() => router.replace('/practice')}
          testID="practice-all"
        />
      </Row>
    </>
  );
}

/** A session as it is kept on the device. */
interface Kept extends Pick<Session, 'actions' | 'bet'> {
  readonly scenario: string;
  readonly begun: string;
}

function Playing({ scenario }: { scenario: Scenario }) {
  const wide = useWide();
  // A session goes on after a reload; only what was done is kept, all else follows from it. The last one only: real work comes first.
  const [kept, setKept] = useDraft<Kept | null>('practice', null);
  const mine =
    kept?.scenario === scenario.id ? kept : { scenario: scenario.id, begun: new Date().toISOString(), actions: [], bet: null };
  const session: Session = { scenario, actions: mine.actions, bet: mine.bet };
  const [record, change] = useRecord();
  const harm = harmsOf(session);
  const hurt = harm.some((h) => h.ends);
  const ended = hurt || session.bet !== null;
  const to = (next: Session) => {
    setKept({ ...mine, actions: next.actions, bet: next.bet });
    if (next.bet !== null || harmsOf(next).some((h) => h.ends))
      change((r) => withSession(r, next, debrief(next), mine.begun, new Date()));
  };
  const left = (
    <>
      <Heading level={1} size={26}>
        {scenario.title}
      </Heading>
      <Words size={17} testID="story">
        {scenario.story}
      </Words>
      {ended ? null : <HarmList harm={harm} />}
      {ended || isOver(session) ? null : <ActionsCard session={session} onAct={(a) => to(act(session, a))} />}
    </>
  );
  const right = (
    <>
      {ended ? (
        <EndPart session={session} record={record} onAgain={() => setKept(null)} />
      ) : (
        <BetCard onBet={(condition, sure) => to(placeBet(session, { condition, sure }))} />
      )}
      {ended ? <RecordCard session={session} /> : null}
    </>
  );
  if (!wide || ended)
    return (
      <Column>
        {left}
        {right}
      </Column>
    );
  return (
    <View style={{ flex: 1, flexDirection: 'row' }}>
      <Column>{left}</Column>
      <Column>{right}</Column>
    </View>
  );
}

/** One scenario, from its story to the look back. @param id of the scenario, or "endless-" and a seed. */
export function PracticeSession({ id }: { id: string }) {
  const [record] = useRecord();
  const own = record?.own;
  const scenario = useMemo(() => scenarioOf(id, own), [id, own]);
  // Whether somebody else's is here is known once the record is read.
  if (!record && !scenario) return null;
  return (
    <View style={{ flex: 1 }}>
      <PracticeBand />
      {scenario ? (
        <Playing scenario={scenario} />
      ) : (
        <Column>
          <Words>No scenario is called that.</Words>
          <Button label="All of practice" tone="next" height={64} onPress={() => router.replace('/practice')} />
        </Column>
      )}
    </View>
  );
}
