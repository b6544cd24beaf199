import type { IntakeBody, TriageBody } from '@gavrel/core';
import { draft } from '../../device/write';
import { Card, Row } from '../../ui/frame';
import { Button } from '../../ui/buttons';
import { Words } from '../../ui/words';
import { Pictures } from '../../entry/pictures';
import { RuntimeCard } from '../../entry/runtime-card';
import { Ask, Caution } from './ask';
import { GaugePaste } from './gauge-paste';
import { OpeningBand } from './opening-band';
import { OwnerCard } from './owner-card';
import { OwnerWords } from './owner-words';
import { type Answers, useAnswers } from './use-answers';
import type { JobView } from './view';

interface CardProps {
  readonly v: JobView;
  readonly say: Answers;
}

/** Ten seconds a machine, then what the owner says. */
export function IntakeStation({ v }: { v: JobView }) {
  const say = useAnswers(v);
  return (
    <>
      <OpeningBand opening={v.opening} />
      <OutsideCard v={v} say={say} />
      <SignsCard v={v} say={say} />
      <OwnerSaysCard v={v} say={say} />
      <ChargeCard v={v} say={say} />
      {/* "Twenty minutes", says the owner: held against what its pack can give, where that is known. */}
      {v.inside.map((p) => (
        <RuntimeCard key={p.facts.id} ruling={p.ruling} />
      ))}
      <OwnerCard v={v} />
    </>
  );
}

const CLEAR_OUTSIDE: TriageBody = { lid: 'flush', base: 'steady', smell: 'none', touch: 'cool' };
const CLEAR_SIGNS: IntakeBody = { keyboard: 'even', trackpad: 'clicks', seam: 'closed', sound: 'none' };

/** The part of a statement that nobody has made yet; null when there is none. */
function unsaid<T extends object>(clear: T, said: T): T | null {
  const left = Object.entries(clear).filter(([k]) => said[k as keyof T] === undefined);
  return left.length > 0 ? (Object.fromEntries(left) as T) : null;
}

/** What is seen, smelt and felt without opening anything. */
function OutsideCard({ v, say }: CardProps) {
  const { notebook } = v;
  const [t, th] = [notebook?.triage ?? {}, notebook?.triageHistory ?? {}];
  const on = notebook ? [`notebook:${notebook.id}` as const] : [];
  // What stands is not talked away: one tap fills only what was not looked at.
  const left = unsaid(CLEAR_OUTSIDE, t);
  return (
    <Card title="From outside, ten seconds" testID="card-triage">
      {notebook && left ? (
        <Button
          label="Looked at all four: nothing seen"
          tone="next"
          height={64}
          onPress={() => void v.write([draft('triaged', on, left)], 'nothing seen from outside')}
          testID="triage-clear"
        />
      ) : null}
      <Ask
        label="Lid"
        options={['flush', 'not flush'] as const}
        value={t.lid}
        onSay={(x) => say.sayTriage('lid', x)}
        history={th.lid}
      />
      <Ask
        label="Base on the table"
        options={['steady', 'rocks'] as const}
        value={t.base}
        onSay={(x) => say.sayTriage('base', x)}
        history={th.base}
      />
      <Ask
        label="Smell"
        options={['none', 'smell'] as const}
        words={{ none: 'no smell', smell: 'sweet, solvent' }}
        value={t.smell}
        onSay={(x) => say.sayTriage('smell', x)}
        history={th.smell}
      />
      <Ask
        label="To the hand"
        options={['cool', 'warm', 'hot'] as const}
        value={t.touch}
        onSay={(x) => say.sayTriage('touch', x)}
        history={th.touch}
      />
      <Pictures of="damage" on={on} photos={notebook?.photos ?? []} label="Picture of the damage" />
    </Card>
  );
}

