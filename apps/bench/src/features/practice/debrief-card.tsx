import { ACTIONS, type Debrief, type Session } from '@gavrel/core/practice';
import { View } from 'react-native';
import { SPACE, useTokens } from '../../theme';
import { Card } from '../../ui/frame';
import { Words } from '../../ui/words';
import { durationWords, wayWords } from './words';
import { WritingLines } from './writing-lines';

/** What was unsafe: loud, and before anything else. */
export function HarmList({
  harm,
}: {
  harm: readonly { readonly action: string; readonly words: string; readonly why: string }[];
}) {
  const t = useTokens();
  return (
    <>
      {harm.map((h) => (
        <View key={h.action} role="alert" style={{ backgroundColor: t.critical, padding: SPACE }} testID={`harm-${h.action}`}>
          <Words bold color={t.onCritical}>{`Unsafe: ${h.words}`}</Words>
          <Words color={t.onCritical}>{h.why}</Words>
        </View>
      ))}
    </>
  );
}

const betWords = ({ bet }: Session, d: Debrief): string =>
  bet === null
    ? 'No bet was placed.'
    : bet.condition === d.ruled
      ? `You said ${bet.condition}, ${Math.round(bet.sure * 100)} % sure: so it came.`
      : `You said ${bet.condition}, ${Math.round(bet.sure * 100)} % sure: it is ${d.ruled}.`;

/** The look back: truth against record, what was missed, and the quickest ways. */
export function DebriefCard({ session, debrief: d }: { session: Session; debrief: Debrief }) {
  return (
    <Card title={d.full ? 'All right' : 'Looking back'} testID="debrief">
      <HarmList harm={d.harm.map((h) => ({ ...h, words: ACTIONS[h.action].words }))} />
      <Words bold testID="truth">
        {d.truth.length > 0 ? `In truth ${d.truth.join(', and ')}.` : 'In truth nothing is wrong with it.'}
      </Words>
      <Words>{betWords(session, d)}</Words>
      <Words testID="found">
        {d.found
          ? 'Your record says what all of it together would say.'
          : `Your record says ${d.ruled}; all of it together says ${d.settled}.`}
      </Words>
      <WritingLines writing={d.writing} />
      {d.before ? (
        <Words bold>{`“${ACTIONS[d.before].words}” came before looking: who looks first stays out of reach.`}</Words>
      ) : null}
      {d.missed.length > 0 ? (
        <Words>{`Missing: ${d.missed.map((a) => ACTIONS[a].words.toLowerCase()).join(', or ')}.`}</Words>
      ) : null}
      {d.ways.map((w, i) => (
        <Words key={w.acts.join()}>{`${i === 0 ? 'Quickest' : 'Or'}: ${wayWords(w)}.`}</Words>
      ))}
      <Words
        soft
        size={15}
      >{`You took ${durationWords(d.minutes)}. Actions and their minutes are common practice, no source.`}</Words>
    </Card>
  );
}
