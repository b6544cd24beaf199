import type { Person } from '@gavrel/contract';
import { type Cell, localDay, SHIPPING } from '@gavrel/core';
import { carryOf } from '@gavrel/core/dispatch';
import { useState } from 'react';
import { View } from 'react-native';
import { useAppSelector } from '../state';
import { useZone } from '../state/rulings';
import { Button } from '../ui/buttons';
import { MetricLengths } from '../ui/display';
import { Heading, Words } from '../ui/words';
import { trainedWords, trainingFor } from '../ui/training-words';
import { print } from '../paper/print';
import { RuleLine } from './rule-line';
import { type Answered, goes, stepsPaper } from './steps-paper';

/** A heading with its lines; nothing where there are none. */
export function Steps({ title, lines }: { title: string; lines: readonly string[] }) {
  if (lines.length === 0) return null;
  return (
    <View style={{ gap: 2 }}>
      <Heading level={3} size={17}>
        {title}
      </Heading>
      {lines.map((l) => (
        <Words key={l}>{`— ${l}`}</Words>
      ))}
    </View>
  );
}

const NOBODY: readonly Person[] = [];

/** What to do, in the order of the work; nothing where it does not go. */
export function CarrySteps({ cell }: { cell: Cell }) {
  const { result } = cell;
  const people = useAppSelector((s) => s.session.session?.people ?? NOBODY);
  const region = useAppSelector((s) => s.view.region);
  const today = localDay(useZone(), new Date());
  const going = goes(result);
  const carry = going ? carryOf(result, cell) : null;
  return (
    <>
      {carry ? (
        <>
          <Steps title="Pack it" lines={carry.packaging} />
          <MetricLengths>
            <Steps title="On the package" lines={carry.marks} />
          </MetricLengths>
          <Steps title="Papers" lines={carry.papers} />
          <Steps title="Who" lines={[carry.trained, trainedWords(people, trainingFor(cell.mode, region), today)]} />
        </>
      ) : null}
      {going ? <Steps title="Limits and notes" lines={result.notes} /> : null}
    </>
  );
}

export function RuleSteps({ rules, on }: { rules: readonly string[]; on: string }) {
  return (
    <>
      <Heading level={3} size={17}>
        Rules
      </Heading>
      {rules.map((id) => (
        <RuleLine key={id} rule={SHIPPING.shown(id, on)} />
      ))}
      <Words size={15} soft>
        Rules are our copy, from memory: check the current edition. A trained person and local law decide.
      </Words>
    </>
  );
}

/** The steps as a PDF to lie beside the box. */
export function PrintSteps({ title, packs, on }: { title: string; packs: readonly Answered[]; on: string }) {
  const workshop = useAppSelector((s) => s.session.session?.workshop.name ?? '');
  const policy = useAppSelector((s) => s.logbook.policy);
  const [trouble, setTrouble] = useState('');
  const go = () => {
    setTrouble('');
    const paper = stepsPaper(title, packs, on, policy, workshop);
    void print(`dispatch-${on}`, { kind: 'report', paper }).catch((e: Error) => setTrouble(e.message));
  };
  return (
    <>
      <Button label="Print the steps" onPress={go} testID="print-steps" />
      {trouble ? <Words bold>{trouble}</Words> : null}
    </>
  );
}
