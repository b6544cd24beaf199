import {
  actMachine,
  betMachine,
  MACHINE_ACTIONS,
  type MachineAction,
  machineActions,
  machineDebrief,
  type MachineDebrief,
  machineHarms,
  machineMinutes,
  machineOver,
  type MachineScenario,
  type MachineSession as Session,
  mayDoMachine,
  OPENING_WORDS,
  openingRuling,
  shows,
} from '@gavrel/core/practice';
import { useMemo, useRef } from 'react';
import { View } from 'react-native';
import { useDraft } from '../../state/use-draft';
import { Card } from '../../ui/frame';
import { Figures, Heading, Words } from '../../ui/words';
import { ActionsCard, FoundLines } from './actions-card';
import { BetCard } from './bet-card';
import { HarmList } from './debrief-card';
import { GoOn } from './go-on';
import { endOfMachine, withSession } from './record';
import { Sides } from './sides';
import { useRecord } from './use-record';
import { durationWords, openingBetWords } from './words';

/** What was found by each thing that was done. */
const foundBy = ({ scenario, actions }: Session): ReadonlyMap<MachineAction, readonly string[]> =>
  new Map(actions.map((a, i) => [a, shows(scenario.machine, a, actions.slice(0, i))]));

/** The ruling on opening, with its reasons, as a job shows it. */
function RulingCard({ session }: { session: Session }) {
  const { word, reasons } = openingRuling(session);
  return (
    <Card title="The ruling">
      <Words bold size={22} testID="opening-word">
        {word}
      </Words>
      {reasons.map((r) => (
        <Words key={r}>{r}</Words>
      ))}
    </Card>
  );
}

/** The look back: truth against record, what broke, and the way through it. */
function LookBack({ session, debrief: d }: { session: Session; debrief: MachineDebrief }) {
  return (
    <Card title={d.full ? 'All right' : 'Looking back'} testID="debrief">
      <HarmList harm={d.harm.map((h) => ({ ...h, words: MACHINE_ACTIONS[h.action].words }))} />
      <Words bold testID="truth">
        {d.truth.length > 0 ? `In truth ${d.truth.join(', and ')}.` : 'In truth nothing was odd about it.'}
      </Words>
      <Words>{openingBetWords(session.bet, d.ruled)}</Words>
      {d.ruled === d.settled ? null : (
        <Words testID="found">{`Your record says “${d.ruled}”; with everything asked and done it says “${d.settled}”.`}</Words>
      )}
      {d.slips.map((s) => (
        <Words key={s} bold>{`${s[0]!.toUpperCase()}${s.slice(1)}.`}</Words>
      ))}
      {d.full ? null : (
        <Words testID="way">{`The way: ${d.way.map((a) => MACHINE_ACTIONS[a].words.toLowerCase()).join(' · ')}.`}</Words>
      )}
      <Words soft size={15}>
        {`You took ${durationWords(d.minutes)}. Actions and their minutes are common practice, no source: on a real machine the maker’s instructions and whoever is trained come first.`}
      </Words>
    </Card>
  );
}

/** What was done, in order, with what it showed. */
function RecordCard({ session }: { session: Session }) {
  const found = foundBy(session);
  return (
    <Card title="Record" right={<Figures>{durationWords(machineMinutes(session.actions))}</Figures>} testID="practice-record">
      {session.actions.length === 0 ? <Words soft>Nothing was done.</Words> : null}
      {session.actions.map((a) => (
        <View key={a}>
          <Words bold size={15}>
            {MACHINE_ACTIONS[a].words}
          </Words>
          <FoundLines lines={found.get(a)!} />
        </View>
      ))}
    </Card>
  );
}

/** A session as it is kept on the device. */
interface Kept extends Pick<Session, 'actions' | 'bet'> {
  readonly scenario: string;
  readonly begun: string;
}

/** One machine: what is looked at and asked, the ruling on opening it, and where it opens, the way to the pack’s plug. */
export function MachineSession({ scenario }: { scenario: MachineScenario }) {
  const [kept, setKept] = useDraft<Kept | null>('practice', null);
  const mine =
    kept?.scenario === scenario.id ? kept : { scenario: scenario.id, begun: new Date().toISOString(), actions: [], bet: null };
  const session: Session = { scenario, actions: mine.actions, bet: mine.bet };
  const [record, change] = useRecord();
  const ended = machineOver(session);
  const d = useMemo(
    () => (ended ? machineDebrief({ scenario, actions: mine.actions, bet: mine.bet }) : null),
    [ended, scenario, mine.actions, mine.bet],
  );
  const to = (next: Session) => {
    setKept({ ...mine, actions: next.actions, bet: next.bet });
    if (machineOver(next)) change((r) => withSession(r, endOfMachine(next, machineDebrief(next)), mine.begun, new Date()));
  };
  const found = foundBy(session);
  const before = useRef(session.actions.length);
  const last = session.actions.length > before.current ? session.actions[session.actions.length - 1] : undefined;
  return (
    <Sides
      ended={d !== null}
      left={
        <>
          <Heading level={1} size={26}>
            {scenario.title}
          </Heading>
          <Words size={17} testID="story">
            {scenario.story}
          </Words>
          {d ? null : <HarmList harm={machineHarms(session).map((h) => ({ ...h, words: MACHINE_ACTIONS[h.action].words }))} />}
          {d ? null : (
            <ActionsCard
              title={session.bet ? 'It opens. What do you do?' : undefined}
              minutes={machineMinutes(session.actions)}
              all={machineActions(session).map((a) => ({
                id: a,
                ...MACHINE_ACTIONS[a],
                found: found.get(a) ?? null,
                may: mayDoMachine(session, a),
              }))}
              last={last}
              onAct={(id) => to(actMachine(session, id as MachineAction))}
            />
          )}
        </>
      }
      right={
        <>
          {session.bet ? <RulingCard session={session} /> : null}
          {d ? (
            <>
              {session.bet ? null : <RulingCard session={session} />}
              <LookBack session={session} debrief={d} />
              <GoOn id={scenario.id} record={record} onAgain={() => setKept(null)} />
              <RecordCard session={session} />
            </>
          ) : session.bet ? null : (
            <BetCard options={OPENING_WORDS} onBet={(word, sure) => to(betMachine(session, word, sure))} />
          )}
        </>
      }
    />
  );
}
