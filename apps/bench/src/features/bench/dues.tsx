import { type Due, type Subject, subjectId, subjectType } from '@gavrel/core';
import { format, parseISO } from 'date-fns';
import { router } from 'expo-router';
import { type StyleProp, View, type ViewStyle } from 'react-native';
import { useDues } from '../../state/rulings';
import { useTokens, useWide } from '../../theme';
import { Button } from '../../ui/buttons';
import { useAfterPaint } from '../../ui/after-paint';
import { Card } from '../../ui/frame';
import { dueWords, withDays } from '../../ui/say';
import { Words } from '../../ui/words';
import { dueGroups } from './due-groups';

/** Where a due line leads: its job, its pack, its place. */
export function dueTarget(d: Due): string {
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
      label={`${due.title}: ${withDays(due.note)}, ${when}`}
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
            {withDays(due.note)}
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

/** Dues under their headings. */
export function DueGroups({ dues, today }: { dues: readonly Due[]; today: string }) {
  return (
    <>
      {dueGroups(dues, today, new Date().toISOString()).map((g) => (
        <View key={g.title} style={{ gap: 6 }}>
          <Words bold>{g.title}</Words>
          {g.dues.map((d) => (
            <DueLine key={d.id} due={d} today={today} />
          ))}
        </View>
      ))}
    </>
  );
}

interface DuesProps {
  readonly today: string;
  readonly style?: StyleProp<ViewStyle>;
}

/** What is due, by who and when. It is reckoned from every pack of the device: the jobs are on the screen before it. */
export function DuesCard(props: DuesProps) {
  if (useAfterPaint()) return <ReckonedDues {...props} />;
  return (
    <Card title="Due" style={props.style}>
      <View style={{ minHeight: 160 }} />
    </Card>
  );
}

function ReckonedDues({ today, style }: DuesProps) {
  const dues = useDues();
  const wide = useWide();
  const now = dues.filter((d) => d.on <= today);
  const shown = now.slice(0, wide ? 9 : 6);
  return (
    <Card title="Due" style={style} right={<Words soft>{`${now.length} today or late`}</Words>} testID="dues">
      <DueGroups dues={shown} today={today} />
      {dues.length > shown.length ? (
        <Button label={`All ${dues.length}`} hint="everything due" onPress={() => router.push('/due')} testID="all-dues" />
      ) : null}
      {dues.length === 0 ? <Words>Nothing is due.</Words> : null}
    </Card>
  );
}
