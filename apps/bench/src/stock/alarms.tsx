import type { Alarm, PlaceFacts } from '@gavrel/core';
import { router } from 'expo-router';
import { useMemo, useState } from 'react';
import { draft } from '../device/write';
import { useAppSelector } from '../state';
import { useMay } from '../state/may';
import { useActions } from '../state/context';
import { useDraft } from '../state/use-draft';
import { Field } from '../ui/field';
import { Card } from '../ui/frame';
import { Button } from '../ui/buttons';
import { agoWords } from '../ui/say';
import { Sheet } from '../ui/sheet';
import { Words } from '../ui/words';
import { incidentWords } from './incident-words';
import { alarmsOfPlace, alarmWords } from './alarm-words';

interface Line {
  readonly words: string;
  readonly to: string;
}

/** What others must see and nobody has answered: places that alarm, and incidents that are not over. */
export function useAlarms(): readonly Line[] {
  const places = useAppSelector((s) => s.logbook.places);
  const incidents = useAppSelector((s) => s.logbook.incidents);
  return useMemo(
    () => [
      ...Object.values(incidents)
        .filter((i) => i.closed === null)
        .map((i) => ({ words: incidentWords(i, places), to: `/incident/${i.id}` })),
      ...Object.values(places).flatMap((p) => {
        const alarms = alarmsOfPlace(p);
        return alarms.length > 0 ? [{ words: `${p.name}: ${alarmWords(alarms)}`, to: `/place/${p.id}` }] : [];
      }),
    ],
    [places, incidents],
  );
}

/** On every screen of every device, until somebody trained has answered. */
export function AlarmBand() {
  const alarms = useAlarms();
  const first = alarms[0];
  if (!first) return null;
  const more = alarms.length > 1 ? ` · and ${alarms.length - 1} more` : '';
  return (
    <Button
      label={`alarm: ${first.words}${more}`}
      tone="critical"
      onPress={() => router.push(alarms.length > 1 ? '/yard' : first.to)}
      testID="alarm-band"
    />
  );
}

function AnswerSheet({ place, alarms, onClose }: { place: PlaceFacts; alarms: readonly Alarm[]; onClose: () => void }) {
  const actions = useActions();
  const [found, setFound, done] = useDraft(`alarm ${alarms.map((a) => a.id).join(' ')}`, '');
  const answer = async () => {
    const body = { answers: alarms.map((a) => a.id), found: found.trim() };
    await actions.write([draft('alarm-answered', [`place:${place.id}`], body)], 'alarm answered');
    done();
    onClose();
  };
  return (
    <Sheet
      title={`Answer the alarm of ${place.name}`}
      onClose={onClose}
      footer={
        <Button
          label="Answer"
          tone="next"
          height={64}
          disabled={found.trim().length < 3}
          onPress={() => answer()}
          testID="keep-answer"
        />
      }
    >
      <Words bold>{alarmWords(alarms)}</Words>
      <Words>From outside; never unpack to look. What was found on its packs stays until it is cleared.</Words>
      <Field label="What was found" value={found} onChange={setFound} multiline testID="answer-found" />
    </Sheet>
  );
}

/** The alarms of one place, and the key to answer them for who may. */
export function AlarmCard({ place }: { place: PlaceFacts }) {
  const mayAnswer = useMay('alarm-answered');
  const [answering, setAnswering] = useState(false);
  const alarms = alarmsOfPlace(place);
  if (alarms.length === 0) return null;
  return (
    <Card title="Alarm" testID="card-alarm">
      {alarms.slice(-5).map((a) => (
        <Words key={a.id} bold>{`${a.words.join(', ')}, ${agoWords(a.at)}`}</Words>
      ))}
      <Words>Keep away, examine from outside. It stands on every screen until it is answered.</Words>
      {mayAnswer ? (
        <Button label="Answer…" tone="next" height={64} onPress={() => setAnswering(true)} testID="answer-alarm" />
      ) : (
        <Words>Somebody trained to assess answers it.</Words>
      )}
      {answering ? <AnswerSheet place={place} alarms={alarms} onClose={() => setAnswering(false)} /> : null}
    </Card>
  );
}
