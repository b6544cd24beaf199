import { type FormBody, formOf, mergeLabels, type PackFacts, typeKey } from '@gavrel/core';
import { useMemo, useState } from 'react';
import { View } from 'react-native';
import { draft, type Draft } from '../../device/write';
import { useActions } from '../../state/context';
import { useWide } from '../../theme';
import { Field } from '../../ui/field';
import { Card, Row } from '../../ui/frame';
import { Button } from '../../ui/buttons';
import { Heading, Words } from '../../ui/words';
import { Keypad } from '../../entry/keypad';
import type { NumberTask } from '../../entry/number-task';
import { LabelCard } from '../../entry/label-card';
import { LookCard } from '../../entry/look-card';
import { MeasureCard } from '../../entry/measure-card';
import { AddPack } from './add-pack';
import { Candidate, MARK, type Ranked, useCandidates } from './candidates';
import { FormCard, formWords } from './form-card';
import { ReturnSheet, SourceCard } from './receiving';
import { SheetOffer } from './sheet-offer';
import { SideBySide } from './side-by-side';
import type { JobView, RuledPack } from './view';

type Keep = (d: Draft, words: string) => Promise<unknown>;

/** The old pack with the connector that was seen when it was isolated: nobody is asked twice. */
function withConnector(facts: PackFacts, v: JobView): PackFacts {
  const { job } = v;
  const connector = formOf(facts).connector ?? job.isolated?.body.connector;
  if (!connector || formOf(facts).connector || v.inside.length > 1) return facts;
  return { ...facts, form: { ...(facts.form ?? job.isolated!), body: { ...formOf(facts), connector } } };
}

/** The old pack's outline for a new one of the same type code that nobody has measured: both lie on the bench, one is laid on the other. */
function outlineToOffer(old: PackFacts, fresh: RuledPack): FormBody | null {
  const code = mergeLabels(old.labels).all.typeCode;
  const other = fresh.judgement.label.all.typeCode;
  const { length, width, connector, ears } = formOf(old);
  const known = formOf(fresh.facts);
  if (!code || !other || typeKey(code) !== typeKey(other) || !length || !width || !connector) return null;
  if (known.length || known.width || known.connector) return null;
  return { length, width, connector, ...(ears !== undefined && { ears }) };
}

interface OldAndNew {
  readonly old: RuledPack;
  readonly r: Ranked;
}

/** Which pack could go in: those that fit first, one of them picked. */
function CandidatesCard({
  v,
  old,
  all,
  r,
  search,
  onSearch,
  onPick,
  onAdd,
  onKeep,
}: {
  v: JobView;
  old: RuledPack;
  all: readonly Ranked[];
  r: Ranked | undefined;
  search: string;
  onSearch: (text: string) => void;
  onPick: (id: string | null) => void;
  onAdd: () => void;
  onKeep: Keep;
}) {
  const form = v.sheet?.form ?? null;
  const asked = (['length', 'width', 'connector', 'ears'] as const).filter((k) => formOf(old.facts)[k] === undefined);
  return (
    <Card
      title={`In place of ${old.facts.tag}`}
      right={<Button label="Add a new one" onPress={() => onAdd()} testID="add-replacement" />}
      testID="card-candidates"
    >
      {form && asked.length > 0 ? (
        <SheetOffer
          what={`The old one: ${formWords(form.value)}`}
          by={form.by}
          times={form.times}
          onTake={() => void onKeep(draft('form-noted', [`pack:${old.facts.id}`], form.value), 'outline of the old pack')}
          testID="take-form"
        />
      ) : null}
      <Field label="Type code or tag, partly legible is enough" value={search} onChange={onSearch} testID="match-search" />
      {(r ? [r] : all.slice(0, 8)).map((c) => (
        <Button
          key={c.pack.facts.id}
          label={c.pack.facts.tag}
          height={60}
          selected={c === r}
          onPress={() => onPick(c === r ? null : c.pack.facts.id)}
          testID={`candidate-${c.pack.facts.tag}`}
        >
          <Candidate c={c} picked={c === r} search={search} />
        </Button>
      ))}
      {r && all.length > 1 ? (
        <Button label={`Show the other ${all.length - 1}`} onPress={() => onPick(null)} testID="others" />
      ) : null}
      {!r && all.length > 8 ? <Words soft>{`${all.length - 8} more: type a part of the code.`}</Words> : null}
      {all.length === 0 ? <Words>No spare and no new pack here. Add the one that arrived.</Words> : null}
    </Card>
  );
}

