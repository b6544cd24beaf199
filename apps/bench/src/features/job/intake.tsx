import { LONGEST } from '@gavrel/contract';
import {
  type Answer,
  answerWords,
  INTAKE_SIGNS,
  type IntakeBody,
  intakeFindings,
  milderAnswers,
  type Subject,
  TRIAGE_SIGNS,
  type TriageBody,
  triageFindings,
} from '@gavrel/core';
import { useEffect, useRef } from 'react';
import { View } from 'react-native';
import { draft, type Draft } from '../../device/write';
import { STATION_UNDO_MS, UNDO_MS } from '../../state/actions';
import { useActions } from '../../state/context';
import { useDraft } from '../../state/use-draft';
import { isUrgent } from '../../state/sync';
import { Field } from '../../ui/field';
import { Card, Row } from '../../ui/frame';
import { Button } from '../../ui/buttons';
import { Words } from '../../ui/words';
import { Ask, Caution } from './ask';
import { GaugePaste } from './gauge-paste';
import { OwnerCard } from './owner-card';
import { OpeningBand } from './opening-band';
import { Pictures } from '../../entry/pictures';
import type { JobView } from './view';

type Triage = Required<TriageBody>;

/**
 * Ten seconds a machine, then what the owner says. Signs of danger are findings on the machine and reach its packs. An answer of a moment
 * ago that nobody else has seen is simply another one; a milder answer to one that was sent waits for a second person.
 */
