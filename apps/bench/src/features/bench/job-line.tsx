import type { JobFacts } from '@gavrel/core';
import { router } from 'expo-router';
import { View } from 'react-native';
import { useAppSelector } from '../../state';
import { conditionOf } from '../../state/rulings';
import { suspectCondition } from '../../stock/suspect';
import { Button } from '../../ui/buttons';
import { agoWords } from '../../ui/say';
import { ConditionShape } from '../../ui/shape';
import { Figures, Words } from '../../ui/words';

/** What its packs are, or what its machine's signs make of one that nobody saw yet. */
export function JobShapes({ job }: { job: JobFacts }) {
  const notebook = useAppSelector((s) => (job.notebook ? s.logbook.notebooks[job.notebook] : undefined));
  const packs = useAppSelector((s) => s.logbook.packs);
  const policy = useAppSelector((s) => s.logbook.policy);
  if (notebook && notebook.findings.length > 0 && job.packs.length === 0)
    return <ConditionShape condition={suspectCondition(notebook.findings)} size={26} named />;
  return job.packs.map((id) =>
    packs[id] ? <ConditionShape key={id} condition={conditionOf(packs[id], policy).condition} size={26} named /> : null,
  );
}

/** Its machine in words: maker and model, or that its plate cannot be read. */
export function useMachineWords(job: JobFacts): { readonly tag: string; readonly machine: string } {
  const notebook = useAppSelector((s) => (job.notebook ? s.logbook.notebooks[job.notebook] : undefined));
  const machine =
    notebook?.plate === 'unreadable' ? 'plate unreadable' : [notebook?.maker, notebook?.model].filter(Boolean).join(' ');
  return { tag: notebook?.tag ?? '', machine };
}

/** One job of the list. */
export function JobLine({ job }: { job: JobFacts }) {
  const { tag, machine } = useMachineWords(job);
  return (
    <Button
      label={`job ${tag}, ${machine}, ${job.complaint}`}
      height={68}
      onPress={() => router.push(`/job/${job.id}`)}
      testID={`job-${tag}`}
    >
      <View style={{ width: '100%', flexDirection: 'row', gap: 10, alignItems: 'center' }}>
        <View style={{ flex: 1 }}>
          <View style={{ flexDirection: 'row', gap: 8, alignItems: 'baseline' }}>
            <Figures bold size={17}>
              {tag || '?'}
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
        <JobShapes job={job} />
      </View>
    </Button>
  );
}
