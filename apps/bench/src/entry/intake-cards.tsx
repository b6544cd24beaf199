import { type Answer, type IntakeBody, parseDigits, type TriageBody } from '@gavrel/core';
import { type ReactNode, useState } from 'react';
import { Card, Row } from '../ui/frame';
import { Button } from '../ui/buttons';
import { Field } from '../ui/field';
import { Words } from '../ui/words';
import { Ask, Caution } from './ask';

type Triage = Required<TriageBody>;
type History<F extends string> = Readonly<Partial<Record<F, readonly Answer[]>>>;

/** What was answered of a closed machine, and how another answer is said. */
export interface Intake {
  readonly triage: TriageBody;
  readonly triageHistory: History<keyof TriageBody>;
  readonly intake: IntakeBody;
  readonly intakeHistory: History<keyof IntakeBody>;
  readonly sayTriage: <F extends keyof Triage>(field: F, value: Triage[F]) => void;
  readonly sayIntake: <F extends keyof IntakeBody>(field: F, value: IntakeBody[F]) => unknown;
}

const CLEAR_OUTSIDE: TriageBody = { lid: 'flush', base: 'steady', smell: 'none', touch: 'cool' };
const CLEAR_SIGNS: IntakeBody = { keyboard: 'even', trackpad: 'clicks', seam: 'closed', sound: 'none' };

/** The part of a statement that nobody has made yet; null when there is none. */
function unsaid<T extends object>(clear: T, said: T): T | null {
  const left = Object.entries(clear).filter(([k]) => said[k as keyof T] === undefined);
  return left.length > 0 ? (Object.fromEntries(left) as T) : null;
}

/** What is seen, smelt and felt without opening anything. */
export function OutsideCard({
  of,
  onClear,
  children,
}: {
  of: Intake;
  /** Says the rest of it in one; null: there is no machine to say it of. */
  onClear: ((rest: TriageBody) => void) | null;
  children?: ReactNode;
}) {
  const { triage: t, triageHistory: th } = of;
  // What stands is not talked away: one tap fills only what was not looked at.
  const left = unsaid(CLEAR_OUTSIDE, t);
  return (
    <Card title="From outside, ten seconds" testID="card-triage">
      {onClear && left ? (
        <Button
          label="Looked at all four: nothing seen"
          tone="next"
          height={64}
          onPress={() => onClear(left)}
          testID="triage-clear"
        />
      ) : null}
      <Ask
        label="Lid"
        options={['flush', 'not flush'] as const}
        value={t.lid}
        onSay={(x) => of.sayTriage('lid', x)}
        history={th.lid}
      />
      <Ask
        label="Base on the table"
        options={['steady', 'rocks'] as const}
        value={t.base}
        onSay={(x) => of.sayTriage('base', x)}
        history={th.base}
      />
      <Ask
        label="Smell"
        options={['none', 'smell'] as const}
        words={{ none: 'no smell', smell: 'sweet, solvent' }}
        value={t.smell}
        onSay={(x) => of.sayTriage('smell', x)}
        history={th.smell}
      />
      <Ask
        label="To the hand"
        options={['cool', 'warm', 'hot'] as const}
        value={t.touch}
        onSay={(x) => of.sayTriage('touch', x)}
        history={th.touch}
      />
      {children}
    </Card>
  );
}

