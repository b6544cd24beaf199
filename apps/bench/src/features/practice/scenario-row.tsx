import type { Scenario, StagedScenario } from '@gavrel/core/practice';
import { router } from 'expo-router';
import { Pressable } from 'react-native';
import { SPACE, useTokens } from '../../theme';
import { Words } from '../../ui/words';
import { lastOf, type PracticeRecord } from './record';
import { playedWords } from './words';

export const openScenario = (s: Pick<Scenario, 'id'>) => router.push(`/practice/${s.id}`);

/** A scenario, how it went last, and whether it comes back. */
export function ScenarioRow({ scenario, record }: { scenario: Scenario | StagedScenario; record: PracticeRecord }) {
  const t = useTokens();
  const last = lastOf(record, scenario.id);
  const due = record.cards[scenario.id] && Date.parse(record.cards[scenario.id]!.due) <= Date.now();
  const how = `${playedWords(last)}${due ? ', due again' : ''}`;
  return (
    <Pressable
      role="button"
      onPress={() => openScenario(scenario)}
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