/** Signs of a swelling pack that show through the machine. */
function SignsCard({ v, say }: CardProps) {
  const { intake: i, intakeHistory: ih } = v.job;
  const left = unsaid(CLEAR_SIGNS, i);
  return (
    <Card title="Signs over the pack" testID="card-signs">
      {left ? (
        <Button
          label="Looked at all four: none"
          height={64}
          onPress={() => void v.say('intake-noted', left, 'no signs over the pack')}
          testID="signs-clear"
        />
      ) : null}
      <Ask
        label="Keyboard"
        options={['even', 'uneven'] as const}
        value={i.keyboard}
        onSay={(x) => say.sayIntake('keyboard', x)}
        history={ih.keyboard}
      />
      <Ask
        label="Trackpad"
        options={['clicks', 'stiff'] as const}
        value={i.trackpad}
        onSay={(x) => say.sayIntake('trackpad', x)}
        history={ih.trackpad}
      />
      <Ask
        label="Seams"
        options={['closed', 'gapes'] as const}
        value={i.seam}
        onSay={(x) => say.sayIntake('seam', x)}
        history={ih.seam}
      />
      <Ask
        label="Sound"
        options={['none', 'hiss'] as const}
        words={{ none: 'no sound' }}
        value={i.sound}
        onSay={(x) => say.sayIntake('sound', x)}
        history={ih.sound}
      />
      <Caution>Hiss, smoke, heat: stop, leave, alarm, call.</Caution>
    </Card>
  );
}

/** What only the owner knows, and agrees to. */
function OwnerSaysCard({ v, say }: CardProps) {
  const { job } = v;
  const { intake: i, intakeHistory: ih } = job;
  return (
    <Card title="What the owner says" testID="card-owner-says">
      <Ask
        label="Liquid on it"
        options={['no', 'yes', 'unknown'] as const}
        value={i.liquid}
        onSay={(x) => say.sayIntake('liquid', x)}
        history={ih.liquid}
      />
      <Ask
        label="Dropped"
        options={['no', 'yes', 'unknown'] as const}
        value={i.drop}
        onSay={(x) => say.sayIntake('drop', x)}
        history={ih.drop}
      />
      <Ask
        label="Another charger"
        options={['tried', 'not tried'] as const}
        value={i.charger}
        onSay={(x) => say.sayIntake('charger', x)}
      />
      <Ask
        label="Maker’s warranty"
        options={['none', 'running', 'unknown'] as const}
        value={i.warranty}
        onSay={(x) => say.sayIntake('warranty', x)}
      />
      <Ask
        label="Agrees to opening"
        options={['given', 'refused', 'not asked'] as const}
        words={{ given: 'yes', refused: 'no' }}
        value={i.consent}
        onSay={(x) => say.sayIntake('consent', x)}
        history={ih.consent}
      />
      {i.warranty === 'running' ? <Caution>Opening may end the warranty: say so before the consent.</Caution> : null}
      <Ask
        label="Old pack"
        options={['stays here', 'owner wants it back'] as const}
        value={i.oldPack}
        onSay={(x) => say.sayIntake('oldPack', x)}
      />
      {i.oldPack === 'owner wants it back' ? (
        <Words size={15}>A damaged pack is not handed back for use, and travels only as its ruling says.</Words>
      ) : null}
      <OwnerWords job={job.id} complaint={job.complaint} saw={i.ownerSaw ?? ''} agreed={i.agreed ?? ''} onSay={say.sayIntake} />
    </Card>
  );
}

/** The charge before anything is opened. */
function ChargeCard({ v, say }: CardProps) {
  return (
    <Card title="Charge before opening" testID="card-charge">
      <Words size={15} soft>
        As the machine shows it, or paste what its operating system reports.
      </Words>
      <Row>
        {[10, 20, 30, 50, 80, 100].map((n) => (
          <Button
            key={n}
            label={`${n} %`}
            selected={v.job.intake.charge === n}
            onPress={() => say.sayIntake('charge', n)}
            testID={`charge-${n}`}
          />
        ))}
      </Row>
      <GaugePaste v={v} />
    </Card>
  );
}
