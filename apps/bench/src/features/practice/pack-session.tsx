import { CONDITIONS, type LoggedEntry } from '@gavrel/core';
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
import { useMemo, useRef } from 'react';
import { View } from 'react-native';
import { useDraft } from '../../state/use-draft';
import { Card } from '../../ui/frame';
import { RulingStrip } from '../../ui/ruling-strip';
import { entryWords } from '../../ui/say';
import { Figures, Heading, Words } from '../../ui/words';
import { ActionsCard, FoundLines } from './actions-card';
import { BetCard } from './bet-card';
import { DebriefCard, HarmList } from './debrief-card';
import { GoOn } from './go-on';
import { endOfPack, type PracticeRecord, withSession } from './record';
import { Sides } from './sides';
import { useRecord } from './use-record';
import { durationWords } from './words';

const ALL = Object.keys(ACTIONS) as Action[];

/** What was found, as the slip of a real pack would tell it. */
const linesOf = (entries: readonly LoggedEntry[]): string[] => entries.map((e) => entryWords(e, entries));

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
          <FoundLines lines={linesOf(entries)} />
        </View>
      ))}
    </Card>
  );
}

function Doings({ session, onAct }: { session: Session; onAct: (a: Action) => void }) {
  const found = useMemo(() => new Map(foundBy(session).map((w) => [w.action, linesOf(w.entries)])), [session]);
  const before = useRef(session.actions.length);
  const last = session.actions.length > before.current ? session.actions[session.actions.length - 1] : undefined;
  return (
    <ActionsCard
      minutes={minutesOf(session.actions)}
      all={ALL.map((a) => ({ id: a, ...ACTIONS[a], found: found.get(a) ?? null, may: mayDo(session, a) }))}
      last={last}
      onAct={(id) => onAct(id as Action)}
    />
  );
}

/** After the end: the ruling, the look back, and on to the next. */
function EndPart({ session, record, onAgain }: { session: Session; record: PracticeRecord | null; onAgain: () => void }) {
  const d = useMemo(() => debrief(session), [session]);
  return (
    <>
      <RulingStrip ruling={rulingOf(session)} tag="PRACTICE" />
      <DebriefCard session={session} debrief={d} />
      <GoOn id={session.scenario.id} record={record} onAgain={onAgain} />
      <RecordCard session={session} />
    </>
  );
}

/** A session as it is kept on the device. */
interface Kept extends Pick<Session, 'actions' | 'bet'> {
  readonly scenario: string;
  readonly begun: string;
}

/** One pack, from its story to the look back. */
export function PackSession({ scenario }: { scenario: Scenario }) {
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
      change((r) => withSession(r, endOfPack(next, debrief(next)), mine.begun, new Date()));
  };
  return (
    <Sides
      ended={ended}
      left={
        <>
          <Heading level={1} size={26}>
            {scenario.title}
          </Heading>
          <Words size={17} testID="story">
            {scenario.story}
          </Words>
          {ended ? null : <HarmList harm={harm.map((h) => ({ ...h, words: ACTIONS[h.action].words }))} />}
          {ended || isOver(session) ? null : <Doings session={session} onAct={(a) => to(act(session, a))} />}
        </>
      }
      right={
        ended ? (
          <EndPart session={session} record={record} onAgain={() => setKept(null)} />
        ) : (
          <BetCard options={CONDITIONS} onBet={(condition, sure) => to(placeBet(session, { condition, sure }))} />
        )
      }
    />
  );
}