export function IntakeStation({ v }: { v: JobView }) {
  const { job, notebook } = v;
  const t = notebook?.triage ?? {};
  const i = job.intake;
  const actions = useActions();
  // What was answered here a moment ago and is not sent yet, by question.
  const fresh = useRef(new Map<string, { ids: readonly string[]; until: number }>());
  useEffect(() => () => void actions.release(), [actions]);
  const book = notebook ? [draftFor(notebook.id)] : [];
  const findings = (list: readonly { code: string; note: string }[]) =>
    book.flatMap((on) => list.map((f) => draft('finding-recorded', [on], f)));
  const answer = async (
    field: string,
    said: Draft,
    meant: readonly Meant[],
    stood: readonly Meant[],
    history: readonly Answer[],
  ) => {
    const value = (said.body as Record<string, unknown>)[field];
    // It was said, and waits: twice is not more.
    if (history.some((a) => a.waits && a.value === value)) return;
    const before = fresh.current.get(field);
    const slip = before !== undefined && Date.now() < before.until;
    if (slip) await actions.undo(before.ids);
    const milder = milderAnswers({ ...TRIAGE_SIGNS, ...INTAKE_SIGNS }, { ...t, ...i }, said.body).length > 0;
    const gone = (slip || !milder ? [] : (notebook?.findings ?? [])).filter((f) => isOf(f.body, stood) && !isOf(f.body, meant));
    const reason = `answered anew: ${answerWords(field, value)}`;
    const mends = gone.flatMap((f) => book.map((on) => draft('retracted', [on], { reason }, f.id)));
    const until = Date.now() + STATION_UNDO_MS - UNDO_MS;
    const written = await actions.write([said, ...findings(meant), ...mends], answerWords(field, value), STATION_UNDO_MS);
    if (written.some(isUrgent)) fresh.current.delete(field);
    else fresh.current.set(field, { ids: written.map((e) => e.id), until });
  };
  const triage = <F extends keyof Triage>(field: F, value: Triage[F]) => {
    const body = { [field]: value } as TriageBody;
    if (!notebook) return;
    const said = draft('triaged', [draftFor(notebook.id)], body);
    void answer(field, said, triageFindings(body), triageFindings({ [field]: t[field] }), notebook.triageHistory[field] ?? []);
  };
  const note = <F extends keyof IntakeBody>(field: F, value: IntakeBody[F]) => {
    const body = { [field]: value } as IntakeBody;
    const on: Subject[] = [`job:${job.id}`, ...book];
    const said = draft('intake-noted', on, body);
    return answer(field, said, intakeFindings(body), intakeFindings({ [field]: i[field] }), job.intakeHistory[field] ?? []);
  };
  const [th, ih] = [notebook?.triageHistory ?? {}, job.intakeHistory];
  // What stands is not talked away: one tap fills only what was not looked at.
  const leftOutside = unsaid(CLEAR_OUTSIDE, t);
  const leftSigns = unsaid(CLEAR_SIGNS, i);
  return (
    <>
      <OpeningBand opening={v.opening} />
      <Card title="From outside, ten seconds" testID="card-triage">
        {notebook && leftOutside ? (
          <Button
            label="Looked at all four: nothing seen"
            tone="next"
            height={64}
            onPress={() => void v.write([draft('triaged', [draftFor(notebook.id)], leftOutside)], 'nothing seen from outside')}
            testID="triage-clear"
          />
        ) : null}
        <Ask
          label="Lid"
          options={['flush', 'not flush'] as const}
          value={t.lid}
          onSay={(x) => triage('lid', x)}
          history={th.lid}
        />
        <Ask
          label="Base on the table"
          options={['steady', 'rocks'] as const}
          value={t.base}
          onSay={(x) => triage('base', x)}
          history={th.base}
        />
        <Ask
          label="Smell"
          options={['none', 'smell'] as const}
          words={{ none: 'no smell', smell: 'sweet, solvent' }}
          value={t.smell}
          onSay={(x) => triage('smell', x)}
          history={th.smell}
        />
        <Ask
          label="To the hand"
          options={['cool', 'warm', 'hot'] as const}
          value={t.touch}
          onSay={(x) => triage('touch', x)}
          history={th.touch}
        />
        <Pictures
          of="damage"
          on={notebook ? [draftFor(notebook.id)] : []}
          photos={notebook?.photos ?? []}
          label="Picture of the damage"
        />
      </Card>
      <Card title="Signs over the pack" testID="card-signs">
        {leftSigns ? (
          <Button
            label="Looked at all four: none"
            height={64}
            onPress={() => void v.say('intake-noted', leftSigns, 'no signs over the pack')}
            testID="signs-clear"
          />
        ) : null}
        <Ask
          label="Keyboard"
          options={['even', 'uneven'] as const}
          value={i.keyboard}
          onSay={(x) => note('keyboard', x)}
          history={ih.keyboard}
        />
        <Ask
          label="Trackpad"
          options={['clicks', 'stiff'] as const}
          value={i.trackpad}
          onSay={(x) => note('trackpad', x)}
          history={ih.trackpad}
        />
        <Ask
          label="Seams"
          options={['closed', 'gapes'] as const}
          value={i.seam}
          onSay={(x) => note('seam', x)}
          history={ih.seam}
        />
        <Ask
          label="Sound"
          options={['none', 'hiss'] as const}
          words={{ none: 'no sound' }}
          value={i.sound}
          onSay={(x) => note('sound', x)}
          history={ih.sound}
        />
        <Caution>Hiss, smoke, heat: stop, leave, alarm, call.</Caution>
      </Card>
      <Card title="What the owner says" testID="card-owner-says">
        <Ask
          label="Liquid on it"
          options={['no', 'yes', 'unknown'] as const}
          value={i.liquid}
          onSay={(x) => note('liquid', x)}
          history={ih.liquid}
        />
        <Ask
          label="Dropped"
          options={['no', 'yes', 'unknown'] as const}
          value={i.drop}
          onSay={(x) => note('drop', x)}
          history={ih.drop}
        />
        <Ask
          label="Another charger"
          options={['tried', 'not tried'] as const}
          value={i.charger}
          onSay={(x) => note('charger', x)}
        />
        <Ask
          label="Maker’s warranty"
          options={['none', 'running', 'unknown'] as const}
          value={i.warranty}
          onSay={(x) => note('warranty', x)}
        />
        <Ask
          label="Agrees to opening"
          options={['given', 'refused', 'not asked'] as const}
          words={{ given: 'yes', refused: 'no' }}
          value={i.consent}
          onSay={(x) => note('consent', x)}
          history={ih.consent}
        />
        {i.warranty === 'running' ? <Caution>Opening may end the warranty: say so before the consent.</Caution> : null}
        <Ask
          label="Old pack"
          options={['stays here', 'owner wants it back'] as const}
          value={i.oldPack}
          onSay={(x) => note('oldPack', x)}
        />
        {i.oldPack === 'owner wants it back' ? (
          <Words size={15}>A damaged pack is not handed back for use, and travels only as its ruling says.</Words>
        ) : null}
        <Texts job={job.id} complaint={job.complaint} saw={i.ownerSaw ?? ''} agreed={i.agreed ?? ''} onSay={note} />
      </Card>
      <Card title="Charge before opening" testID="card-charge">
        <Words size={15} soft>
          As the machine shows it, or paste what its operating system reports.
        </Words>
        <Row>
          {[10, 20, 30, 50, 80, 100].map((n) => (
            <Button key={n} label={`${n} %`} selected={i.charge === n} onPress={() => note('charge', n)} testID={`charge-${n}`} />
          ))}
        </Row>
        <GaugePaste v={v} />
      </Card>
      <OwnerCard v={v} />
    </>
  );
}

