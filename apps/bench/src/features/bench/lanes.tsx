import type { JobFacts, Station } from '@gavrel/core';
import { router } from 'expo-router';
import { View } from 'react-native';
import { useAppSelector } from '../../state';
import { useZone } from '../../state/rulings';
import { viewOf } from '../../stock/job-state';
import { useTokens } from '../../theme';
import { Button } from '../../ui/buttons';
import { Figures, Heading, Words } from '../../ui/words';
import { JobShapes, useMachineWords } from './job-line';

/** The stations of the work, a lane for those that are done in one go. */
const LANES: readonly (readonly [string, readonly Station[]])[] = [
  ['Intake', ['intake', 'swollen']],
  ['Open', ['open', 'isolate']],
  ['Measure', ['label', 'measure']],
  ['Judge', ['remove', 'judge', 'match']],
  ['Close', ['fit', 'prove']],
];
const LAST = 'Hand over';

function LaneJob({ job, missing }: { job: JobFacts; missing: string }) {
  const { tag, machine } = useMachineWords(job);
  return (
    <Button label={tag} height={88} onPress={() => router.push(`/job/${job.id}`)} testID={`lane-${tag}`}>
      <View style={{ width: '100%', gap: 2 }}>
        <View style={{ flexDirection: 'row', justifyContent: 'space-between', gap: 4 }}>
          <Figures bold>{tag || '?'}</Figures>
          <View style={{ flexDirection: 'row', gap: 4 }}>
            <JobShapes job={job} />
          </View>
        </View>
        <Words size={14} lines={1}>
          {machine}
        </Words>
        <Words size={14} soft lines={2}>
          {missing || 'all done'}
        </Words>
      </View>
    </Button>
  );
}

/** Open jobs by the station that each has next; what is missing there stands on it. */
export function Lanes({ jobs }: { jobs: readonly JobFacts[] }) {
  const t = useTokens();
  const logbook = useAppSelector((s) => s.logbook);
  const session = useAppSelector((s) => s.session.session);
  const zone = useZone();
  const around = {
    zone,
    workshop: session?.workshop.id ?? '',
    trained: (session?.people ?? []).filter((p) => p.competent).map((p) => p.id),
  };
  const at = jobs.map((job) => {
    const next = viewOf(logbook, job.id, around)?.rail.find((s) => s.state === 'next');
    const lane = LANES.find(([, stations]) => next && stations.includes(next.station))?.[0] ?? LAST;
    return { job, lane, missing: next?.missing ?? '' };
  });
  return (
    <View style={{ flexDirection: 'row', gap: 8, alignItems: 'flex-start' }} testID="lanes">
      {[...LANES.map(([name]) => name), LAST].map((name) => {
        const here = at.filter((x) => x.lane === name);
        return (
          <View key={name} style={{ flex: 1, gap: 6, borderTopWidth: 2, borderColor: t.ink, paddingTop: 6 }}>
            <View style={{ flexDirection: 'row', justifyContent: 'space-between' }}>
              <Heading level={3}>{name}</Heading>
              <Figures>{here.length}</Figures>
            </View>
            {here.map((x) => (
              <LaneJob key={x.job.id} job={x.job} missing={x.missing} />
            ))}
          </View>
        );
      })}
    </View>
  );
}
