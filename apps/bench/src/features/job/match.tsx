import { findPack, type FormBody, formOf, localDay, matchCode, mergeLabels, type PackFacts, show, typeKey } from '@gavrel/core';
import { type Match, matchPacks, type MatchVerdict } from '@gavrel/core/job';
import { useMemo, useState } from 'react';
import { View } from 'react-native';
import { draft, type Draft } from '../../device/write';
import { useAppSelector } from '../../state';
import { useActions } from '../../state/context';
import { columnsOf, rulingOf, useZone } from '../../state/rulings';
import { useTokens, useWide } from '../../theme';
import { Field } from '../../ui/field';
import { Card, Row } from '../../ui/frame';
import { Button } from '../../ui/buttons';
import { ConditionShape } from '../../ui/shape';
import { Figures, Heading, Words } from '../../ui/words';
import { Keypad } from '../../entry/keypad';
import type { NumberTask } from '../../entry/number-task';
import { LabelCard } from '../../entry/label-card';
import { LookCard } from '../../entry/look-card';
import { MeasureCard } from '../../entry/measure-card';
import { AddPack } from './add-pack';
import { FormCard } from './form-card';
import { ReturnSheet, SourceCard } from './receiving';
import { SheetOffer } from './sheet-offer';
import type { JobView, RuledPack } from './view';

const MARK: Record<MatchVerdict, string> = { fits: '○', 'not known yet': '…', 'does not fit': '×' };
const RESULT = { same: '=', fits: '=', differs: '×', unknown: '?', warn: '!', note: '·' } as const;
const ORDER: readonly MatchVerdict[] = ['fits', 'not known yet', 'does not fit'];

/** The old pack with the connector that was seen when it was isolated: nobody is asked twice. */
function withConnector(facts: PackFacts, v: JobView): PackFacts {
  const { job } = v;
  const connector = formOf(facts).connector ?? job.isolated?.body.connector;
  if (!connector || formOf(facts).connector || v.inside.length > 1) return facts;
  return { ...facts, form: { ...(facts.form ?? job.isolated!), body: { ...formOf(facts), connector } } };
}

const formWords = (f: FormBody) =>
  [
    f.length && f.width && `${show(f.length)} × ${show(f.width)}`,
    f.connector,
    f.ears !== undefined && `${f.ears} ears`,
    f.cable === 'without' ? 'without cable' : f.cable && 'cable with it',
  ]
    .filter(Boolean)
    .join(', ');

interface Ranked {
  readonly pack: RuledPack;
  readonly match: Match;
}

/** New packs and spares, those that fit first. */
function useCandidates(v: JobView, old: RuledPack | undefined, search: string): readonly Ranked[] {
  const { packs, policy } = useAppSelector((s) => s.logbook);
  const zone = useZone();
  return useMemo(() => {
    if (!old) return [];
    const today = localDay(zone, new Date());
    return Object.values(packs)
      .filter(
        (f) =>
          f.left === null &&
          (f.use === 'spare' || f.use === 'replacement') &&
          (f.job === null || f.job === v.job.id || f.use === 'spare'),
      )
      .map((facts): Ranked => {
        const ruling = rulingOf(facts, policy, zone);
        const pack = { facts, judgement: ruling.judgement, ruling };
        return { pack, match: matchPacks(old, pack, today) };
      })
      .filter((r) => findPack(columnsOf(r.pack.facts), search) !== null)
      .sort(
        (a, b) => ORDER.indexOf(a.match.verdict) - ORDER.indexOf(b.match.verdict) || (a.pack.facts.job === v.job.id ? -1 : 1),
      );
  }, [old, packs, policy, search, v.job.id, zone]);
}

