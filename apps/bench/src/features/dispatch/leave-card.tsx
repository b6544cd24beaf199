import { type Ending, parseDigits, type Subject } from '@gavrel/core';
import { rulePacked, sentPackage } from '@gavrel/core/consignment';
import { useState } from 'react';
import { draft } from '../../device/write';
import { useActions } from '../../state/context';
import { useMay } from '../../state/may';
import { LEFT_WORDS } from '../../state/rulings';
import { useDraft } from '../../state/use-draft';
import { Asked } from '../../ui/asked';
import { Button, Choice } from '../../ui/buttons';
import { Field } from '../../ui/field';
import { Card, Row } from '../../ui/frame';
import { exactWords } from '../../ui/say';
import { Sheet } from '../../ui/sheet';
import { Words } from '../../ui/words';
import { inParts } from '../../stock/parts';
import { askedOf, contentsOf, type ConsignmentView } from './view';
import { MODE_WORDS, packagesWord, packsWord, wayWords } from './words';

const subjects = (v: ConsignmentView, packs: readonly string[]): Subject[] => [
  `consignment:${v.facts.id}`,
  ...packs.map((id): Subject => `pack:${id}`),
];

/** Each package ruled for today, whatever day was planned: that is the day it would leave. */
const ruledToday = (v: ConsignmentView) =>
  v.packages.map((p) => {
    const question = askedOf({ ...v, on: v.today }, p, contentsOf(p), v.packages.length);
    return { ...p, question, ruled: v.on === v.today ? p.ruled : rulePacked(question) };
  });

/** Everything that keeps it here today, each in words; empty where it may be handed over. */
export function whyNotYet(v: ConsignmentView): string[] {
  const packages = ruledToday(v);
  const tag = (id: string) => v.sendings.get(id)?.tag ?? '?';
  const open = packages.filter((p) => p.closed === null);
  const loose = v.state.packs.filter((id) => !(id in v.facts.packed));
  const counted = (id: string, closedBy: string | undefined, n: number) =>
    (v.facts.counts[id] ?? []).some((c) => c.by !== closedBy && c.count === n);
  return [
    ...(v.state.unheld.length > 0 ? [`${packsWord(v.state.unheld.length)} of it not on this device`] : []),
    ...v.members.flatMap((m) =>
      m.left !== null ? [`${m.tag} ${LEFT_WORDS[m.leftTo ?? 'owner']}: take it off, or look for it`] : [],
    ),
    ...(packages.length === 0 ? ['nothing is planned or packed'] : []),
    ...(v.facts.mode === undefined ? ['no way is chosen'] : []),
    ...(v.facts.destination === undefined ? ['nobody said where it goes'] : []),
    ...(loose.length > 0 ? [`${loose.length > 4 ? packsWord(loose.length) : loose.map(tag).join(', ')} not packed yet`] : []),
    ...packages
      .filter((p) => p.strayed.length > 0)
      .map((p) => `package ${p.number}: open it, ${packsWord(p.strayed.length)} went elsewhere`),
    ...(open.length > 0 ? [`not closed: ${open.map((p) => `package ${p.number}`).join(', ')}`] : []),
    ...packages.filter((p) => !p.ruled.lawful).map((p) => `package ${p.number}: ${p.ruled.why[0]}`),
    ...packages
      .filter((p) => p.closed && p.ruled.result.condition === 'damaged' && !counted(p.id, p.closed.by, p.packed.length))
      .map((p) => `package ${p.number} holds damaged packs: a second person counts`),
  ];
}

