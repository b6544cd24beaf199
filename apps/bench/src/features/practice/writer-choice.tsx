import { Choice } from '../../ui/buttons';
import { Card } from '../../ui/frame';

const WRITERS = ['bench', 'hand'] as const;

/** Who writes down what is found; said before anything is done. */
export function WriterChoice({ byHand, onChoose }: { byHand: boolean; onChoose: (byHand: boolean) => void }) {
  return (
    <Card title="Who writes it down?">
      <Choice
        label="Who writes it down"
        options={WRITERS}
        words={{ bench: 'The bench', hand: 'I do, at the stations' }}
        value={byHand ? 'hand' : 'bench'}
        onChange={(w) => onChoose(w === 'hand')}
        height={56}
      />
    </Card>
  );
}
