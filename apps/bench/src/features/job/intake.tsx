import { draft } from '../../device/write';
import { ChargeCard, type Intake, OutsideCard, OwnerSaysCard, SignsCard } from '../../entry/intake-cards';
import { Pictures } from '../../entry/pictures';
import { RuntimeCard } from '../../entry/runtime-card';
import { GaugePaste } from './gauge-paste';
import { OpeningBand } from './opening-band';
import { OwnerCard } from './owner-card';
import { OwnerWords } from './owner-words';
import { useAnswers } from './use-answers';
import type { JobView } from './view';

/** Ten seconds a machine, then what the owner says. */
export function IntakeStation({ v }: { v: JobView }) {
  const { job, notebook } = v;
  const say = useAnswers(v);
  const on = notebook ? [`notebook:${notebook.id}` as const] : [];
  const of: Intake = {
    triage: notebook?.triage ?? {},
    triageHistory: notebook?.triageHistory ?? {},
    intake: job.intake,
    intakeHistory: job.intakeHistory,
    ...say,
  };
  return (
    <>
      <OpeningBand opening={v.opening} />
      <OutsideCard
        of={of}
        onClear={notebook ? (rest) => void v.write([draft('triaged', on, rest)], 'nothing seen from outside') : null}
      >
        <Pictures of="damage" on={on} photos={notebook?.photos ?? []} label="Picture of the damage" />
      </OutsideCard>
      <SignsCard of={of} onClear={(rest) => void v.say('intake-noted', rest, 'no signs over the pack')} />
      <OwnerSaysCard of={of}>
        <OwnerWords
          job={job.id}
          complaint={job.complaint}
          saw={job.intake.ownerSaw ?? ''}
          agreed={job.intake.agreed ?? ''}
          onSay={say.sayIntake}
        />
      </OwnerSaysCard>
      <ChargeCard of={of}>
        <GaugePaste v={v} />
      </ChargeCard>
      {/* "Twenty minutes", says the owner: held against what its pack can give, where that is known. */}
      {v.inside.map((p) => (
        <RuntimeCard key={p.facts.id} ruling={p.ruling} />
      ))}
      <OwnerCard v={v} />
    </>
  );
}
