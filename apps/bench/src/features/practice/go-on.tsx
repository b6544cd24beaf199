import { router } from 'expo-router';
import { Button } from '../../ui/buttons';
import { Row } from '../../ui/frame';
import { nextScenario, type PracticeRecord } from './record';

/** After the end: on to the next, again, or back to all of them. */
export function GoOn({ id, record, onAgain }: { id: string; record: PracticeRecord | null; onAgain: () => void }) {
  const next = record ? nextScenario(record, new Date()) : null;
  return (
    <Row>
      {next && next.id !== id ? (
        <Button
          label={`Next: ${next.title}`}
          tone="next"
          height={64}
          onPress={() => router.replace(`/practice/${next.id}`)}
          testID="practice-go-on"
        />
      ) : null}
      <Button label="Again" height={64} onPress={onAgain} testID="practice-again" />
      <Button
        label="All of practice"
        tone="quiet"
        height={64}
        onPress={() => router.replace('/practice')}
        testID="practice-all"
      />
    </Row>
  );
}
