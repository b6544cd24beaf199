import { checkLabel, type Chemistry, type Interval, type LabelBody, localDay, oddDate, type PackFacts, show } from '@gavrel/core';
import { useState } from 'react';
import { View } from 'react-native';
import { draft, type Draft } from '../../log/write';
import { Choice, Key } from '../../ui/keys';
import { Card, Row } from '../../ui/frame';
import { Field } from '../../ui/field';
import { Sheet } from '../../ui/sheet';
import { Figures, Words } from '../../ui/words';
import type { NumberTask } from './keypad';
import { LABEL_FIGURES, labelTask } from './tasks';
import type { Keep, NumberCardProps } from './card';

/**
 * What a change of the label is: new fields are a reading of their own; a field that is there already is corrected, in the entry
 * that said it, and both stay visible.
 */
export function labelDraft(facts: PackFacts, change: Partial<LabelBody>): Draft {
  const keys = Object.keys(change) as (keyof LabelBody)[];
  const holder = facts.labels.find((l) => keys.some((k) => l.body[k] !== undefined));
  if (!holder) return draft('label-read', [`pack:${facts.id}`], change);
  return draft('corrected', [`pack:${facts.id}`], { body: { ...holder.body, ...change }, reason: 'misread label' }, holder.id);
}

/** The figures in their order, one leading to the next that is missing. */
function figureTask(facts: PackFacts, label: LabelBody, key: keyof typeof LABEL_FIGURES): NumberTask {
  const order = Object.keys(LABEL_FIGURES) as (keyof typeof LABEL_FIGURES)[];
  const following = order.slice(order.indexOf(key) + 1).find((k) => label[k] === undefined);
  const task = labelTask(
    key,
    label[key],
    (change) => labelDraft(facts, change),
    following ? () => figureTask(facts, label, following) : undefined,
  );
  return { ...task, packId: facts.id };
}

const interval = (i: Interval) => `${i.lo.toFixed(1)} to ${i.hi.toFixed(1)} Wh`;

/** Type code, dates and the other words of a label. */
function WordsSheet({
  facts,
  label,
  onKeep,
  onClose,
}: {
  facts: PackFacts;
  label: LabelBody;
  onKeep: Keep;
  onClose: () => void;
}) {
  const [typeCode, setTypeCode] = useState(label.typeCode ?? '');
  const [designation, setDesignation] = useState(label.designation ?? '');
  const [madeOn, setMadeOn] = useState(label.madeOn ?? '');
  const [chemistry, setChemistry] = useState<Chemistry | null>(label.chemistry ?? null);
  const [marked, setMarked] = useState<'yes' | 'no' | null>(
    label.energyMarked === undefined ? null : label.energyMarked ? 'yes' : 'no',
  );
  const [asked, setAsked] = useState('');
  const badDate = madeOn !== '' && !/^\d{4}(-(0[1-9]|1[0-2])(-(0[1-9]|[12]\d|3[01]))?)?$/.test(madeOn);
  const keep = async () => {
    if (badDate) return;
    const odd = madeOn === '' ? null : oddDate(madeOn, localDay('UTC', new Date()));
    if (odd && odd !== asked) return setAsked(odd);
    const all: Partial<LabelBody> = {
      ...(typeCode.trim() && { typeCode: typeCode.trim() }),
      ...(designation.trim() && { designation: designation.trim() }),
      ...(madeOn && { madeOn }),
      ...(chemistry && { chemistry }),
      ...(marked && { energyMarked: marked === 'yes' }),
    };
    const changed = Object.fromEntries(
      Object.entries(all).filter(([k, v]) => label[k as keyof LabelBody] !== v),
    ) as Partial<LabelBody>;
    const held = Object.fromEntries(
      Object.entries(changed).filter(([k]) => label[k as keyof LabelBody] !== undefined),
    ) as Partial<LabelBody>;
    const fresh = Object.fromEntries(
      Object.entries(changed).filter(([k]) => label[k as keyof LabelBody] === undefined),
    ) as Partial<LabelBody>;
    if (Object.keys(fresh).length > 0) await onKeep(draft('label-read', [`pack:${facts.id}`], fresh), 'label');
    if (Object.keys(held).length > 0) await onKeep(labelDraft(facts, held), 'label corrected');
    onClose();
  };
  return (
    <Sheet
      title="Label in words"
      onClose={onClose}
      footer={
        <Key
          label={asked ? 'Keep it all the same' : 'Keep'}
          tone="next"
          height={64}
          disabled={badDate}
          onPress={() => void keep()}
          testID="keep-words"
        />
      }
    >
      <Field label="Type code" value={typeCode} onChange={setTypeCode} testID="type-code" />
      <Words size={15} soft>
        Chemistry
      </Words>
      <Choice
        label="Chemistry"
        options={['li-ion', 'li-metal', 'ni-mh', 'na-ion'] as const}
        value={chemistry}
        onChange={setChemistry}
      />
      <Words size={15} soft>
        Watt-hours printed on the case?
      </Words>
      <Choice label="Watt-hours printed on the case" options={['yes', 'no'] as const} value={marked} onChange={setMarked} />
      <Field label="Made on (YYYY, YYYY-MM or YYYY-MM-DD)" value={madeOn} onChange={setMadeOn} testID="made-on" />
      {badDate ? <Words>Write the date as YYYY, YYYY-MM or YYYY-MM-DD.</Words> : null}
      {asked ? <Words bold>{asked}</Words> : null}
      <Field label="Cell designation, as 3ICP5/57/101" value={designation} onChange={setDesignation} />
    </Sheet>
  );
}

