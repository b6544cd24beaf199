import type { Watch } from '@gavrel/core';
import { format, parseISO } from 'date-fns';
import { useState } from 'react';
import { View } from 'react-native';
import { LineChart } from 'react-native-chart-kit';
import { useActions } from '../../store/context';
import { useTokens, WORDS } from '../../theme';
import { Card, Row } from '../../ui/frame';
import { Key } from '../../ui/keys';
import { LimitScale } from '../../ui/limit-scale';
import { agoWords, containerWords } from '../../ui/say';
import { Words } from '../../ui/words';
import { heatLimit } from './heat';
import { ALL_QUIET, lookDrafts, LookSheet, QUIET_WORDS } from './look-sheet';
import { lookWords } from './words';

/** K over the room at the last looks; the line at 10 K is the alarm. */
function Trend({ watch }: { watch: Watch }) {
  const t = useTokens();
  const shown = watch.trend.slice(-8);
  const [width, setWidth] = useState(0);
  if (shown.length < 2) return null;
  const said = shown.map((p) => `${format(parseISO(p.at), 'd MMM HH:mm')} ${p.kelvin.toFixed(1)} K`).join('; ');
  return (
    <View role="img" aria-label={`over the room: ${said}`} onLayout={(e) => setWidth(Math.min(520, e.nativeEvent.layout.width))}>
      {width > 0 ? (
        <LineChart
          data={{
            labels: shown.map((p) => format(parseISO(p.at), 'EEE HH:mm')).map((l, i) => (i % 2 === 0 ? l : '')),
            datasets: [
              { data: shown.map((p) => p.kelvin), color: () => t.accent, strokeWidth: 3 },
              { data: shown.map(() => 10), color: () => t.ink, strokeWidth: 2, withDots: false },
            ],
          }}
          width={width}
          height={170}
          yAxisSuffix=" K"
          fromZero
          withShadow={false}
          segments={4}
          withInnerLines={false}
          chartConfig={{
            backgroundGradientFrom: t.card,
            backgroundGradientTo: t.card,
            decimalPlaces: 0,
            color: () => t.ink,
            labelColor: () => t.ink,
            propsForLabels: { fontFamily: WORDS, fontSize: 12 },
            propsForDots: { r: '4' },
          }}
          style={{ marginLeft: -12 }}
        />
      ) : null}
      <Words size={14} soft>
        Over its room at each look; the level line is the alarm at 10 K.
      </Words>
    </View>
  );
}

/** The watch of a container: the next look, one tap for all quiet, and what the looks so far say. */
export function WatchCard({ watch, packs, now }: { watch: Watch; packs: readonly string[]; now: Date }) {
  const actions = useActions();
  const [looking, setLooking] = useState(false);
  const { place } = watch;
  const last = place.looks[place.looks.length - 1];
  const point = watch.trend[watch.trend.length - 1];
  const late = watch.next !== null && parseISO(watch.next) < now;
  return (
    <Card
      title="Watch"
      testID="card-watch"
      right={watch.next ? <Words bold={late}>{lookWords(watch.next, now)}</Words> : undefined}
    >
      {watch.alarms.map((a) => (
        <Words key={a} bold>{`Alarm: ${a}. Examine from outside.`}</Words>
      ))}
      <Words size={15}>{last ? `${containerWords(last.body)}, ${agoWords(last.at)}` : 'No look at the container yet.'}</Words>
      <Row>
        <Key
          label="All quiet"
          hint={QUIET_WORDS}
          tone="next"
          height={64}
          onPress={() => void actions.write(lookDrafts(place.id, packs, ALL_QUIET), `${place.name}: all quiet`)}
          style={{ flexGrow: 1 }}
          testID="all-quiet"
        />
        <Key label="Look closer" height={64} onPress={() => setLooking(true)} style={{ flexGrow: 1 }} testID="look-closer" />
      </Row>
      <Words size={14} soft>{`All quiet says: ${QUIET_WORDS}.`}</Words>
      {point ? <LimitScale limit={heatLimit(point)} /> : null}
      <Trend watch={watch} />
      {watch.tooLong.length > 0 ? (
        <Words bold>{`Too long here: ${watch.tooLong.map((p) => p.item.tag).join(', ')}. The lead decides.`}</Words>
      ) : null}
      {looking ? <LookSheet place={place.id} name={place.name} packs={packs} onClose={() => setLooking(false)} /> : null}
    </Card>
  );
}
