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
  type OwnEntry,
  placeBet,
  recordOf,
  rulingOf,
  type Scenario,
  type Session,
  writeOwn,
} from '@gavrel/core/practice';
import { useCallback, useMemo, useRef } from 'react';
import { View } from 'react-native';
import { Card } from '../../ui/frame';
import { RulingStrip } from '../../ui/ruling-strip';
import { entryWords } from '../../ui/say';
import { Figures, Words } from '../../ui/words';
import { ActionsCard, FoundLines } from './actions-card';
import { BetCard } from './bet-card';
import { DebriefCard, HarmList } from './debrief-card';
import { GoOn } from './go-on';
import { endOfPack, type PracticeRecord } from './record';
import { shownWords } from './shown';
import { Sides } from './sides';
import { Stations } from './stations';
import { WriterChoice } from './writer-choice';
import { usePlayed } from './use-played';
import { durationWords } from './words';

const ALL = Object.keys(ACTIONS) as Action[];

/** What was found, as the slip of a real pack would tell it. */
const linesOf = (entries: readonly LoggedEntry[]): string[] => entries.map((e) => entryWords(e, entries));

/** What was done, in order, with what it found. */
function RecordCard({ session }: { session: Session }) {
  const written = useMemo(() => foundBy(session), [session]);
  return (
    <Card
      title={session.own ? 'What was there' : 'Record'}
      right={<Figures>{durationWords(minutesOf(session.actions))}</Figures>}
      testID="practice-record"
    >
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

/** What there is to do. Who writes by hand is told what the instruments show; else it stands there as it goes on record. */
function Doings({ session, onAct }: { session: Session; onAct: (a: Action) => void }) {
  const found = useMemo(
    () =>
      new Map(foundBy(session).map((w) => [w.action, session.own ? w.entries.flatMap(shownWords) : linesOf(w.entries)] as const)),
    [session],
  );
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

/** What the learner wrote, as it stands on record. */
function WrittenCard({ session }: { session: Session }) {
  const lines = useMemo(() => linesOf(recordOf(session).entries.slice(1)), [session]);
  return (
    <Card title="What you wrote" testID="practice-written">
      {lines.length === 0 ? <Words soft>Nothing.</Words> : <FoundLines lines={lines} />}
    </Card>
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
      {session.own ? <WrittenCard session={session} /> : null}
    </>
  );
}

const endOf = (s: Session) => (s.bet !== null || harmsOf(s).some((h) => h.ends) ? endOfPack(s, debrief(s)) : null);

/** One pack, from its story to the look back. */
export function PackSession({ scenario }: { scenario: Scenario }) {
  const of = useCallback((played: Omit<Session, 'scenario'>): Session => ({ scenario, ...played }), [scenario]);
  const { session, record, to, choose, again } = usePlayed<Session>(scenario.id, true, of, endOf);
  const harm = harmsOf(session);
  const ended = harm.some((h) => h.ends) || session.bet !== null;
  const open = !ended && !isOver(session);
  const untouched = session.actions.length === 0 && (session.own ?? []).length === 0;
  const write = (e: Omit<OwnEntry, 'after'>) => to((s) => writeOwn(s, e));
  const stations = open && session.own ? <Stations session={session} onOwn={write} /> : null;
  return (
    <Sides
      title={scenario.title}
      ended={ended}
      parted={session.own !== undefined}
      left={
        <>
          <Words size={17} testID="story">
            {scenario.story}
          </Words>
          {ended ? null : <HarmList harm={harm.map((h) => ({ ...h, words: ACTIONS[h.action].words }))} />}
          {open && untouched ? <WriterChoice byHand={session.own !== undefined} onChoose={choose} /> : null}
          {open ? <Doings session={session} onAct={(a) => to((s) => act(s, a))} /> : null}
        </>
      }
      right={
        ended ? (
          <EndPart session={session} record={record} onAgain={again} />
        ) : (
          <>
            {stations}
            <BetCard options={CONDITIONS} onBet={(condition, sure) => to((s) => placeBet(s, { condition, sure }))} />
          </>
        )
      }
    />
  );
}
