import { useState } from 'react';
import { View } from 'react-native';
import { chooseFile, saveFile } from '../../device/picture';
import { loadSchemas, schemasHere } from '../../state/schemas';
import { Button } from '../../ui/buttons';
import { Card, Row } from '../../ui/frame';
import { Figures, Words } from '../../ui/words';
import { exampleFile, readScenarios, withoutOwn, withOwn } from './own';
import type { PracticeRecord } from './record';
import { ScenarioRow } from './scenario-row';

/** Bytes of a file that is opened. */
const MOST_BYTES = 500_000;
/** Errors that are shown: what is wrong with the first is mostly wrong with all. */
const SHOWN = 8;

/** Scenarios that somebody else wrote, on this device. */
export function OwnCard({
  record,
  change,
}: {
  record: PracticeRecord;
  change: (by: (r: PracticeRecord) => PracticeRecord) => void;
}) {
  const [errors, setErrors] = useState<readonly string[]>([]);
  const [came, setCame] = useState('');
  const own = record.own ?? [];
  const take = async () => {
    setErrors([]);
    setCame('');
    const file = await chooseFile('application/json,.json');
    if (!file) return;
    if (file.size > MOST_BYTES) return setErrors([`This file is over ${MOST_BYTES / 1000} kB: nothing of it was taken.`]);
    await loadSchemas();
    const checks = schemasHere();
    if (!checks) return setErrors(['What checks the file is not on this device yet: open it once with the server.']);
    const read = readScenarios(await file.text(), checks);
    setErrors(read.errors);
    if (read.errors.length > 0) return;
    change((r) => withOwn(r, read.scenarios));
    setCame(`${read.scenarios.length} taken: ${read.scenarios.map((s) => s.title).join(', ')}.`);
  };
  return (
    <Card title="Written by others" right={<Figures>{own.length}</Figures>} testID="practice-own">
      {own.map((s) => (
        <View key={s.id} style={{ flexDirection: 'row', alignItems: 'center' }}>
          <View style={{ flex: 1 }}>
            <ScenarioRow scenario={s} record={record} />
          </View>
          <Button label="Remove" hint={s.title} tone="quiet" onPress={() => change((r) => withoutOwn(r, s.id))} />
        </View>
      ))}
      <Row>
        <Button label="Open a file" hint="scenarios" height={56} onPress={() => take()} testID="own-open" />
        <Button
          label="An example"
          hint="of such a file"
          tone="quiet"
          height={56}
          onPress={() => saveFile('scenario.json', new Blob([exampleFile()], { type: 'application/json' }))}
        />
      </Row>
      {errors.length > 0 ? <Words bold live testID="own-wrong">{`Nothing was taken. ${errors.length} wrong:`}</Words> : null}
      {errors.slice(0, SHOWN).map((e) => (
        <Words key={e} size={15}>{`— ${e}`}</Words>
      ))}
      {errors.length > SHOWN ? <Words size={15}>{`and ${errors.length - SHOWN} more`}</Words> : null}
      {came ? (
        <Words bold live>
          {came}
        </Words>
      ) : null}
    </Card>
  );
}