/** What fits and what does not, line by line, and the decision. */
function VerdictCard({ v, old, r, onReturn }: OldAndNew & { v: JobView; onReturn: () => void }) {
  const decided = v.job.matches.filter((m) => m.new === r.pack.facts.id && m.old === old.facts.id).pop();
  const decide = (verdict: 'fits' | 'does not fit') => {
    const on = [`pack:${old.facts.id}` as const, `pack:${r.pack.facts.id}` as const, `job:${v.job.id}` as const];
    return v.write(
      [draft('match-decided', on, { old: old.facts.id, new: r.pack.facts.id, verdict })],
      `${r.pack.facts.tag} ${verdict}`,
    );
  };
  return (
    <Card title={`${MARK[r.match.verdict]} ${r.match.verdict}`} testID="card-verdict">
      <SideBySide old={old} r={r} />
      {decided ? <Words bold>{`Decided: ${decided.verdict}`}</Words> : null}
      <Row>
        <Button
          label="It fits"
          tone="next"
          height={64}
          disabled={r.match.verdict !== 'fits'}
          onPress={() => decide('fits')}
          testID="decide-fits"
        />
        <Button label="It does not fit" height={64} onPress={() => decide('does not fit')} testID="decide-not" />
        <Button label="Send it back" height={64} onPress={() => onReturn()} testID="send-back" />
      </Row>
      {r.match.verdict === 'not known yet' ? <Words size={15}>What carries a ? is measured first, on both packs.</Words> : null}
    </Card>
  );
}

/** The outlines of both, measured or taken from each other. */
function Outlines({ old, r, onTask, onKeep }: OldAndNew & { onTask: (t: NumberTask) => void; onKeep: Keep }) {
  const wide = useWide();
  const sameOutline = outlineToOffer(old.facts, r.pack);
  return (
    <View style={{ flexDirection: wide ? 'row' : 'column', gap: 12 }}>
      <View style={{ flex: wide ? 1 : undefined }}>
        <FormCard facts={old.facts} title="Old" onTask={onTask} onKeep={onKeep} />
      </View>
      <View style={{ flex: wide ? 1 : undefined, gap: 12 }}>
        {sameOutline ? (
          <Button
            label={`Laid on ${old.facts.tag}: the same outline, connector and ears`}
            hint={formWords(sameOutline)}
            height={64}
            tone="next"
            onPress={() => onKeep(draft('form-noted', [`pack:${r.pack.facts.id}`], sameOutline), 'outline, the same')}
            testID="same-outline"
          />
        ) : null}
        <FormCard facts={r.pack.facts} title="New" onTask={onTask} onKeep={onKeep} offers={!sameOutline} />
      </View>
    </View>
  );
}

/** What is asked of a pack that just came in. */
function Receiving({ r, onTask, onKeep }: { r: Ranked; onTask: (t: NumberTask) => void; onKeep: Keep }) {
  return (
    <>
      <Heading>{`Receiving ${r.pack.facts.tag}`}</Heading>
      <SourceCard key={r.pack.facts.id} p={r.pack} onKeep={onKeep} />
      <LookCard facts={r.pack.facts} ruling={r.pack.ruling} onKeep={onKeep} />
      <LabelCard facts={r.pack.facts} ruling={r.pack.ruling} onTask={onTask} onKeep={onKeep} />
      <MeasureCard facts={r.pack.facts} ruling={r.pack.ruling} onTask={onTask} onKeep={onKeep} />
    </>
  );
}

/** Old against new: what fits, what does not, and what nobody has measured. */
export function MatchStation({ v }: { v: JobView }) {
  const actions = useActions();
  const [search, setSearch] = useState('');
  const [oldAt, setOldAt] = useState(0);
  const [pick, setPick] = useState<string | null>(v.job.matches[v.job.matches.length - 1]?.new ?? null);
  const [adding, setAdding] = useState(false);
  const [task, setTask] = useState<NumberTask | null>(null);
  const [returning, setReturning] = useState(false);
  const chosen = v.inside[Math.min(oldAt, v.inside.length - 1)];
  const old = useMemo(() => chosen && { ...chosen, facts: withConnector(chosen.facts, v) }, [chosen, v]);
  const all = useCandidates(v, old, search.trim());
  const r = all.find((x) => x.pack.facts.id === pick);
  if (!old) return <Words>Add the old pack first: there is nothing to match against.</Words>;
  const onKeep: Keep = (d, words) => actions.write([d], words);
  return (
    <>
      {v.inside.length > 1 ? (
        <Row gap={6}>
          {v.inside.map((x, i) => (
            <Button
              key={x.facts.id}
              label={`replace ${x.facts.tag}`}
              role="radio"
              selected={x === chosen}
              onPress={() => setOldAt(i)}
            />
          ))}
        </Row>
      ) : null}
      <CandidatesCard
        v={v}
        old={old}
        all={all}
        r={r}
        search={search}
        onSearch={setSearch}
        onPick={setPick}
        onAdd={() => setAdding(true)}
        onKeep={onKeep}
      />
      {r ? (
        <>
          <VerdictCard v={v} old={old} r={r} onReturn={() => setReturning(true)} />
          <Outlines old={old} r={r} onTask={setTask} onKeep={onKeep} />
          <Receiving r={r} onTask={setTask} onKeep={onKeep} />
        </>
      ) : null}
      {adding ? <AddPack job={v.job} first="replacement" onClose={() => setAdding(false)} onAdded={setPick} /> : null}
      {returning && r ? (
        <ReturnSheet p={r.pack} onKeep={(d, w) => actions.write(d, w)} onClose={() => setReturning(false)} />
      ) : null}
      {task ? (
        <Keypad
          key={task.title}
          packId={task.packId ?? old.facts.id}
          first={task}
          onKeep={onKeep}
          onClose={() => setTask(null)}
        />
      ) : null}
    </>
  );
}