/** What the label says, what follows from it, and whether it agrees with itself. */
export function LabelCard({ facts, ruling, onTask, onKeep }: NumberCardProps) {
  const [words, setWords] = useState(false);
  const { all: label, disputed } = ruling.judgement.label;
  const { nature } = ruling.judgement;
  const check = checkLabel(label);
  const missing = label.chemistry === undefined || label.energyMarked === undefined;
  return (
    <Card
      title="Label"
      testID="card-label"
      right={
        <Words size={15} soft>
          {label.typeCode ?? 'no type code'}
        </Words>
      }
    >
      <View style={{ flexDirection: 'row', flexWrap: 'wrap', gap: 6 }}>
        {(Object.keys(LABEL_FIGURES) as (keyof typeof LABEL_FIGURES)[]).map((key) => {
          const f = label[key];
          const title = LABEL_FIGURES[key].title;
          return (
            <Key
              key={key}
              label={`${title}${f ? ` ${show(f)}` : ', not read'}`}
              height={64}
              style={{ flexGrow: 1, flexBasis: '46%' }}
              onPress={() => onTask(figureTask(facts, label, key))}
              testID={`label-${key}`}
            >
              <Words size={14} soft>
                {title}
              </Words>
              <Figures size={19} bold>
                {f ? show(f) : '+'}
              </Figures>
            </Key>
          );
        })}
      </View>
      <Row>
        <Figures bold>
          {nature.series === null
            ? 'cells not known'
            : nature.parallel === null
              ? `${nature.series}S`
              : `${nature.series}S${nature.parallel}P`}
        </Figures>
        {nature.family ? (
          <Words soft>{`${nature.family} · charge limit ${nature.chargeLimit?.toFixed(2)} V a cell`}</Words>
        ) : nature.chargeLimit !== null ? (
          <Words soft>{`charge limit up to ${nature.chargeLimit.toFixed(2)} V a cell`}</Words>
        ) : null}
      </Row>
      {check.computed && check.verdict !== 'not comparable' ? (
        <Words size={15} soft>{`V × Ah gives ${interval(check.computed)}: ${check.verdict}`}</Words>
      ) : null}
      {check.verdict === 'not comparable' && check.computed ? (
        <Words size={15} soft>{`V × Ah gives ${interval(check.computed)}`}</Words>
      ) : null}
      {nature.notes.map((n) => (
        <Words key={n} size={15}>
          {n}
        </Words>
      ))}
      {disputed.length > 0 ? (
        <Words bold>{`Two values on record for ${disputed.join(', ')}: a second person settles it.`}</Words>
      ) : null}
      <Key
        label={missing ? 'Type code, chemistry, Wh mark, date' : 'Label in words'}
        onPress={() => setWords(true)}
        testID="label-words"
      />
      {words ? <WordsSheet facts={facts} label={label} onKeep={onKeep} onClose={() => setWords(false)} /> : null}
    </Card>
  );
}
