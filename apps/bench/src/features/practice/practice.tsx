import { DIFFICULTIES, type Difficulty, endless, GRADES, type Scenario, SCENARIOS } from '@gavrel/core/practice';
import { router } from 'expo-router';
import { Pressable, View } from 'react-native';
import { saveFile } from '../../device/picture';
import { SPACE, useTokens } from '../../theme';
import { Button } from '../../ui/buttons';
import { Card, Column, Row } from '../../ui/frame';
import { Figures, Heading, Words } from '../../ui/words';
import { PracticeBand } from './band';
import { calibrationOf, lastOf, nextScenario, practiceCsv, type PracticeRecord, seedOf } from './record';
import { useRecord } from './use-record';
import { calibrationWords, playedWords } from './words';

/** Where what is wrong is found. */
const DIFFICULTY_WORDS: Readonly<Record<Difficulty, string>> = {
  plain: 'to be seen',
  measured: 'to be measured',
  subtle: 'well hidden',
};

const open = (s: Scenario) => router.push(`/practice/${s.id}`);

function ScenarioRow({ scenario, record }: { scenario: Scenario; record: PracticeRecord }) {
  const t = useTokens();
  const last = lastOf(record, scenario.id);
  const due = record.cards[scenario.id] && Date.parse(record.cards[scenario.id]!.due) <= Date.now();
  const how = `${playedWords(last)}${due ? ', due again' : ''}`;
  return (
    <Pressable
      role="button"
      onPress={() => open(scenario)}
      testID={`scenario-${scenario.id}`}
      style={{
        minHeight: 56,
        flexDirection: 'row',
        alignItems: 'center',
        justifyContent: 'space-between',
        gap: SPACE,
        borderTopWidth: 1,
        borderColor: t.wash,
      }}
    >
      <Words bold style={{ flex: 1 }}>
        {scenario.title}
      </Words>
      <Words size={15} bold={last !== undefined && last.harm > 0} soft={last === undefined}>
        {how}
      </Words>
    </Pressable>
  );
}

/** What was practised, and what to practise next. */
export function Practice() {
  const [record] = useRecord();
  if (!record) return null;
  const next = nextScenario(record, new Date());
  const calibration = calibrationOf(record.played);
  const done = SCENARIOS.filter((s) => lastOf(record, s.id)?.full).length;
  return (
    <View style={{ flex: 1 }}>
      <PracticeBand />
      <Column>
        <Heading level={1} size={26}>
          Practice
        </Heading>
        <Words>Choose what to do, say what the ruling will be, and look back at what was true.</Words>
        <Button
          label={`${record.played.length === 0 ? 'Begin' : 'Go on'}: ${next.title}`}
          tone="next"
          height={64}
          onPress={() => open(next)}
          testID="practice-next"
        />
        <Card title="A pack nobody wrote a story for">
          <Row>
            {DIFFICULTIES.map((d) => (
              <Button
                key={d}
                label={DIFFICULTY_WORDS[d]}
                height={56}
                onPress={() => open(endless(seedOf(new Date()), d))}
                testID={`practice-${d}`}
              />
            ))}
          </Row>
        </Card>
        {calibration.length > 0 ? (
          <Card title="Your bets" testID="calibration">
            {calibration.map((c) => (
              <Words key={c.sure}>{calibrationWords(c)}</Words>
            ))}
          </Card>
        ) : null}
        <Words bold testID="practice-done">{`${done} of ${SCENARIOS.length} all right the last time`}</Words>
        {record.played.length > 0 ? (
          <Button
            label="Save my record as CSV"
            height={56}
            onPress={() => saveFile('practice.csv', new Blob([practiceCsv(record.played)], { type: 'text/csv' }))}
            testID="practice-csv"
          />
        ) : null}
        {GRADES.map((grade) => {
          const all = SCENARIOS.filter((s) => s.grade === grade);
          return (
            <Card key={grade} title={`${grade[0]!.toUpperCase()}${grade.slice(1)}`} right={<Figures>{all.length}</Figures>}>
              {all.map((s) => (
                <ScenarioRow key={s.id} scenario={s} record={record} />
              ))}
            </Card>
          );
        })}
      </Column>
    </View>
  );
}
