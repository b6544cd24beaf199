import { LONGEST } from '@gavrel/contract';
import {
  changeDays,
  type Due,
  type JobFacts,
  localDay,
  SHIPPING_RULES,
  type Subject,
  subjectId,
  subjectType,
  taggedId,
  DAY_MS,
} from '@gavrel/core';
import { format, parseISO } from 'date-fns';
import { router } from 'expo-router';
import { useState } from 'react';
import { View } from 'react-native';
import { v7 } from 'uuid';
import { draft } from '../../device/write';
import { useAppSelector } from '../../state';
import { useActions } from '../../state/context';
import { useMay } from '../../state/may';
import { useDraft } from '../../state/use-draft';
import { knownWords, useKnownMachine } from '../../stock/known-machine';
import { conditionOf, useDues } from '../../state/rulings';
import { SPACE, useTokens, useWide } from '../../theme';
import { Field } from '../../ui/field';
import { Card, Column } from '../../ui/frame';
import { Choice, Button } from '../../ui/buttons';
import { agoWords, dueWords } from '../../ui/say';
import { ConditionShape } from '../../ui/shape';
import { Sheet } from '../../ui/sheet';
import { Figures, Heading, Words } from '../../ui/words';

const EMPTY_JOB = {
  tag: '',
  plate: 'read' as 'read' | 'unreadable',
  maker: '',
  model: '',
  serial: '',
  complaint: '',
};

/** A notebook on the bench: its tag, its plate if it can be read, and what is wrong. */
function StartJob({ onClose }: { onClose: () => void }) {
  const actions = useActions();
  const workshop = useAppSelector((s) => s.session.session?.workshop.id ?? '');
  const [form, setForm, done] = useDraft('start a job', EMPTY_JOB);
  const { tag, plate, maker, model, serial, complaint } = form;
  const set = (part: Partial<typeof EMPTY_JOB>) => setForm((f) => ({ ...f, ...part }));
  const partly = useAppSelector((s) => s.logbook.holds !== null);
  const known = useKnownMachine(tag);
  const start = async () => {
    const id = taggedId(workshop, 'notebook', tag);
    // It may be known to the server alone: what is known of it is shown before anything is written.
    if (!known && partly && (await actions.fetchLog(`notebook:${id}`).catch(() => false))) return;
    const job = known?.open?.id ?? v7();
    const read =
      plate === 'read'
        ? {
            ...(maker.trim() && { maker: maker.trim() }),
            ...(model.trim() && { model: model.trim() }),
            ...(serial.trim() && { serial: serial.trim() }),
          }
        : {};
    if (!known?.open)
      await actions.write(
        [
          ...(known ? [] : [draft('notebook-identified', [`notebook:${id}`], { tag: tag.trim(), plate, ...read })]),
          draft('job-opened', [`job:${job}`, `notebook:${id}`], { ...(complaint.trim() && { complaint: complaint.trim() }) }),
        ],
        `job on ${tag.trim()} started`,
      );
    done();
    onClose();
    router.push(`/job/${job}`);
  };
  return (
    <Sheet
      title="Start a job"
      onClose={onClose}
      footer={
        <Button
          label={known?.open ? 'Go on with its job' : known ? 'The same machine again' : 'Start'}
          tone="next"
          height={64}
          disabled={tag.trim() === ''}
          onPress={() => void start()}
          testID="start-job-now"
        />
      }
    >
      <Words bold>Hot, hissing, smoking, or smelling of solvent? Stop. Leave, alarm, call.</Words>
      <Field
        label="Workshop tag"
        value={tag}
        onChange={(v) => set({ tag: v })}
        autoFocus
        longest={LONGEST.tag}
        testID="notebook-tag"
      />
      {known ? (
        <View role="status" style={{ gap: 4 }} testID="known-machine">
          {knownWords(known).map((w) => (
            <Words key={w} bold>
              {w}
            </Words>
          ))}
          <Words size={15}>{known.open ? '' : 'It is looked at from outside anew. '}Another machine? Give it another tag.</Words>
        </View>
      ) : (
        <Choice
          label="Plate"
          options={['read', 'unreadable'] as const}
          words={{ read: 'plate can be read', unreadable: 'plate unreadable' }}
          value={plate}
          onChange={(v) => set({ plate: v })}
        />
      )}
      {plate === 'read' && !known ? (
        <>
          <Field label="Maker" value={maker} onChange={(v) => set({ maker: v })} longest={LONGEST.name} testID="maker" />
          <Field label="Model" value={model} onChange={(v) => set({ model: v })} longest={LONGEST.name} testID="model" />
          <Field label="Serial" value={serial} onChange={(v) => set({ serial: v })} longest={LONGEST.name} testID="serial" />
        </>
      ) : null}
      {known?.open ? null : (
        <Field
          label="What is wrong"
          value={complaint}
          onChange={(v) => set({ complaint: v })}
          longest={LONGEST.story}
          multiline
          testID="complaint"
        />
      )}
    </Sheet>
  );
}

