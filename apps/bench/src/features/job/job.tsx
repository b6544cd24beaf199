import { type JobFacts, type PackUse, taggedId } from '@gavrel/core';
import { router } from 'expo-router';
import { useState } from 'react';
import { View } from 'react-native';
import Svg, { Circle, Line as SvgLine, Path } from 'react-native-svg';
import { draft } from '../../log/write';
import { useAppSelector } from '../../store';
import { useActions } from '../../store/context';
import { localDay, rulingOf, selectZone } from '../../store/rulings';
import { useTokens } from '../../theme';
import { Field } from '../../ui/field';
import { Card, Column, Row } from '../../ui/frame';
import { Choice, Key } from '../../ui/keys';
import { RulingStrip } from '../../ui/ruling-strip';
import { dueWords, exactWords } from '../../ui/say';
import { Sheet } from '../../ui/sheet';
import { Heading, Words } from '../../ui/words';

type Stop = 'done' | 'next' | 'open';

/** The job as a ruler with notches; done, next and open are told by shape. */
function Rail({ stops }: { stops: readonly (readonly [string, Stop])[] }) {
  const t = useTokens();
  const W = 340;
  const gap = W / stops.length;
  const x = (i: number) => gap / 2 + i * gap;
  const said = stops.map(([name, s]) => `${name}: ${s}`).join(', ');
  return (
    <View role="img" aria-label={`stations: ${said}`} style={{ width: '100%', maxWidth: 520 }}>
      <Svg width="100%" height={36} viewBox={`0 0 ${W} 36`} aria-hidden>
        <SvgLine x1={4} x2={W - 4} y1={18} y2={18} stroke={t.line} strokeWidth={2} />
        {Array.from({ length: 34 }, (_, i) => (
          <SvgLine key={i} x1={6 + i * 10} x2={6 + i * 10} y1={18} y2={i % 5 === 0 ? 26 : 22} stroke={t.line} strokeWidth={1} />
        ))}
        {stops.map(([name, s], i) =>
          s === 'done' ? (
            <Circle key={name} cx={x(i)} cy={18} r={8} fill={t.ink} />
          ) : s === 'next' ? (
            <Path key={name} d={`M${x(i)} 6 l11 12 l-11 12 l-11 -12 Z`} fill={t.accent} />
          ) : (
            <Circle key={name} cx={x(i)} cy={18} r={7} fill={t.card} stroke={t.ink} strokeWidth={2.5} />
          ),
        )}
      </Svg>
      <View style={{ flexDirection: 'row' }} aria-hidden>
        {stops.map(([name, s]) => (
          <Words key={name} size={14} bold={s === 'next'} style={{ flex: 1, textAlign: 'center' }}>
            {name}
          </Words>
        ))}
      </View>
    </View>
  );
}

function AddPack({ job, onClose }: { job: JobFacts; onClose: () => void }) {
  const actions = useActions();
  const workshop = useAppSelector((s) => s.session.session?.workshop.id ?? '');
  const [tag, setTag] = useState('');
  const [use, setUse] = useState<PackUse>('removed');
  const [slot, setSlot] = useState<'internal' | 'external' | 'dock'>('internal');
  const id = tag.trim() === '' ? null : taggedId(workshop, 'pack', tag);
  const taken = useAppSelector((s) => (id === null ? undefined : s.logbook.packs[id]));
  const add = async () => {
    if (id === null || taken) return;
    const links = [`job:${job.id}` as const, ...(job.notebook ? [`notebook:${job.notebook}` as const] : [])];
    await actions.write(
      [draft('pack-added', [`pack:${id}`, ...links], { tag: tag.trim(), use, slot })],
      `pack ${tag.trim()} added`,
    );
    onClose();
    router.push(`/pack/${id}`);
  };
  return (
    <Sheet
      title="Add its pack"
      onClose={onClose}
      footer={
        <Key
          label="Add"
          tone="next"
          height={64}
          disabled={id === null || taken !== undefined}
          onPress={() => void add()}
          testID="add-pack-now"
        />
      }
    >
      <Field label="Tag of the pack" value={tag} onChange={setTag} autoFocus testID="pack-tag" />
      {taken ? <Words bold>This tag is on another pack already. Tags are never used again: take a new one.</Words> : null}
      <Choice label="Use" options={['removed', 'replacement', 'spare', 'fitted'] as const} value={use} onChange={setUse} />
      <Choice label="Where it sits" options={['internal', 'external', 'dock'] as const} value={slot} onChange={setSlot} />
    </Sheet>
  );
}

