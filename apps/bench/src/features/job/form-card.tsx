import { CONNECTORS, type FormBody, formOf, type PackFacts, show } from '@gavrel/core';
import { useMemo } from 'react';
import { draft } from '../../device/write';
import { Card, Row } from '../../ui/frame';
import { Choice, Button } from '../../ui/buttons';
import { Figures, Words } from '../../ui/words';
import { useAppSelector } from '../../state';
import type { Keep } from '../../entry/card';
import { knownForm } from '../../entry/same-type';
import type { NumberTask } from '../../entry/number-task';
import { Ask } from '../../entry/ask';

type Side = 'length' | 'width' | 'thickness';
const SIDES: readonly Side[] = ['length', 'width', 'thickness'];
const WORDS: Record<Side, string> = { length: 'Length', width: 'Width', thickness: 'Thickness when new' };

/** The sides one after another, each leading to the next that is missing. */
export function sideTask(facts: PackFacts, side: Side): NumberTask {
  const rest = SIDES.slice(SIDES.indexOf(side) + 1).filter((s) => formOf(facts)[s] === undefined);
  const present = formOf(facts)[side];
  return {
    packId: facts.id,
    title: `${WORDS[side]} of ${facts.tag}`,
    units: ['mm'],
    unit: 'mm',
    series: null,
    ...(present && { last: present.digits }),
    draft: (f) => draft('form-noted', [`pack:${facts.id}`], { [side]: f } as FormBody),
    ...(rest.length > 0 && { next: () => sideTask(facts, rest[0]!) }),
  };
}

/** Outline and connector in a line. */
export const formWords = (f: FormBody) =>
  [
    f.length && f.width && `${show(f.length)} × ${show(f.width)}`,
    f.connector,
    f.ears !== undefined && `${f.ears} ears`,
    f.cable === 'without' ? 'without cable' : f.cable && 'cable with it',
  ]
    .filter(Boolean)
    .join(', ');

/** The outline of others of the type: held against this one, it is said with one tap. */
function SameForm({ facts, onKeep }: { facts: PackFacts; onKeep: Keep }) {
  const packs = useAppSelector((s) => s.logbook.packs);
  const known = useMemo(() => knownForm(Object.values(packs), facts), [packs, facts]);
  if (!known) return null;
  return (
    <Button
      label={`${formWords(known.said)}, as on ${known.from}`}
      height={56}
      onPress={() => onKeep(draft('form-noted', [`pack:${facts.id}`], known.said), 'outline, the same')}
      testID={`same-form-${facts.tag}`}
    />
  );
}

/** Outline, connector, ears and cable of a pack, as it lies there. */
export function FormCard({
  facts,
  title,
  onTask,
  onKeep,
  offers = true,
}: {
  facts: PackFacts;
  title: string;
  onTask: (t: NumberTask) => void;
  onKeep: Keep;
  /** Are outlines of others of its type offered here? */
  offers?: boolean;
}) {
  const f = formOf(facts);
  const say = (body: FormBody, words: string) => onKeep(draft('form-noted', [`pack:${facts.id}`], body), words);
  return (
    <Card title={title} right={<Figures bold>{facts.tag}</Figures>} testID={`form-${facts.tag}`}>
      {offers ? <SameForm facts={facts} onKeep={onKeep} /> : null}
      <Row gap={6}>
        {SIDES.map((s) => (
          <Button
            key={s}
            label={`${WORDS[s]}`}
            height={64}
            style={{ flexGrow: 1, flexBasis: '30%' }}
            onPress={() => onTask(sideTask(facts, s))}
            testID={`form-${s}-${facts.tag}`}
          >
            <Words size={14} soft>
              {WORDS[s]}
            </Words>
            <Figures size={18} bold>
              {f[s] ? show(f[s]!) : '+'}
            </Figures>
          </Button>
        ))}
      </Row>
      <Ask label="Connector" options={CONNECTORS} value={f.connector} onSay={(connector) => say({ connector }, connector)} />
      <Words size={15} soft={f.ears !== undefined}>
        Screw ears
      </Words>
      <Choice
        label="Screw ears"
        options={['0', '1', '2', '3', '4', '5', '6'] as const}
        value={f.ears === undefined ? null : (String(f.ears) as '0')}
        onChange={(n) => say({ ears: Number(n) }, `${n} ears`)}
      />
      <Ask
        label="Its cable"
        options={['with it', 'without'] as const}
        value={f.cable}
        onSay={(cable) => say({ cable }, `cable ${cable}`)}
      />
    </Card>
  );
}
