import {
  actStaged,
  betStaged,
  courseOf,
  mayDoStaged,
  rulingOn,
  type StagedDebrief,
  stagedActions,
  stagedDebrief,
  stagedHarms,
  stagedMinutes,
  stagedOver,
  type StagedScenario,
  type StagedSession as Session,
  writeStaged,
} from '@gavrel/core/practice';
import { useCallback, useMemo, useRef } from 'react';
import { View } from 'react-native';
import { Card } from '../../ui/frame';
import { Figures, Words } from '../../ui/words';
import { ActionsCard, FoundLines } from './actions-card';
import { BetCard } from './bet-card';
import { HarmList } from './debrief-card';
import { GoOn } from './go-on';
import { MachineDrawing } from './machine-drawing';
import { MachineStations } from './machine-stations';
import { endOfStaged } from './record';
import { Sides } from './sides';
import { usePlayed } from './use-played';
import { durationWords, stagedBetWords } from './words';
import { WriterChoice } from './writer-choice';
import { WritingLines } from './writing-lines';

/** What was found by each thing that was done. */
const foundBy = ({ course, actions }: Session): ReadonlyMap<string, readonly string[]> =>
  new Map(actions.map((a, i) => [a, course.shows(a, actions.slice(0, i))]));

const harmLines = ({ course }: Session, harm: StagedDebrief['harm']) =>
  harm.map((h) => ({ ...h, words: course.actions[h.action]!.words }));

/** The ruling; its reasons and steps come with the look back, they would give away what is to be done. */
function RulingCard({ session, whole }: { session: Session; whole: boolean }) {
  const { word, reasons } = rulingOn(session);
  return (
    <Card title="The ruling">
      <Words bold size={22} testID="practice-ruling">
        {word}
      </Words>
      {(whole ? reasons : []).map((r) => (
        <Words key={r}>{r}</Words>
      ))}
    </Card>
  );
}

/** As it stands within a sentence: marks keep their capitals. */
const within = (words: string): string => `${words[0]!.toLowerCase()}${words.slice(1)}`;

/** The look back: truth against record, what broke, and the way through it. */
function LookBack({ session, debrief: d }: { session: Session; debrief: StagedDebrief }) {
  return (
    <Card title={d.full ? 'All right' : 'Looking back'} testID="debrief">
      <HarmList harm={harmLines(session, d.harm)} />
      <Words bold testID="truth">
        {d.truth.length > 0 ? `In truth: ${d.truth.join(', ')}.` : 'In truth nothing was odd about it.'}
      </Words>
      <Words>{stagedBetWords(session.bet, d.ruled)}</Words>
      {d.ruled === d.settled ? null : (
        <Words testID="found">{`Your record says “${d.ruled}”; with everything asked and done it says “${d.settled}”.`}</Words>
      )}
      <WritingLines writing={d.writing} />
      {d.slips.map((s) => (
        <Words key={s} bold>{`${s[0]!.toUpperCase()}${s.slice(1)}.`}</Words>
      ))}
      {d.full ? null : (
        <Words testID="way">{`The way: ${d.way.map((a) => within(session.course.actions[a]!.words)).join(' · ')}.`}</Words>
      )}
      <Words soft size={15}>
        {`You took ${durationWords(d.minutes)}. Actions and their minutes are common practice, no source: on a real one the maker’s instructions, the rules in force and whoever is trained come first.`}
      </Words>
    </Card>
  );
}

/** What was done, in order, with what it showed. */
function RecordCard({ session }: { session: Session }) {
  const found = foundBy(session);
  return (
    <Card
      title={session.own ? 'What was there' : 'Record'}
      right={<Figures>{durationWords(stagedMinutes(session))}</Figures>}
      testID="practice-record"
    >
      {session.actions.length === 0 ? <Words soft>Nothing was done.</Words> : null}
      {session.actions.map((a) => (
        <View key={a}>
          <Words bold size={15}>
            {session.course.actions[a]!.words}
          </Words>
          <FoundLines lines={found.get(a)!} />
        </View>
      ))}
    </Card>
  );
}

/** What there is to do now. */
function Doings({ session, onAct }: { session: Session; onAct: (id: string) => void }) {
  const { course, actions, bet } = session;
  const found = foundBy(session);
  const before = useRef(actions.length);
  const last = actions.length > before.current ? actions[actions.length - 1] : undefined;
  return (
    <ActionsCard
      title={bet ? course.title : undefined}
      minutes={stagedMinutes(session)}
      all={stagedActions(session).map((a) => ({
        id: a,
        ...course.actions[a]!,
        found: found.get(a) ?? null,
        may: mayDoStaged(session, a),
      }))}
      last={last}
      onAct={onAct}
    />
  );
}

/** A machine or a parcel: what is found out, the ruling, and where it lets that go on, what is done then. */
export function StagedSession({ scenario }: { scenario: StagedScenario }) {
  const course = useMemo(() => courseOf(scenario), [scenario]);
  const of = useCallback((played: Omit<Session, 'course'>): Session => ({ course, ...played }), [course]);
  const endOf = (s: Session) => (stagedOver(s) ? endOfStaged(scenario.id, s, stagedDebrief(s)) : null);
  const { session, record, to, choose, again } = usePlayed<Session>(scenario.id, course.byHand !== undefined, of, endOf);
  const { actions, bet, own } = session;
  const d = useMemo(() => (stagedOver(session) ? stagedDebrief(session) : null), [session]);
  const untouched = actions.length === 0 && (own ?? []).length === 0;
  return (
    <Sides
      title={scenario.title}
      ended={d !== null}
      parted={own !== undefined && bet === null}
      left={
        <>
          <Words size={17} testID="story">
            {scenario.story}
          </Words>
          {'machine' in scenario ? (
            <MachineDrawing
              machine={scenario.machine}
              seen={d ? { hands: true, eyes: true } : { hands: actions.includes('hands'), eyes: actions.includes('eyes') }}
            />
          ) : null}
          {d ? null : <HarmList harm={harmLines(session, stagedHarms(session))} />}
          {!d && untouched && course.byHand ? <WriterChoice byHand={own !== undefined} onChoose={choose} /> : null}
          {d ? null : <Doings session={session} onAct={(id) => to((s) => actStaged(s, id))} />}
        </>
      }
      right={
        d ? (
          <>
            <LookBack session={session} debrief={d} />
            <RulingCard session={session} whole />
            <GoOn id={scenario.id} record={record} onAgain={again} />
            <RecordCard session={session} />
          </>
        ) : bet ? (
          <RulingCard session={session} whole={false} />
        ) : (
          <>
            {own ? <MachineStations session={session} onOwn={(e) => to((s) => writeStaged(s, e))} /> : null}
            <BetCard options={course.words} onBet={(word, sure) => to((s) => betStaged(s, word, sure))} />
          </>
        )
      }
    />
  );
}