/** What is owed on the job: a proof that must come back as a task, not be forgotten. */
function ProofCard({ job, tag }: { job: JobFacts; tag: string }) {
  const actions = useActions();
  const zone = useAppSelector(selectZone);
  const today = localDay(zone, new Date());
  const owe = (days: number) => {
    const on = localDay(zone, new Date(Date.now() + days * 86_400_000));
    return actions.write(
      [draft('due-set', [`job:${job.id}`], { what: 'proof', on, note: `${tag}: start, seen, charges, gauge` })],
      'proof owed',
    );
  };
  return (
    <Card title="Proof" testID="card-proof">
      {job.dues.map((d) => (
        <View key={d.id} style={{ flexDirection: 'row', gap: 8, alignItems: 'center' }}>
          <View style={{ flex: 1 }}>
            <Words bold>{`${d.what} owed, ${dueWords(d.on, today)}`}</Words>
            <Words size={15}>{d.note}</Words>
          </View>
          <Key
            label="Done"
            hint={d.note}
            tone="next"
            onPress={() => void actions.write([draft('due-met', [`job:${job.id}`], { meets: d.id })], `${d.what} done`)}
          />
        </View>
      ))}
      {job.dues.length === 0 ? (
        <Words soft>
          Does it start, is the pack seen, does it charge, does the gauge read plausibly? If that must wait, owe it.
        </Words>
      ) : null}
      <Row>
        <Key label="Owe it, tomorrow" onPress={() => void owe(1)} testID="owe-proof" />
        <Key label="in 3 days" hint="owe it" onPress={() => void owe(3)} />
      </Row>
    </Card>
  );
}

/** One visit of one notebook: who it is, its packs, and closing it. */
export function Job({ id }: { id: string }) {
  const actions = useActions();
  const job = useAppSelector((s) => s.logbook.jobs[id]);
  const notebook = useAppSelector((s) => (job?.notebook ? s.logbook.notebooks[job.notebook] : undefined));
  const packs = useAppSelector((s) => s.logbook.packs);
  const policy = useAppSelector((s) => s.logbook.policy);
  const ready = useAppSelector((s) => s.logbook.ready);
  const zone = useAppSelector(selectZone);
  const [adding, setAdding] = useState(false);
  if (!job) return <Column>{ready ? <Words>This job is not on this device yet.</Words> : null}</Column>;
  const mine = job.packs.flatMap((p) => packs[p] ?? []);
  const judged = mine.length > 0 && mine.every((p) => rulingOf(p, policy, zone).judgement.condition !== 'unproven');
  const stops = [
    ['notebook', 'done'],
    ['packs', mine.length > 0 ? 'done' : 'next'],
    ['judged', judged ? 'done' : mine.length > 0 ? 'next' : 'open'],
    ['closed', job.closedAt ? 'done' : judged ? 'next' : 'open'],
  ] as const;
  const identity =
    notebook?.plate === 'unreadable'
      ? 'plate unreadable'
      : [notebook?.maker, notebook?.model, notebook?.serial].filter(Boolean).join(' · ');
  return (
    <Column style={{ width: '100%', maxWidth: 900, alignSelf: 'center' }}>
      <Heading level={1} size={26}>
        {`Job ${notebook?.tag ?? ''}`}
      </Heading>
      <Rail stops={stops} />
      <Card title="Notebook" testID="card-notebook" right={<Words bold>{notebook?.tag}</Words>}>
        <Words>{identity || 'nothing read from the plate'}</Words>
        <Words>{job.complaint || 'no complaint noted'}</Words>
        <Words
          size={14}
          soft
        >{`opened ${exactWords(job.openedAt)}${job.closedAt ? `, closed ${exactWords(job.closedAt)}` : ''}`}</Words>
      </Card>
      <Card
        title="Packs"
        right={
          <Key
            label="Add its pack"
            tone={mine.length === 0 ? 'next' : 'plain'}
            onPress={() => setAdding(true)}
            testID="add-its-pack"
          />
        }
      >
        {mine.length === 0 ? <Words>No pack yet. Tag it, then add it.</Words> : null}
        {mine.map((p) => (
          <Key
            key={p.id}
            label={`pack ${p.tag}`}
            onPress={() => router.push(`/pack/${p.id}`)}
            style={{ padding: 0, paddingHorizontal: 0, paddingVertical: 0, borderWidth: 0, alignItems: 'stretch' }}
            testID={`pack-${p.tag}`}
          >
            <RulingStrip ruling={rulingOf(p, policy, zone)} tag={p.tag} />
          </Key>
        ))}
      </Card>
      {job.closedAt && job.dues.length === 0 ? null : <ProofCard job={job} tag={notebook?.tag ?? ''} />}
      {job.closedAt ? null : (
        <Key
          label="Close the job"
          height={64}
          disabled={mine.length > 0 && !judged}
          onPress={() =>
            void actions.write(
              [draft('job-closed', [`job:${job.id}`, ...(job.notebook ? [`notebook:${job.notebook}` as const] : [])], {})],
              'job closed',
            )
          }
          testID="close-job"
        />
      )}
      {!job.closedAt && mine.length > 0 && !judged ? (
        <Words soft>A pack is still unproven: examine it before the job closes.</Words>
      ) : null}
      {adding ? <AddPack job={job} onClose={() => setAdding(false)} /> : null}
    </Column>
  );
}
