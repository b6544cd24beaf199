import { type LoggedEntry, minutesOf, packWork, type Station, type Subject } from '@gavrel/core';
import { router } from 'expo-router';
import { useContext, useState } from 'react';
import { View } from 'react-native';
import { entriesOf, entriesOfPack } from '../../device/store';
import { draft } from '../../device/write';
import { useAppSelector } from '../../state';
import { SPACE, useWide } from '../../theme';
import { Card, Column } from '../../ui/frame';
import { Button } from '../../ui/buttons';
import { RulingStrip } from '../../ui/ruling-strip';
import { exactWords } from '../../ui/say';
import { Heading, Words } from '../../ui/words';
import { History } from '../../entry/history';
import { WaitingCard } from '../../entry/waiting-card';
import { AddPack } from './add-pack';
import { CautionsOf, GoTo, PackShown } from '../../entry/ask';
import { FitStation } from './fit';
import { InSight } from './in-sight';
import { IntakeStation } from './intake';
import { IsolateStation } from './isolate';
import { MatchStation } from './match';
import { OpenStation } from './open';
import { JudgeStation, LabelStation, MeasureStation } from './packs';
import { PlateSheet } from './plate';
import { ProveStation } from './prove';
import { Rail } from './rail';
import { RemoveStation } from './remove';
import { TypeCard } from '../../entry/type-card';
import { Unheld } from '../../stock/unheld';
import { SheetCard, swollenWords } from './sheet-card';
import { SwollenStation } from './swollen';
import { type JobView, useJobView } from './view';

const STATION: Record<Station, (p: { v: JobView }) => React.ReactNode> = {
  intake: IntakeStation,
  swollen: SwollenStation,
  open: OpenStation,
  isolate: IsolateStation,
  label: LabelStation,
  measure: MeasureStation,
  remove: RemoveStation,
  judge: JudgeStation,
  match: MatchStation,
  fit: FitStation,
  prove: ProveStation,
};

/** The machine, and who has it in hand; another may take it up. */
function Head({ v }: { v: JobView }) {
  const me = useAppSelector((s) => s.session.session?.person.id);
  const people = useAppSelector((s) => s.session.session?.people ?? []);
  const name = people.find((p) => p.id === v.job.holder)?.name;
  const mine = v.job.holder === me;
  return (
    <View style={{ flexDirection: 'row', alignItems: 'center', gap: 8 }}>
      <View style={{ flex: 1 }}>
        <Heading level={1} size={22}>
          {`${v.notebook?.tag ?? ''}${v.notebook?.model ? ` · ${v.notebook.model}` : ''}`}
        </Heading>
        {mine || v.job.closedAt ? null : (
          <Words size={14} soft>
            {name ? `in ${name}’s hands` : 'put down'}
          </Words>
        )}
      </View>
      {v.job.closedAt ? null : mine ? (
        <Button label="Put down" onPress={() => v.say('job-put-down', {}, 'job put down')} testID="put-down" />
      ) : (
        <Button
          label="Take up"
          tone={name ? 'plain' : 'next'}
          onPress={() => v.say('job-taken', {}, 'job taken up')}
          testID="take-up"
        />
      )}
    </View>
  );
}

/** The packs of the job, each opening its slip. */
function Packs({ v }: { v: JobView }) {
  const go = useContext(GoTo);
  const [adding, setAdding] = useState(false);
  return (
    <Card
      title="Packs"
      right={
        <Button
          label="Add its pack"
          tone={v.packs.length === 0 ? 'next' : 'plain'}
          onPress={() => setAdding(true)}
          testID="add-its-pack"
        />
      }
    >
      {v.packs.length === 0 ? <Words>No pack yet. Tag it, then add it.</Words> : null}
      {v.packs.map((p) => (
        <Button
          key={p.facts.id}
          label={`pack ${p.facts.tag}`}
          onPress={() => router.push(`/pack/${p.facts.id}`)}
          style={{ padding: 0, paddingHorizontal: 0, paddingVertical: 0, borderWidth: 0, alignItems: 'stretch' }}
          testID={`pack-${p.facts.tag}`}
        >
          <RulingStrip ruling={p.ruling} tag={p.facts.tag} />
        </Button>
      ))}
      {v.packs.length > 1 ? <Words size={15}>Several packs in one machine: the worst decides.</Words> : null}
      {adding ? <AddPack job={v.job} onClose={() => setAdding(false)} onAdded={(id) => go('label', id)} /> : null}
    </Card>
  );
}

function Machine({ v }: { v: JobView }) {
  const { job, notebook } = v;
  const [plate, setPlate] = useState(false);
  const identity =
    notebook?.plate === 'unreadable'
      ? 'plate unreadable'
      : [notebook?.maker, notebook?.model, notebook?.serial].filter(Boolean).join(' · ');
  const minutes = Object.entries(
    minutesOf(
      job.visits,
      v.packs.flatMap((p) => packWork(p.facts)),
    ),
  );
  return (
    <Card
      title="Notebook"
      testID="card-notebook"
      right={
        <>
          <Words bold>{notebook?.tag}</Words>
          <Button label={notebook?.model ? 'Mend' : 'Read the plate'} onPress={() => setPlate(true)} testID="read-plate" />
        </>
      }
    >
      {plate && notebook ? <PlateSheet notebook={notebook} onClose={() => setPlate(false)} /> : null}
      <Words>{identity || 'nothing read from the plate'}</Words>
      <Words>{job.complaint || 'no complaint noted'}</Words>
      <Words
        size={14}
        soft
      >{`opened ${exactWords(job.openedAt)}${job.closedAt ? `, closed ${exactWords(job.closedAt)}` : ''}`}</Words>
      {minutes.length > 0 ? (
        <Words
          size={14}
          soft
        >{`minutes so far: ${minutes.map(([s, m]) => `${s} ${Math.max(1, Math.round(m))}`).join(', ')}`}</Words>
      ) : null}
    </Card>
  );
}

