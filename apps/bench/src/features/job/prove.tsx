import { addDays, localDay, type ProofPoint, PROOFS } from '@gavrel/core';
import { View } from 'react-native';
import { draft, type Draft } from '../../device/write';
import { useZone } from '../../state/rulings';
import { Card, Row } from '../../ui/frame';
import { Choice, Button } from '../../ui/buttons';
import { dueWords } from '../../ui/say';
import { Words } from '../../ui/words';
import { RuntimeCard } from '../../entry/runtime-card';
import { Caution } from '../../entry/ask';
import { HandOver } from './hand-over';
import type { JobView } from './view';

const WORDS: Record<ProofPoint, string> = {
  starts: 'It starts',
  seen: 'The pack is seen',
  charges: 'It charges',
  gauge: 'The gauge reads plausibly',
};

/** Does it work? What cannot be shown now is owed and comes back with a date. */
export function ProveStation({ v }: { v: JobView }) {
  const { job } = v;
  const zone = useZone();
  const today = localDay(zone, new Date());
  const tag = v.notebook?.tag ?? '';
  const proofs = job.dues.filter((d) => d.what === 'proof');
  const dayIn = (days: number) => addDays(today, days);
  const met = () => proofs.map((d) => draft('due-met', [`job:${job.id}`], { meets: d.id }));
  // A job owes its proof once: a new day or another point takes the place of what was owed before.
  const owe = (on: string, points: readonly ProofPoint[]): Draft[] => {
    const note = `${tag}: ${points.map((p) => WORDS[p].toLowerCase()).join(', ')}`;
    if (proofs.length === 1 && proofs[0]!.on === on && proofs[0]!.note === note) return [];
    return [...met(), draft('due-set', [`job:${job.id}`], { what: 'proof', on, note })];
  };
  const fitted = v.packs.find((p) => p.facts.id === job.fittedPack);
  const open = PROOFS.filter((p) => job.proof[p] !== 'yes');
  const oweAll = (days: number) => {
    const drafts = owe(dayIn(days), open.length > 0 ? open : PROOFS);
    if (drafts.length > 0) void v.write(drafts, 'proof owed');
  };
  const say = (p: ProofPoint, value: 'yes' | 'no' | 'owed') => {
    const last = value === 'yes' && open.every((x) => x === p);
    const more =
      value === 'owed'
        ? owe(
            proofs[0]?.on ?? dayIn(1),
            PROOFS.filter((x) => x === p || job.proof[x] === 'owed'),
          )
        : last
          ? met()
          : [];
    return v.say('proof-taken', { [p]: value }, `${WORDS[p]}: ${value}`, more);
  };
  return (
    <>
      <Card title="Proof" testID="card-proof">
        {PROOFS.map((p) => (
          <View key={p} style={{ flexDirection: 'row', alignItems: 'center', gap: 8 }}>
            <Words style={{ flex: 1 }} bold={job.proof[p] !== 'yes'}>
              {WORDS[p]}
            </Words>
            <Choice
              label={WORDS[p]}
              options={['yes', 'no', 'owed'] as const}
              value={job.proof[p] ?? null}
              onChange={(x) => say(p, x)}
              height={56}
            />
          </View>
        ))}
        {open.length > 0 ? (
          <Button
            label={`All ${open.length} shown: yes`}
            height={56}
            onPress={() => v.say('proof-taken', Object.fromEntries(open.map((p) => [p, 'yes'])), 'proved', met())}
            testID="all-proved"
          />
        ) : null}
        {PROOFS.some((p) => job.proof[p] === 'no') ? (
          <Words bold>Something does not work: back to the station it belongs to.</Words>
        ) : null}
        <Caution>Stay with the first charge of a new pack: surface and time. Off, not asleep, before boxing.</Caution>
        {proofs.map((d) => (
          <View key={d.id} style={{ flexDirection: 'row', gap: 8, alignItems: 'center' }}>
            <View style={{ flex: 1 }}>
              <Words bold>{`proof owed, ${dueWords(d.on, today)}`}</Words>
              <Words size={15}>{d.note}</Words>
            </View>
            <Button
              label="Done"
              hint={d.note}
              onPress={() => v.write([draft('due-met', [`job:${job.id}`], { meets: d.id })], 'proof done')}
            />
          </View>
        ))}
        <Row>
          <Button label="Owe it, tomorrow" onPress={() => oweAll(1)} testID="owe-proof" />
          <Button label="in 3 days" hint="owe it" onPress={() => oweAll(3)} />
        </Row>
      </Card>
      {fitted ? <RuntimeCard ruling={fitted.ruling} /> : null}
      <HandOver v={v} />
    </>
  );
}
