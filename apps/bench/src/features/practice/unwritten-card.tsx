import { DIFFICULTIES, type Difficulty, endless, endlessMachine, endlessShipment, endlessStore } from '@gavrel/core/practice';
import { Button } from '../../ui/buttons';
import { Card, Row } from '../../ui/frame';
import { seedOf } from './record';
import { openScenario } from './scenario-row';

/** Where what is wrong is found. */
const DIFFICULTY_WORDS: Readonly<Record<Difficulty, string>> = {
  plain: 'to be seen',
  measured: 'to be measured',
  subtle: 'well hidden',
};

/** A pack by how well hidden it is what is wrong with it, a machine, a parcel or a place: another one each time. */
export function UnwrittenCard() {
  return (
    <Card title="One nobody wrote a story for">
      <Row>
        {DIFFICULTIES.map((d) => (
          <Button
            key={d}
            label={`a pack, ${DIFFICULTY_WORDS[d]}`}
            height={56}
            onPress={() => openScenario(endless(seedOf(new Date()), d))}
            testID={`practice-${d}`}
          />
        ))}
        <Button
          label="a closed machine"
          height={56}
          onPress={() => openScenario(endlessMachine(seedOf(new Date())))}
          testID="practice-machine"
        />
        <Button
          label="a parcel"
          height={56}
          onPress={() => openScenario(endlessShipment(seedOf(new Date())))}
          testID="practice-parcel"
        />
        <Button
          label="a place for a pack"
          height={56}
          onPress={() => openScenario(endlessStore(seedOf(new Date())))}
          testID="practice-place"
        />
      </Row>
    </Card>
  );
}
