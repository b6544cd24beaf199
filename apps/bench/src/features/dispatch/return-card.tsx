import { addDays, type Subject } from '@gavrel/core';
import { useState } from 'react';
import { draft } from '../../device/write';
import { print } from '../../paper/print';
import { useAppSelector } from '../../state';
import { useActions } from '../../state/context';
import { useMay } from '../../state/may';
import { Button } from '../../ui/buttons';
import { Card, Row } from '../../ui/frame';
import { dueWords } from '../../ui/say';
import { Words } from '../../ui/words';
import { pictureBytes } from '../../entry/pictures';
import { evidencePaper } from './evidence';
import type { ConsignmentView } from './view';

/** What is done before a pack goes back, in order. Common practice, no source; A154 for the air. */
const ORDER = [
  'Stop using and charging it.',
  'Treat it as damaged until somebody looked at it.',
  'Ask the maker for its recall kit and for the carrier it pays: by road or sea.',
  'No air label in the box, and none that was sent before anybody looked.',
  'Evidence with it: readings, pictures, label, dates.',
] as const;
/** Days after which an answer is asked for again; common practice, no source. */
const ANSWER_DAYS = 14;

/** Packs that go back to a seller or under a recall: the order of acts, the kit that is owed, the evidence. */
export function ReturnCard({ v }: { v: ConsignmentView }) {
  const actions = useActions();
  const may = useMay('due-set');
  const { policy, packs } = useAppSelector((s) => s.logbook);
  const session = useAppSelector((s) => s.session.session);
  const [trouble, setTrouble] = useState('');
  const c: Subject = `consignment:${v.facts.id}`;
  const on = addDays(v.today, ANSWER_DAYS);
  const evidence = () => {
    setTrouble('');
    void evidencePaper(v, packs, policy, session?.people ?? [], session?.workshop.name ?? '', pictureBytes)
      .then((paper) => print(`evidence-${v.today}`, { kind: 'report', paper }))
      .catch((e: Error) => setTrouble(e.message));
  };
  const set = (note: string) => void actions.write([draft('due-set', [c], { what: 'return', on, note })], note);
  return (
    <Card title="Going back" testID="card-return">
      {v.facts.sent ? null : ORDER.map((l, i) => <Words key={l}>{`${i + 1}. ${l}`}</Words>)}
      {v.facts.dues.map((d) => (
        <Row key={d.id} style={{ justifyContent: 'space-between' }}>
          <Words bold>{`${d.note}: ${dueWords(d.on, v.today)}`}</Words>
          <Button
            label="It came"
            hint={d.note}
            onPress={() => actions.write([draft('due-met', [c], { meets: d.id })], 'it came')}
          />
        </Row>
      ))}
      <Row>
        {may && !v.facts.sent ? (
          <Button label="Kit asked for" height={56} onPress={() => set('recall kit')} testID="kit-asked" />
        ) : null}
        {may ? <Button label="Answer owed" height={56} onPress={() => set('answer of the seller')} testID="answer-owed" /> : null}
        <Button label="Evidence" height={56} onPress={evidence} testID="print-evidence" />
      </Row>
      {trouble ? <Words bold>{trouble}</Words> : null}
    </Card>
  );
}