/** It leaves: who takes it, under which number. Each package is ruled once more on this day, and that is written down. */
function HandOverSheet({ v, onClose }: { v: ConsignmentView; onClose: () => void }) {
  const actions = useActions();
  const carrier = v.means.carriers.find((c) => c.id === v.facts.carrier);
  const [typed, setTyped, done] = useDraft<{ readonly to?: string; readonly number?: string }>(`hand over ${v.facts.id}`, {});
  const { to, number } = { to: carrier?.name ?? '', number: '', ...typed };
  const go = async () => {
    const packages = new Map(ruledToday(v).map((p) => [p.id, { ...sentPackage(p.id, p.question, p.ruled), number: p.number }]));
    const parts = inParts(v.state.packs).map((part) => {
      const here = new Set(part.map((id) => v.facts.packed[id]));
      return draft('consignment-handed-over', subjects(v, part), {
        to: to.trim(),
        ...(number.trim() && { number: number.trim() }),
        on: v.today,
        mode: v.facts.mode!,
        region: v.region,
        packages: [...packages.values()].filter((p) => here.has(p.id)),
      });
    });
    await actions.write(parts, `${packagesWord(packages.size)} handed over`);
    done();
    onClose();
  };
  return (
    <Sheet
      title="Hand over"
      onClose={onClose}
      footer={
        <Button
          label={`${packagesWord(v.packages.length)} leave now`}
          tone="next"
          height={64}
          disabled={to.trim() === ''}
          onPress={() => go()}
          testID="leave-now"
        />
      }
    >
      <Words bold>{`${packsWord(v.state.packs.length)} ${wayWords(v.facts, undefined)}`}</Words>
      <Words>Every package was ruled again today. A trained person signs what the rules ask for.</Words>
      <Field
        label="Who takes it"
        value={to}
        onChange={(x) => setTyped((f) => ({ ...f, to: x }))}
        longest={80}
        autoFocus
        testID="hand-to"
      />
      <Field
        label="Number of the waybill"
        value={number}
        onChange={(x) => setTyped((f) => ({ ...f, number: x }))}
        longest={60}
        testID="waybill"
      />
    </Sheet>
  );
}

const ENDS = ['refused', 'returned', 'lost'] as const satisfies readonly Ending[];
const END_WORDS = { refused: 'refused', returned: 'came back', lost: 'lost' } as const;

/** What became of it. What comes back is unproven until somebody looked. */
function OutcomeSheet({ v, onClose }: { v: ConsignmentView; onClose: () => void }) {
  const actions = useActions();
  const [what, setWhat] = useState<'arrived' | (typeof ENDS)[number]>('arrived');
  const [form, setForm, done] = useDraft(`outcome ${v.facts.id}`, { reason: '', packs: '', weighed: '', receipt: '' });
  const { reason, packs, weighed, receipt } = form;
  const set = (f: keyof typeof form) => (x: string) => setForm((b) => ({ ...b, [f]: x }));
  const digits = weighed.trim() === '' ? null : parseDigits(weighed);
  const n = /^\d{1,5}$/.test(packs.trim()) ? Number(packs.trim()) : null;
  const wrong = (weighed.trim() !== '' && (digits === null || !(Number(digits) > 0))) || (packs.trim() !== '' && n === null);
  const sent = v.facts.sent!;
  const differs = n !== null && n !== sent.packs.length ? `${packsWord(sent.packs.length)} left, ${n} arrived.` : null;
  const body = {
    ...(n !== null && { packs: n }),
    ...(digits !== null && !wrong && { weighed: { digits, unit: 'kg' as const } }),
    ...(receipt.trim() && { receipt: receipt.trim() }),
  };
  const keep = async () => {
    if (what === 'arrived') await actions.write([draft('consignment-arrived', subjects(v, []), body)], 'arrived');
    else {
      const said = { how: what, reason: reason.trim() };
      await actions.write(
        inParts(sent.packs).map((part) => draft('consignment-ended', subjects(v, part), said)),
        END_WORDS[what],
      );
    }
    done();
    onClose();
  };
  return (
    <Sheet
      title="What became of it"
      onClose={onClose}
      footer={
        <Button
          label="Keep"
          tone="next"
          height={64}
          disabled={what === 'arrived' ? wrong || Object.keys(body).length === 0 : reason.trim().length < 3}
          onPress={() => keep()}
          testID="keep-outcome"
        />
      }
    >
      <Choice
        label="What became of it"
        options={['arrived', ...ENDS] as const}
        words={END_WORDS}
        value={what}
        onChange={setWhat}
        height={56}
      />
      {what === 'arrived' ? (
        <>
          <Field label="Packs counted there" value={packs} onChange={set('packs')} testID="arrived-packs" />
          <Field label="Weighed there, kg" value={weighed} onChange={set('weighed')} testID="arrived-kg" />
          <Field label="Receipt" value={receipt} onChange={set('receipt')} longest={120} testID="receipt" />
          <Asked words={wrong ? 'Write a whole number of packs, and the weight as 7,4.' : differs} />
        </>
      ) : (
        <>
          <Field label="Why" value={reason} onChange={set('reason')} longest={500} multiline testID="outcome-why" />
          <Words bold>
            {what === 'lost'
              ? 'They stay away. Tell the carrier and the lead today; a suspect pack that is lost is a danger to others.'
              : 'Every pack is here again and unproven: look at each before anything else, outdoors where one is suspect.'}
          </Words>
        </>
      )}
    </Sheet>
  );
}

