import { router } from 'expo-router';
import { useMemo } from 'react';
import { View } from 'react-native';
import { Button } from '../../ui/buttons';
import { Column } from '../../ui/frame';
import { Words } from '../../ui/words';
import { PracticeBand } from './band';
import { PackSession } from './pack-session';
import { scenarioOf } from './record';
import { StagedSession } from './staged-session';
import { useRecord } from './use-record';

/** One scenario, from its story to the look back. @param id of the scenario, or "endless-" "machine-", "shipment-" or "place-" and a seed. */
export function PracticeSession({ id }: { id: string }) {
  const [record] = useRecord();
  const own = record?.own;
  const scenario = useMemo(() => scenarioOf(id, own), [id, own]);
  // Whether somebody else's is here is known once the record is read.
  if (!record && !scenario) return null;
  return (
    <View style={{ flex: 1 }}>
      <PracticeBand />
      {scenario === null ? (
        <Column>
          <Words>No scenario is called that.</Words>
          <Button label="All of practice" tone="next" height={64} onPress={() => router.replace('/practice')} />
        </Column>
      ) : 'faults' in scenario ? (
        <PackSession scenario={scenario} />
      ) : (
        <StagedSession scenario={scenario} />
      )}
    </View>
  );
}