interface Meant {
  readonly code: string;
  readonly note: string;
}

/** Is a finding one of those that an answer means? */
const isOf = (f: { readonly code: string; readonly note?: string }, meant: readonly Meant[]): boolean =>
  meant.some((m) => m.code === f.code && m.note === f.note);

const CLEAR_OUTSIDE: TriageBody = { lid: 'flush', base: 'steady', smell: 'none', touch: 'cool' };
const CLEAR_SIGNS: IntakeBody = { keyboard: 'even', trackpad: 'clicks', seam: 'closed', sound: 'none' };

/** The part of a statement that nobody has made yet; null when there is none. */
function unsaid<T extends object>(clear: T, said: T): T | null {
  const left = Object.entries(clear).filter(([k]) => said[k as keyof T] === undefined);
  return left.length > 0 ? (Object.fromEntries(left) as T) : null;
}

const draftFor = (id: string) => `notebook:${id}` as const;

function Texts({
  job,
  complaint,
  saw,
  agreed,
  onSay,
}: {
  job: string;
  complaint: string;
  saw: string;
  agreed: string;
  onSay: (f: 'complaint' | 'ownerSaw' | 'agreed', v: string) => Promise<unknown>;
}) {
  const before = { complaint, ownerSaw: saw, agreed };
  const [touched, setTouched, done] = useDraft<Partial<typeof before>>(`words ${job}`, {});
  const text = { ...before, ...touched };
  const fields = [
    ['complaint', 'What is wrong'],
    ['ownerSaw', 'What the owner saw'],
    ['agreed', 'What was agreed'],
  ] as const;
  const changed = fields.filter(([f]) => text[f].trim() !== '' && text[f].trim() !== before[f]);
  return (
    <View style={{ gap: 8 }}>
      {fields.map(([f, label]) => (
        <Field
          key={f}
          label={label}
          value={text[f]}
          onChange={(x) => setTouched((s) => ({ ...s, [f]: x }))}
          longest={LONGEST.story}
          multiline
          testID={`text-${f}`}
        />
      ))}
      {changed.length > 0 ? (
        <Button
          label="Keep the words"
          tone="next"
          height={56}
          disabled={changed.some(([f]) => text[f].length > LONGEST.story)}
          onPress={() => void Promise.all(changed.map(([f]) => onSay(f, text[f].trim()))).then(done, () => undefined)}
          testID="keep-texts"
        />
      ) : null}
    </View>
  );
}
