import {
  type Bodies,
  DAY_FORMS,
  DECIMAL_MARKS,
  DISTANCE_SCHOOLS,
  LENGTH_UNITS,
  type LoggedEntry,
  type PolicyFacts,
  TEMPERATURE_UNITS,
  waitingPolicy,
  WATCHES,
  counted,
} from '@gavrel/core';
import { useEffect, useState } from 'react';
import { View } from 'react-native';
import { entriesOf } from '../../device/store';
import { draft } from '../../device/write';
import { useAppSelector } from '../../state';
import { useMay } from '../../state/may';
import { useActions } from '../../state/context';
import { Field } from '../../ui/field';
import { AsWorded } from '../../ui/display';
import { Card } from '../../ui/frame';
import { Choice, Button } from '../../ui/buttons';
import { agoWords } from '../../ui/say';
import { Words } from '../../ui/words';
import { SignKey } from '../../entry/sign-sheet';

const SCHOOLS = { any: 'any growth over 5 %', allowance: 'up to 10 %' } as const;
/** Days to choose from; more days than now wait for a second lead where they make a ruling milder. */
const DAYS = {
  lookDays: ['A look keeps a pack sound for', ['14', '30', '60']],
  dispatchDays: ['For dispatch a look and a charge are good for', ['3', '7', '14']],
  stayDays: ['In quarantine at most', ['14', '28', '56']],
} as const;
const READINGS = { usual: 'whole pack only', strict: 'inner cells too' } as const;

/** Milder switches that nobody else has confirmed yet. */
function useWaiting(subject: `policy:${string}`): readonly LoggedEntry[] {
  const version = useAppSelector((s) => s.logbook.version);
  const [waiting, setWaiting] = useState<readonly LoggedEntry[]>([]);
  useEffect(() => {
    let current = true;
    void entriesOf(subject).then((e) => current && setWaiting(waitingPolicy(e)));
    return () => {
      current = false;
    };
  }, [subject, version]);
  return waiting;
}

/** What the workshop's own authority or recycler asks for, as they wrote it. @param what "waste code". */
function Written({
  label,
  what,
  present,
  longest,
  onKeep,
  testID,
}: {
  label: string;
  what: string;
  present: string | null;
  longest: number;
  onKeep: (text: string) => void;
  testID: string;
}) {
  const [text, setText] = useState(present ?? '');
  const given = text.trim();
  return (
    <>
      <Field label={label} value={text} onChange={setText} longest={longest} testID={testID} />
      {given === (present ?? '') ? null : (
        <Button
          label={given === '' ? `Take the ${what} away` : `Keep the ${what}`}
          onPress={() => onKeep(given)}
          testID={`${testID}-keep`}
        />
      )}
    </>
  );
}

const DECIMALS = { point: '11.4 V', comma: '11,4 V' } as const;
const DAY_WORDS = { 'day-first': '26 Oct 2026', 'month-first': 'Oct 26, 2026', iso: '2026-10-26' } as const;

/** How figures and days are shown. What is on record stays as it was read; papers that travel keep metric units. */
function DisplaySwitches({ policy, set }: { policy: PolicyFacts; set: (body: Bodies['policy-set'], words: string) => void }) {
  return (
    <AsWorded>
      <Words size={15}>Figures and days are shown as</Words>
      <Choice
        label="Lengths"
        options={LENGTH_UNITS}
        value={policy.lengths}
        onChange={(lengths) => set({ lengths }, 'unit of lengths')}
      />
      <Choice
        label="Temperatures"
        options={TEMPERATURE_UNITS}
        value={policy.temperatures}
        onChange={(temperatures) => set({ temperatures }, 'unit of temperatures')}
      />
      <Choice
        label="Decimal mark"
        options={DECIMAL_MARKS}
        words={DECIMALS}
        value={policy.decimalMark}
        onChange={(decimalMark) => set({ decimalMark }, 'decimal mark')}
      />
      <Choice
        label="Form of days"
        options={DAY_FORMS}
        words={DAY_WORDS}
        value={policy.days}
        onChange={(days) => set({ days }, 'form of days')}
      />
    </AsWorded>
  );
}

