import { counted } from '@gavrel/core';
import type { Watch } from '@gavrel/core';
import { differenceInHours, parseISO } from 'date-fns';
import { useState } from 'react';
import { View } from 'react-native';
import { useAppSelector } from '../../state';
import { useActions } from '../../state/context';
import { useTokens } from '../../theme';
import { Card, Row } from '../../ui/frame';
import { Button } from '../../ui/buttons';
import { LimitScale } from '../../ui/limit-scale';
import { agoWords, containerWords } from '../../ui/say';
import { Trend } from '../../ui/trend';
import { Figures, Words } from '../../ui/words';
import { heatLimit } from './heat';
import { ALL_QUIET, lookDrafts, LookSheet, QUIET_WORDS } from './look-sheet';
import { lookWords } from '../../stock/place-words';

/** Days each watched pack lies here, the longest first; the mark is where the lead decides. */
function Ages({ watch, days, now }: { watch: Watch; days: number; now: Date }) {
  const t = useTokens();
  const ages = watch.packs
    .map((p) => ({ tag: p.item.tag, days: differenceInHours(now, parseISO(p.since)) / 24 }))
    .sort((a, b) => b.days - a.days);
  const shown = ages.slice(0, 5);
  if (shown.length < 2) return null;
  const end = Math.max(days * 1.25, shown[0]!.days);
  const percent = (d: number) => `${(100 * d) / end}%` as const;
  return (
    <View style={{ gap: 4 }}>
      {shown.map((a) => (
        <View key={a.tag} style={{ flexDirection: 'row', alignItems: 'center', gap: 8 }}>
          <Figures size={15} style={{ width: 70 }}>
            {a.tag}
          </Figures>
          <View style={{ flex: 1, height: 18, justifyContent: 'center' }}>
            <View style={{ height: 8, width: percent(a.days), backgroundColor: t.accent }} />
            <View style={{ position: 'absolute', left: percent(days), width: 2, height: 18, backgroundColor: t.ink }} />
          </View>
          <Figures size={15} bold={a.days > days} style={{ width: 46, textAlign: 'right' }}>
            {`${Math.floor(a.days)} d`}
          </Figures>
        </View>
      ))}
      <Words size={14} soft>
        {`${ages.length > shown.length ? `The longest of ${ages.length}. ` : ''}The mark: ${counted(days, 'day')}, then the lead decides.`}
      </Words>
    </View>
  );
}

/** The watch of a container: the next look, one tap for all quiet, and what the looks so far say. */
export function WatchCard({ watch, packs, now }: { watch: Watch; packs: readonly string[]; now: Date }) {
  const actions = useActions();
  const stayDays = useAppSelector((s) => s.logbook.policy.stayDays);
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
      <Words size={15}>
        {last ? `${containerWords(last, place.looks)}, ${agoWords(last.at)}` : 'No look at the container yet.'}
      </Words>
      <Row>
        <Button
          label="All quiet"
          hint={QUIET_WORDS}
          tone="next"
          height={64}
          onPress={() => actions.write(lookDrafts(place.id, packs, ALL_QUIET), `${place.name}: all quiet`)}
          style={{ flexGrow: 1 }}
          testID="all-quiet"
        />
        <Button label="Look closer" height={64} onPress={() => setLooking(true)} style={{ flexGrow: 1 }} testID="look-closer" />
      </Row>
      <Words size={14} soft>{`All quiet says: ${QUIET_WORDS}.`}</Words>
      {point ? <LimitScale limit={heatLimit(point)} /> : null}
      <Trend
        what="over the room"
        points={watch.trend.map((p) => ({ at: p.at, value: p.kelvin }))}
        level={10}
        unit="K"
        decimals={0}
        fromZero
        words="Over its room at each look; the level line is the alarm at 10 K."
      />
      <Ages watch={watch} days={stayDays} now={now} />
      {watch.tooLong.length > 0 ? (
        <Words bold>{`Too long here: ${watch.tooLong.map((p) => p.item.tag).join(', ')}. The lead decides.`}</Words>
      ) : null}
      {looking ? <LookSheet place={place.id} name={place.name} packs={packs} onClose={() => setLooking(false)} /> : null}
    </Card>
  );
}