/** At the end of a station: on to the next that lacks something, or past this one. */
function Onward({ v, here, onGo }: { v: JobView; here: Station; onGo: (s: Station) => void }) {
  const stop = v.rail.find((s) => s.station === here);
  const at = v.rail.findIndex((s) => s.station === here);
  const after = v.rail[at + 1];
  return (
    <View style={{ gap: 8 }}>
      {stop && stop.missing !== '' && stop.state !== 'skipped' ? (
        <View style={{ flexDirection: 'row', gap: 8, alignItems: 'center' }}>
          <Words style={{ flex: 1 }} size={15} testID="missing">{`still: ${stop.missing}`}</Words>
          <Button
            label="Skip"
            hint={here}
            onPress={() => v.write([draft('station-skipped', [`job:${v.job.id}`], { station: here })], `${here} skipped`)}
            testID="skip"
          />
        </View>
      ) : null}
      {after ? (
        <Button
          label={`On to: ${after.station}`}
          tone={stop?.missing === '' ? 'next' : 'plain'}
          height={64}
          onPress={() => onGo(after.station)}
          testID="onward"
        />
      ) : null}
    </View>
  );
}

/** Everything said of the job and its machine. */
async function logOf(v: JobView): Promise<LoggedEntry[]> {
  const subjects: Subject[] = [`job:${v.job.id}`, ...(v.notebook ? [`notebook:${v.notebook.id}` as const] : [])];
  const own = (await Promise.all(subjects.map(entriesOf))).flat();
  return [...new Map(own.map((e) => [e.id, e])).values()];
}

const packLogsOf = async (v: JobView) =>
  new Map(await Promise.all(v.packs.map(async (p) => [p.facts.id, await entriesOfPack(p.facts.id)] as const)));

/** One visit of one notebook: its stations in the order of the work, never forcing it. */
export function Job({ id }: { id: string }) {
  const wide = useWide();
  const ready = useAppSelector((s) => s.logbook.ready);
  const v = useJobView(id);
  const [chosen, setChosen] = useState<Station | null>(null);
  if (!v) return <Column>{ready ? <Words>This job is not on this device yet.</Words> : null}</Column>;
  const next = v.rail.find((s) => s.state === 'next')?.station ?? (v.job.closedAt ? 'prove' : 'intake');
  // A station that left the rail (a suspicion that was cleared) is not shown any more.
  const here = chosen && v.rail.some((s) => s.station === chosen) ? chosen : next;
  const [pack, setPack] = useState<string | null>(null);
  const go = (s: Station, of?: string) => {
    setChosen(s);
    if (of !== undefined) setPack(of);
  };
  if (chosen === null) queueMicrotask(() => setChosen(next));
  const Body = STATION[here];
  const waiting = [v.job, ...(v.notebook ? [v.notebook] : []), ...v.packs.map((p) => p.facts)].flatMap((x) => x.waiting);
  const side = (
    <>
      <Machine v={v} />
      <Packs v={v} />
      <SheetCard v={v} />
      {typeCodes(v).map((code) => (
        <TypeCard key={code} code={code} />
      ))}
      <History load={() => logOf(v)} of={v.job.id} waiting={waiting} />
    </>
  );
  return (
    <GoTo.Provider value={go}>
      <PackShown.Provider value={pack}>
        <View style={{ flex: 1 }}>
          <View style={{ padding: SPACE, paddingBottom: 0, gap: 4 }}>
            <Head v={v} />
            {v.sheet && v.sheet.swollen > 0 && here !== 'prove' ? (
              <Words bold size={15} testID="swollen-before">
                {swollenWords(v.sheet)}
              </Words>
            ) : null}
            <Rail stops={v.rail} here={here} onGo={go} />
            <InSight v={v} />
            <Unheld ids={v.unheld} />
          </View>
          <View style={{ flex: 1, flexDirection: 'row' }}>
            <View style={{ flex: 1 }} testID={`at-${here}`}>
              <Column key={here}>
                <CautionsOf.Provider value={v.job.id}>
                  <WaitingCard
                    waiting={waiting}
                    packs={v.packs.map((p) => p.facts)}
                    load={async () => {
                      const [own, packs] = await Promise.all([logOf(v), packLogsOf(v)]);
                      return { all: [...own, ...[...packs.values()].flat()], packs };
                    }}
                  />
                  <Body v={v} />
                </CautionsOf.Provider>
                <Onward v={v} here={here} onGo={go} />
                {wide ? null : side}
              </Column>
            </View>
            {wide ? (
              <View style={{ width: 400 }}>
                <Column>{side}</Column>
              </View>
            ) : null}
          </View>
        </View>
      </PackShown.Provider>
    </GoTo.Provider>
  );
}

/** Type codes of the packs in hand, each once. */
const typeCodes = (v: JobView): string[] => [...new Set(v.packs.flatMap((p) => p.judgement.label.sure.typeCode ?? []))];