/** Signs of a swelling pack that show through the machine. */
export function SignsCard({ of, onClear }: { of: Intake; onClear: (rest: IntakeBody) => void }) {
  const { intake: i, intakeHistory: ih } = of;
  const left = unsaid(CLEAR_SIGNS, i);
  return (
    <Card title="Signs over the pack" testID="card-signs">
      {left ? <Button label="Looked at all four: none" height={64} onPress={() => onClear(left)} testID="signs-clear" /> : null}
      <Ask
        label="Keyboard"
        options={['even', 'uneven'] as const}
        value={i.keyboard}
        onSay={(x) => of.sayIntake('keyboard', x)}
        history={ih.keyboard}
      />
      <Ask
        label="Trackpad"
        options={['clicks', 'stiff'] as const}
        value={i.trackpad}
        onSay={(x) => of.sayIntake('trackpad', x)}
        history={ih.trackpad}
      />
      <Ask
        label="Seams"
        options={['closed', 'gapes'] as const}
        value={i.seam}
        onSay={(x) => of.sayIntake('seam', x)}
        history={ih.seam}
      />
      <Ask
        label="Sound"
        options={['none', 'hiss'] as const}
        words={{ none: 'no sound' }}
        value={i.sound}
        onSay={(x) => of.sayIntake('sound', x)}
        history={ih.sound}
      />
      <Caution>Hiss, smoke, heat: stop, leave, alarm, call.</Caution>
    </Card>
  );
}

/** What only the owner knows, and agrees to. */
export function OwnerSaysCard({ of, children }: { of: Intake; children?: ReactNode }) {
  const { intake: i, intakeHistory: ih } = of;
  return (
    <Card title="What the owner says" testID="card-owner-says">
      <Ask
        label="Liquid on it"
        options={['no', 'yes', 'unknown'] as const}
        value={i.liquid}
        onSay={(x) => of.sayIntake('liquid', x)}
        history={ih.liquid}
      />
      <Ask
        label="Dropped"
        options={['no', 'yes', 'unknown'] as const}
        value={i.drop}
        onSay={(x) => of.sayIntake('drop', x)}
        history={ih.drop}
      />
      <Ask
        label="Another charger"
        options={['tried', 'not tried'] as const}
        value={i.charger}
        onSay={(x) => of.sayIntake('charger', x)}
      />
      <Ask
        label="Maker’s warranty"
        options={['none', 'running', 'unknown'] as const}
        value={i.warranty}
        onSay={(x) => of.sayIntake('warranty', x)}
      />
      <Ask
        label="Agrees to opening"
        options={['given', 'refused', 'not asked'] as const}
        words={{ given: 'yes', refused: 'no' }}
        value={i.consent}
        onSay={(x) => of.sayIntake('consent', x)}
        history={ih.consent}
      />
      {i.warranty === 'running' ? <Caution>Opening may end the warranty: say so before the consent.</Caution> : null}
      <Ask
        label="Old pack"
        options={['stays here', 'owner wants it back'] as const}
        value={i.oldPack}
        onSay={(x) => of.sayIntake('oldPack', x)}
      />
      {i.oldPack === 'owner wants it back' ? (
        <Words size={15}>A damaged pack is not handed back for use, and travels only as its ruling says.</Words>
      ) : null}
      {children}
    </Card>
  );
}

const STEPS = [10, 20, 30, 50, 80, 100] as const;

/** The charge before anything is opened: a common step, or the very number. */
export function ChargeCard({ of, children }: { of: Intake; children?: ReactNode }) {
  const { charge } = of.intake;
  const [typed, setTyped] = useState('');
  const digits = parseDigits(typed);
  const percent = digits === null ? null : Number(digits);
  const wrong = typed.trim() !== '' && (percent === null || percent < 0 || percent > 100);
  const keep = () => {
    if (percent === null || wrong) return;
    of.sayIntake('charge', percent);
    setTyped('');
  };
  return (
    <Card
      title="Charge before opening"
      testID="card-charge"
      right={charge === undefined ? null : <Words bold>{`${charge} %`}</Words>}
    >
      <Words size={15} soft>
        As the machine shows it, or paste what its operating system reports.
      </Words>
      <Row>
        {STEPS.map((n) => (
          <Button
            key={n}
            label={`${n} %`}
            selected={charge === n}
            onPress={() => of.sayIntake('charge', n)}
            testID={`charge-${n}`}
          />
        ))}
      </Row>
      <Field label="Another, %" value={typed} onChange={setTyped} onSubmit={keep} onLeave={keep} testID="charge-other" />
      {wrong ? <Words bold>A number from 0 to 100.</Words> : null}
      {children}
    </Card>
  );
}