/** What a lead may switch. */
function Switches({ policy, set }: { policy: PolicyFacts; set: (body: Bodies['policy-set'], words: string) => void }) {
  return (
    <>
      <Choice
        label="School of swelling"
        options={['any', 'allowance'] as const}
        words={SCHOOLS}
        value={policy.swelling}
        onChange={(swelling) => set({ swelling }, 'school of swelling')}
      />
      <Written
        label="Waste code, where it is not the usual one"
        what="waste code"
        present={policy.wasteCode}
        longest={40}
        onKeep={(wasteCode) => set({ wasteCode }, 'waste code')}
        testID="waste-code"
      />
      <Written
        label="Number of this workshop as a producer of waste"
        what="number"
        present={policy.wasteProducer}
        longest={60}
        onKeep={(wasteProducer) => set({ wasteProducer }, 'number')}
        testID="waste-producer"
      />
      <Choice
        label="20 Wh test"
        options={['usual', 'strict'] as const}
        words={READINGS}
        value={policy.innerCellLimit ? 'strict' : 'usual'}
        onChange={(v) => set({ innerCellLimit: v === 'strict' }, '20 Wh test')}
      />
      {(Object.keys(DAYS) as (keyof typeof DAYS)[]).map((k) => (
        <View key={k} style={{ gap: 4 }}>
          <Words size={15}>{`${DAYS[k][0]}, days`}</Words>
          <Choice
            label={DAYS[k][0]}
            options={DAYS[k][1] as readonly string[]}
            value={String(policy[k])}
            onChange={(v) => set({ [k]: Number(v) }, 'days of the policy')}
          />
        </View>
      ))}
      <Words size={15}>A damaged pack that arrived is watched</Words>
      <Choice
        label="Watch"
        options={WATCHES}
        words={{ usual: 'at 15 min, 1, 4, 24, 48, 72 h', close: 'twice as often' }}
        value={policy.watch}
        onChange={(watch) => set({ watch }, 'times of the watch')}
      />
      <Words size={15}>A drum leaves within, days</Words>
      <Choice
        label="A drum leaves within"
        options={['90', '180', '365']}
        value={String(policy.drumDays ?? 365)}
        onChange={(v) => set({ drumDays: Number(v) }, 'days of a drum')}
      />
      <Words size={15}>Trained to assess</Words>
      <Choice
        label="Trained to assess"
        options={['any', 'practised'] as const}
        words={{ any: 'whom the lead names', practised: 'only after every grade of practice' }}
        value={policy.assessAfterPractice ? 'practised' : 'any'}
        onChange={(v) => set({ assessAfterPractice: v === 'practised' }, 'who assesses')}
      />
      <Words size={15}>Distances by the figures of</Words>
      <Choice
        label="Distances"
        options={DISTANCE_SCHOOLS}
        value={policy.distances}
        onChange={(distances) => set({ distances }, 'distances')}
      />
      <DisplaySwitches policy={policy} set={set} />
    </>
  );
}

/** The workshop's schools. More caution acts at once; the milder one waits for a second lead. */
export function PolicyCard() {
  const actions = useActions();
  const session = useAppSelector((s) => s.session.session)!;
  const policy = useAppSelector((s) => s.logbook.policy);
  const subject = `policy:${session.workshop.id}` as const;
  const waiting = useWaiting(subject);
  const maySet = useMay('policy-set');
  const name = (id: string) => session.people.find((p) => p.id === id)?.name ?? 'somebody';
  return (
    <Card title="Policy" testID="card-policy">
      <Words>
        {[
          `Swelling: ${SCHOOLS[policy.swelling]}`,
          `20 Wh test: ${READINGS[policy.innerCellLimit ? 'strict' : 'usual']}`,
          `a look is good for ${counted(policy.lookDays, 'day')}, for dispatch ${policy.dispatchDays}`,
          `quarantine at most ${counted(policy.stayDays, 'day')}`,
          `watch: ${policy.watch}`,
          `a drum leaves within ${counted(policy.drumDays ?? 365, 'day')}`,
          `distances: ${policy.distances}`,
          policy.assessAfterPractice && 'nobody is trained to assess before practice is passed',
        ]
          .filter(Boolean)
          .join(' · ')}
      </Words>
      {maySet ? (
        <Switches policy={policy} set={(body, words) => void actions.write([draft('policy-set', [subject], body)], words)} />
      ) : null}
      {waiting.map((e) => (
        <View key={e.id} style={{ flexDirection: 'row', alignItems: 'center', gap: 8 }}>
          <Words style={{ flex: 1 }}>{`A milder switch by ${name(e.by)}, ${agoWords(e.at)}, waits for a second lead.`}</Words>
          {maySet && e.by !== session.person.id ? (
            <Button
              label="Confirm"
              hint="the milder switch"
              tone="next"
              onPress={() => actions.write([draft('confirmed', [subject], { confirms: e.id })], 'confirmed')}
            />
          ) : maySet ? (
            <SignKey ids={[e.id]} label="Second lead signs…" />
          ) : null}
        </View>
      ))}
      <Words size={14} soft>
        Common practice, no source, but for the distances of the fire code and the insurers.
      </Words>
    </Card>
  );
}