/** Hand over, and what became of it. */
export function LeaveCard({ v }: { v: ConsignmentView }) {
  const actions = useActions();
  const ships = useMay('consignment-handed-over');
  const [sheet, setSheet] = useState<'hand over' | 'outcome' | 'cancel' | null>(null);
  const { sent, arrived, ended } = v.facts;
  const why = sent ? [] : whyNotYet(v);
  const close = () => setSheet(null);
  if (ended && !sent)
    return (
      <Card title="Cancelled">
        <Words>{ended.reason}</Words>
      </Card>
    );
  return (
    <Card title={ended ? 'Not arrived' : arrived ? 'Arrived' : sent ? 'On its way' : 'Hand over'} testID="card-leave">
      {sent ? (
        <>
          <Words bold>{`${sent.to}, ${exactWords(sent.at)}${sent.number ? `, ${sent.number}` : ''}`}</Words>
          <Words>{`${packsWord(sent.packs.length)} in ${packagesWord(sent.packages.length)}, by ${MODE_WORDS[sent.mode]}`}</Words>
          {arrived ? (
            <Words bold>
              {['Arrived', arrived.packs !== undefined && `${arrived.packs} of ${sent.packs.length} counted`, arrived.receipt]
                .filter(Boolean)
                .join('; ')}
            </Words>
          ) : null}
          {ended ? <Words bold>{`${END_WORDS[ended.how as keyof typeof END_WORDS] ?? ended.how}: ${ended.reason}`}</Words> : null}
        </>
      ) : (
        why.slice(0, 6).map((w) => <Words key={w}>{`× ${w}`}</Words>)
      )}
      {why.length > 6 ? <Words>{`and ${why.length - 6} more`}</Words> : null}
      {ships ? (
        <Row>
          {sent ? (
            ended && ended.how !== 'lost' ? null : (
              <Button
                label={arrived || ended ? 'What became of it' : 'Arrived, refused, lost'}
                tone={arrived || ended ? 'plain' : 'next'}
                height={56}
                onPress={() => setSheet('outcome')}
                testID="outcome"
              />
            )
          ) : (
            <>
              <Button
                label="Hand over"
                tone={why.length === 0 ? 'next' : 'plain'}
                height={56}
                disabled={why.length > 0}
                onPress={() => setSheet('hand over')}
                testID="hand-over-consignment"
              />
              <Button label="Cancel it" tone="quiet" height={56} onPress={() => setSheet('cancel')} testID="cancel-consignment" />
            </>
          )}
        </Row>
      ) : null}
      {sheet === 'hand over' ? <HandOverSheet v={v} onClose={close} /> : null}
      {sheet === 'outcome' ? <OutcomeSheet v={v} onClose={close} /> : null}
      {sheet === 'cancel' ? (
        <Sheet
          title="Cancel this consignment?"
          onClose={close}
          footer={
            <Button
              label="Cancel it"
              tone="next"
              height={64}
              onPress={() =>
                actions
                  .write(
                    inParts(v.state.packs).map((part) =>
                      draft('consignment-ended', subjects(v, part), { how: 'cancelled', reason: 'not sent' }),
                    ),
                    'cancelled',
                  )
                  .then(close)
              }
              testID="cancel-now"
            />
          }
        >
          <Words>{`${packsWord(v.state.packs.length)} stay here and are free for another one. Unpack what is packed.`}</Words>
        </Sheet>
      ) : null}
    </Card>
  );
}