function JobLine({ job }: { job: JobFacts }) {
  const notebook = useAppSelector((s) => (job.notebook ? s.logbook.notebooks[job.notebook] : undefined));
  const packs = useAppSelector((s) => s.logbook.packs);
  const policy = useAppSelector((s) => s.logbook.policy);
  const machine =
    notebook?.plate === 'unreadable' ? 'plate unreadable' : [notebook?.maker, notebook?.model].filter(Boolean).join(' ');
  return (
    <Button
      label={`job ${notebook?.tag ?? ''}, ${machine}, ${job.complaint}`}
      height={68}
      onPress={() => router.push(`/job/${job.id}`)}
      testID={`job-${notebook?.tag ?? ''}`}
    >
      <View style={{ width: '100%', flexDirection: 'row', gap: 10, alignItems: 'center' }}>
        <View style={{ flex: 1 }}>
          <View style={{ flexDirection: 'row', gap: 8, alignItems: 'baseline' }}>
            <Figures bold size={17}>
              {notebook?.tag ?? '?'}
            </Figures>
            <Words size={15} lines={1} style={{ flex: 1 }}>
              {machine}
            </Words>
            <Words size={14} soft>
              {agoWords(job.openedAt)}
            </Words>
          </View>
          <Words size={15} soft lines={1}>
            {job.complaint || 'no complaint noted'}
          </Words>
        </View>
        {job.packs.map((id) =>
          packs[id] ? <ConditionShape key={id} condition={conditionOf(packs[id], policy).condition} size={26} named /> : null,
        )}
      </View>
    </Button>
  );
}

/** Where a due line leads: its job, its pack, its place. */
function dueTarget(d: Due): string {
  const subject = d.subject as Subject;
  return `/${subjectType(subject)}/${subjectId(subject)}`;
}

function DueLine({ due, today }: { due: Due; today: string }) {
  const t = useTokens();
  const late = due.on < today || (due.at !== undefined && due.at < new Date().toISOString());
  const when =
    due.at && due.on === today ? `${late ? 'was due' : 'due'} at ${format(parseISO(due.at), 'HH:mm')}` : dueWords(due.on, today);
  return (
    <Button
      label={`${due.title}: ${due.note}, ${when}`}
      onPress={() => router.push(dueTarget(due))}
      height={52}
      style={late ? { borderLeftWidth: 6, borderColor: t.ink } : undefined}
    >
      <View style={{ width: '100%', flexDirection: 'row', justifyContent: 'space-between', gap: 8, alignItems: 'center' }}>
        <View style={{ flex: 1 }}>
          <Words bold size={15}>
            {due.title}
          </Words>
          <Words size={15} lines={2}>
            {due.note}
          </Words>
        </View>
        <View style={{ alignItems: 'flex-end' }}>
          {when.split(', ').map((line) => (
            <Words key={line} size={14} bold={late}>
              {line}
            </Words>
          ))}
        </View>
      </View>
    </Button>
  );
}

/** Days ahead in which a change of rules is told. */
const NOTICE_DAYS = 60;

/** Jobs in hand, what is due, and a new job. */
export function Bench() {
  const jobs = useAppSelector((s) => s.logbook.jobs);
  const session = useAppSelector((s) => s.session.session);
  const mayStart = useMay('job-opened');
  const mayAdd = useMay('pack-added');
  const dues = useDues();
  const wide = useWide();
  const side = wide ? { flex: 1 } : undefined;
  const [starting, setStarting] = useState(false);
  const [allDues, setAllDues] = useState(false);
  const open = Object.values(jobs)
    .filter((j) => j.closedAt === null)
    .sort((a, b) => (a.openedAt < b.openedAt ? 1 : -1));
  const today = localDay(session?.workshop.zone ?? 'UTC', new Date());
  // A notice early enough to bring charges down or to send before the day.
  const soon = localDay(session?.workshop.zone ?? 'UTC', new Date(Date.now() + NOTICE_DAYS * DAY_MS));
  const ahead = changeDays(SHIPPING_RULES, today, soon)[0];
  const now = dues.filter((d) => d.on <= today);
  const shown = allDues ? dues : now.slice(0, wide ? 9 : 6);
  return (
    <Column>
      <View style={{ flexDirection: 'row', justifyContent: 'space-between', alignItems: 'center', gap: 8 }}>
        <View style={{ flex: 1 }}>
          <Heading level={1} size={26}>
            Bench
          </Heading>
          <Words soft>{session?.workshop.name}</Words>
        </View>
        {mayAdd ? <Button label="Take in a load" height={64} onPress={() => router.push('/batch')} testID="take-in" /> : null}
        {mayStart ? (
          <Button label="Start a job" tone="next" height={64} size={18} onPress={() => setStarting(true)} testID="start-job" />
        ) : null}
      </View>
      <View style={{ flexDirection: wide ? 'row' : 'column', gap: SPACE, alignItems: wide ? 'flex-start' : 'stretch' }}>
        <Card title="Jobs in hand" style={side} right={<Figures>{open.length}</Figures>}>
          {open.length === 0 ? <Words>No job is open. Start one with its workshop tag.</Words> : null}
          {open.map((j) => (
            <JobLine key={j.id} job={j} />
          ))}
        </Card>
        <Card title="Due" style={side} right={<Words soft>{`${now.length} today or late`}</Words>} testID="dues">
          {shown.map((d) => (
            <DueLine key={d.id} due={d} today={today} />
          ))}
          {dues.length > shown.length ? <Button label={`All ${dues.length}`} onPress={() => setAllDues(true)} /> : null}
          {dues.length === 0 ? <Words>Nothing is due.</Words> : null}
        </Card>
      </View>
      {ahead && (session?.person.role === 'lead' || session?.person.role === 'shipper') ? (
        <Button
          label={`Rules change on ${ahead}: look at the stock`}
          height={56}
          onPress={() => router.push('/rules')}
          testID="rules-ahead"
        />
      ) : null}
      {starting ? <StartJob onClose={() => setStarting(false)} /> : null}
    </Column>
  );
}
