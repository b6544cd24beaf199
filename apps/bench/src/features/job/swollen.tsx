import { findingOf } from '@gavrel/core';
import { useAppSelector } from '../../state';
import { Card } from '../../ui/frame';
import { Button } from '../../ui/buttons';
import { Words } from '../../ui/words';
import { OpeningBand } from './opening-band';
import type { JobView } from './view';

/** Common practice, no source; local rules and trained people decide. */
const RULES = [
  'Charge as found: neither charge nor discharge it.',
  'Non-flammable ground, fill at hand, way out free, nobody alone.',
  'Screws over the pack are under tension: loosen crosswise, a turn at a time.',
  'Never pry over the pack, never press it flat, no solvent, no heat.',
  'Stop at smell, hiss, heat or movement: close nothing, leave, alarm, call.',
];

/** A machine with a swollen or damaged pack opens here: who, how, and when to stop. */
export function SwollenStation({ v }: { v: JobView }) {
  const me = useAppSelector((s) => s.session.session?.person);
  const people = useAppSelector((s) => s.session.session?.people ?? []);
  const by = people.find((p) => p.id === v.job.prepared?.by);
  return (
    <>
      <OpeningBand opening={v.opening} />
      <Card title="Opened as swollen" testID="card-swollen">
        {RULES.map((r, i) => (
          <Words key={r} bold={i === 4}>{`${i + 1}. ${r}`}</Words>
        ))}
        {by ? (
          <Words bold>{`${by.name} stands at it${by.competent ? '' : ', and is not named as trained: it stays closed'}.`}</Words>
        ) : null}
        {me?.competent ? (
          <Button
            label="I open it, charge as found"
            tone="next"
            height={64}
            onPress={() => v.say('swollen-prepared', { charge: 'as found' }, 'opened as swollen')}
            testID="prepare-swollen"
          />
        ) : (
          <Words bold>Only a person trained to assess opens it. Hand the job over.</Words>
        )}
        <Words size={15} soft>
          {`Seen: ${[...new Set((v.notebook?.findings ?? []).map((f) => findingOf(f.body.code)?.words ?? f.body.code))].join(', ') || 'on the pack'}`}
        </Words>
      </Card>
    </>
  );
}