/** Old and new side by side, one line a criterion: what stops it first. */
function SideBySide({ old, r }: { old: RuledPack; r: Ranked }) {
  const t = useTokens();
  const weight = { differs: 0, unknown: 1, warn: 2, same: 3, fits: 3, note: 4 } as const;
  const lines = [...r.match.criteria].sort((a, b) => weight[a.result] - weight[b.result]);
  return (
    <View style={{ gap: 0 }} testID="side-by-side">
      <View style={{ flexDirection: 'row', gap: 8, paddingBottom: 4 }}>
        <Words bold style={{ width: 22 }}>
          {' '}
        </Words>
        <Words bold size={15} style={{ flex: 1.1 }}>
          {' '}
        </Words>
        <Figures bold size={15} style={{ flex: 1 }}>
          {old.facts.tag}
        </Figures>
        <Figures bold size={15} style={{ flex: 1 }}>
          {r.pack.facts.tag}
        </Figures>
      </View>
      {lines.map((c) => (
        <View key={c.id} style={{ borderTopWidth: 1, borderColor: t.line, paddingVertical: 4 }}>
          <View style={{ flexDirection: 'row', gap: 8 }}>
            <Figures bold style={{ width: 22 }}>
              {RESULT[c.result]}
            </Figures>
            <Words size={15} bold={c.result === 'differs'} style={{ flex: 1.1 }}>
              {c.title}
            </Words>
            <Figures size={15} style={{ flex: 1 }}>
              {c.old || ' '}
            </Figures>
            <Figures size={15} style={{ flex: 1 }}>
              {c.new}
            </Figures>
          </View>
          {c.words ? (
            <Words size={14} soft={c.result === 'note'} style={{ paddingLeft: 30 }}>
              {c.words}
            </Words>
          ) : null}
        </View>
      ))}
    </View>
  );
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

/** Old against new: what fits, what does not, and what nobody has measured. */
export function MatchStation({ v }: { v: JobView }) {
  const actions = useActions();
  const wide = useWide();
  const [search, setSearch] = useState('');
  const [oldAt, setOldAt] = useState(0);
  const [pick, setPick] = useState<string | null>(v.job.matches[v.job.matches.length - 1]?.new ?? null);
  const [adding, setAdding] = useState(false);
  const [task, setTask] = useState<NumberTask | null>(null);
  const [returning, setReturning] = useState(false);
  const chosen = v.inside[Math.min(oldAt, v.inside.length - 1)];
  const old = useMemo(() => chosen && { ...chosen, facts: withConnector(chosen.facts, v) }, [chosen, v]);
  const form = v.sheet?.form ?? null;
  const asked = old ? (['length', 'width', 'connector', 'ears'] as const).filter((k) => formOf(old.facts)[k] === undefined) : [];
  const all = useCandidates(v, old, search.trim());
  const r = all.find((x) => x.pack.facts.id === pick);
  if (!old) return <Words>Add the old pack first: there is nothing to match against.</Words>;
  const onKeep = (d: Draft, words: string) => actions.write([d], words);
  const decide = (verdict: 'fits' | 'does not fit') => {
    const on = [`pack:${old.facts.id}` as const, `pack:${r!.pack.facts.id}` as const, `job:${v.job.id}` as const];
    void v.write(
      [draft('match-decided', on, { old: old.facts.id, new: r!.pack.facts.id, verdict })],
      `${r!.pack.facts.tag} ${verdict}`,
    );
  };
  const sameOutline = r ? outlineToOffer(old.facts, r.pack) : null;
  const decided = r && v.job.matches.filter((m) => m.new === r.pack.facts.id && m.old === old.facts.id).pop();
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
      <Card
        title={`In place of ${old.facts.tag}`}
        right={<Button label="Add a new one" onPress={() => setAdding(true)} testID="add-replacement" />}
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
        <Field label="Type code or tag, partly legible is enough" value={search} onChange={setSearch} testID="match-search" />
        {(r ? [r] : all.slice(0, 8)).map((c) => (
          <Button
            key={c.pack.facts.id}
            label={c.pack.facts.tag}
            height={60}
            selected={c === r}
            onPress={() => setPick(c === r ? null : c.pack.facts.id)}
            testID={`candidate-${c.pack.facts.tag}`}
          >
            <Candidate c={c} picked={c === r} search={search} />
          </Button>
        ))}
        {r && all.length > 1 ? (
          <Button label={`Show the other ${all.length - 1}`} onPress={() => setPick(null)} testID="others" />
        ) : null}
        {!r && all.length > 8 ? <Words soft>{`${all.length - 8} more: type a part of the code.`}</Words> : null}
        {all.length === 0 ? <Words>No spare and no new pack here. Add the one that arrived.</Words> : null}
      </Card>
      {r ? (
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
            <Button label="Send it back" height={64} onPress={() => setReturning(true)} testID="send-back" />
          </Row>
          {r.match.verdict === 'not known yet' ? (
            <Words size={15}>What carries a ? is measured first, on both packs.</Words>
          ) : null}
        </Card>
      ) : null}
      {r ? (
        <View style={{ flexDirection: wide ? 'row' : 'column', gap: 12 }}>
          <View style={{ flex: wide ? 1 : undefined }}>
            <FormCard facts={old.facts} title="Old" onTask={setTask} onKeep={onKeep} />
          </View>
          <View style={{ flex: wide ? 1 : undefined, gap: 12 }}>
            {sameOutline ? (
              <Button
                label={`Laid on ${old.facts.tag}: the same outline, connector and ears`}
                hint={formWords(sameOutline)}
                height={64}
                tone="next"
                onPress={() => void onKeep(draft('form-noted', [`pack:${r.pack.facts.id}`], sameOutline), 'outline, the same')}
                testID="same-outline"
              />
            ) : null}
            <FormCard facts={r.pack.facts} title="New" onTask={setTask} onKeep={onKeep} />
          </View>
        </View>
      ) : null}
      {r ? (
        <>
          <Heading>{`Receiving ${r.pack.facts.tag}`}</Heading>
          <SourceCard key={r.pack.facts.id} p={r.pack} onKeep={onKeep} />
          <LookCard facts={r.pack.facts} ruling={r.pack.ruling} onKeep={onKeep} />
          <LabelCard facts={r.pack.facts} ruling={r.pack.ruling} onTask={setTask} onKeep={onKeep} />
          <MeasureCard facts={r.pack.facts} ruling={r.pack.ruling} onTask={setTask} onKeep={onKeep} />
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

function Candidate({ c, picked, search }: { c: Ranked; picked: boolean; search: string }) {
  const t = useTokens();
  const ink = picked ? t.ground : t.ink;
  const code = c.pack.judgement.label.all.typeCode ?? '';
  const match = search.trim() === '' ? null : matchCode(search, code);
  const why = c.match.criteria.find((x) => x.result === 'differs') ?? c.match.criteria.find((x) => x.result === 'unknown');
  return (
    <View style={{ width: '100%', flexDirection: 'row', alignItems: 'center', gap: 10 }}>
      <ConditionShape condition={c.pack.judgement.condition} size={24} color={ink} named />
      <View style={{ flex: 1 }}>
        <Words color={ink}>
          <Figures bold color={ink}>
            {c.pack.facts.tag}
          </Figures>
          {`  ${code}`}
        </Words>
        <Words size={14} color={ink} lines={1}>
          {match?.kind === 'forgiven'
            ? match.pairs.join(', ')
            : why
              ? `${why.title}: ${why.result === 'unknown' ? 'not known' : why.words}`
              : `${c.pack.facts.use ?? ''}`}
        </Words>
      </View>
      <Words bold color={ink}>{`${MARK[c.match.verdict]} ${c.match.verdict}`}</Words>
    </View>
  );
}
