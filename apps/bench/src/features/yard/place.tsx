import { MEASURE_UNITS, MEASURES, type PlaceState } from '@gavrel/core/place';
import { isDrum, judge, localDay } from '@gavrel/core';
import { router } from 'expo-router';
import { useState } from 'react';
import { Pressable, View } from 'react-native';
import { draft } from '../../device/write';
import { useMay } from '../../state/may';
import { useActions } from '../../state/context';
import { useZone } from '../../state/rulings';
import { useTokens } from '../../theme';
import { Card, Column, Row } from '../../ui/frame';
import { Button } from '../../ui/buttons';
import { LimitScale } from '../../ui/limit-scale';
import { agoWords, dueWords } from '../../ui/say';
import { ConditionShape } from '../../ui/shape';
import { QrCode } from '../../ui/qr';
import { Figures, Heading, Words } from '../../ui/words';
import { print } from '../../paper/print';
import { AlarmCard } from '../../stock/alarms';
import { CountSheet } from './count-sheet';
import { DrumCard } from './drum-card';
import { DescribeSheet } from './describe-sheet';
import { IncidentSheet } from './incident-sheet';
import { ScanSheet } from './scan-sheet';
import { useYard } from '../../stock/use-yard';
import { WatchCard } from './watch-card';
import { energyWords, packsWord } from '../../stock/place-words';

/** What lies here, one line a pack; those that may not are marked and say why. */
function Content({ state }: { state: PlaceState }) {
  const t = useTokens();
  const wrong = new Map(state.wrong.map((w) => [w.item.id, w.why.map((x) => x.words).join('; ')]));
  return (
    <Card title={packsWord(state.items.length)} testID="card-content">
      {[...state.items]
        .sort((a, b) => Number(wrong.has(b.id)) - Number(wrong.has(a.id)) || (a.tag < b.tag ? -1 : 1))
        .map((i) => (
          <Pressable
            key={i.id}
            role="link"
            onPress={() => router.push(`/pack/${i.id}`)}
            testID={`lies-${i.tag}`}
            style={{ flexDirection: 'row', alignItems: 'center', gap: 10, minHeight: 52, borderTopWidth: 1, borderColor: t.wash }}
          >
            <ConditionShape condition={i.condition} size={22} named />
            <View style={{ flex: 1 }}>
              <Figures bold>{i.tag}</Figures>
              {wrong.has(i.id) ? (
                <Words size={15} bold>{`may not lie here: ${wrong.get(i.id)}${i.despite ? `. Said: ${i.despite}` : ''}`}</Words>
              ) : null}
            </View>
            <Words size={14} soft>
              {i.placedAt ? agoWords(i.placedAt) : ''}
            </Words>
          </Pressable>
        ))}
      {state.items.length === 0 ? <Words>Nothing lies here.</Words> : null}
    </Card>
  );
}

/** How full it is, limit by limit. */
function Limits({ state, onChange }: { state: PlaceState; onChange: (() => void) | null }) {
  const { place, load } = state;
  const near = place.near ?? {};
  const surround = [
    near.burns !== undefined && `${near.burns} m to what burns`,
    near.openings !== undefined && `${near.openings} m to openings`,
    near.exit !== undefined && `${near.exit} m to the way out`,
  ].filter(Boolean);
  return (
    <Card
      title="Limits"
      testID="card-limits"
      right={onChange ? <Button label="Change" onPress={onChange} testID="describe" /> : undefined}
    >
      <Words>{`May hold: ${place.holds.join(', ') || 'nothing'}.`}</Words>
      {MEASURES.flatMap((m) => {
        const limit = place.limits?.[m];
        if (limit === undefined) return [];
        return [
          <LimitScale
            key={m}
            limit={{
              id: `place.${m}`,
              label:
                load.unknown[m] > 0
                  ? `${m === 'wattHours' ? 'energy' : m}, ${load.unknown[m]} not known`
                  : m === 'wattHours'
                    ? 'energy'
                    : m,
              // The label says what is counted.
              unit: m === 'packs' ? '' : MEASURE_UNITS[m],
              value: load[m],
              u: 0,
              limit,
              side: 'max',
              verdict: judge(load[m], 0, limit, 'max'),
              beyond: 'too full',
              between: '',
              perReading: 1,
              readingUnit: MEASURE_UNITS[m],
              decimals: m === 'kg' || m === 'litres' ? 1 : 0,
              nature: 'choice',
            }}
          />,
        ];
      })}
      {place.limits === undefined || Object.keys(place.limits).length === 0 ? <Words>No limit is set.</Words> : null}
      <Words>
        {[
          surround.join(', ') || 'no distance measured',
          place.fill && `fill: ${place.fill}`,
          place.bags && 'one pack in each bag',
        ]
          .filter(Boolean)
          .join('; ')}
      </Words>
      <Words size={14} soft>
        {energyWords(load.wattHours, load.unknown.wattHours)} in all. The local code decides.
      </Words>
    </Card>
  );
}

function PlaceTag({ state }: { state: PlaceState }) {
  const [trouble, setTrouble] = useState('');
  const { name, kind, holds } = state.place;
  return (
    <Card title="Door card and tag" testID="card-place-tag">
      <Row gap={16}>
        <QrCode text={name} size={120} />
        <Button
          label="Print"
          onPress={() => {
            setTrouble('');
            void print(`place-${name}`, { kind: 'place', paper: { name, kind, holds: [...holds] } }).catch((e: Error) =>
              setTrouble(e.message),
            );
          }}
          testID="print-place"
        />
      </Row>
      {trouble ? <Words bold>{trouble}</Words> : null}
    </Card>
  );
}

/** One place: what is wrong first, then its watch, what lies in it, its limits and its tag. */
export function Place({ id }: { id: string }) {
  const actions = useActions();
  const yard = useYard();
  const mayDescribe = useMay('place-described');
  const today = localDay(useZone(), new Date());
  const [sheet, setSheet] = useState<'scan' | 'count' | 'describe' | 'incident' | null>(null);
  const state = yard.places.find((p) => p.place.id === id);
  if (!state) {
    return (
      <Column>
        <Words>This place is not here. It may not have reached this device yet.</Words>
      </Column>
    );
  }
  const { place } = state;
  const watch = yard.watches.get(id);
  const strangers = place.counted
    ? place.counted.strangers.length + place.counted.seen.filter((x) => yard.stock.get(x)?.place !== id).length
    : 0;
  const close = () => setSheet(null);
  return (
    <Column style={{ width: '100%', maxWidth: 760, alignSelf: 'center' }}>
      <Heading level={1} size={26}>
        {place.name}
      </Heading>
      <Words soft>{[place.kind, place.room].filter(Boolean).join(', ')}</Words>
      {[...(place.closed ? [`Closed: ${place.closed.reason}`] : []), ...state.over.map((o) => `Over its limit: ${o.words}`)].map(
        (w) => (
          <Words key={w} bold size={18} testID="place-trouble">
            {w}
          </Words>
        ),
      )}
      <Row>
        <Button
          label="Put packs here"
          tone={watch ? 'plain' : 'next'}
          height={56}
          onPress={() => setSheet('scan')}
          testID="put-here"
        />
        <Button label="Count" height={56} onPress={() => setSheet('count')} testID="count-place" />
        <Button
          label="Incident"
          hint="it smokes, burns or leaks here"
          height={56}
          onPress={() => setSheet('incident')}
          testID="open-incident"
        />
      </Row>
      <AlarmCard place={place} />
      {place.dues.map((d) => (
        <Row key={d.id}>
          <Words bold style={{ flex: 1 }}>{`${d.note || 'Look again'}, ${dueWords(d.on, today)}`}</Words>
          <Button
            label="Done"
            hint={d.note}
            onPress={() => actions.write([draft('due-met', [`place:${id}`], { meets: d.id })], 'done')}
          />
        </Row>
      ))}
      {watch ? <WatchCard watch={watch} packs={state.items.map((i) => i.id)} now={new Date()} /> : null}
      {isDrum(place) ? <DrumCard state={state} yard={yard} /> : null}
      <Content state={state} />
      {place.counted ? (
        <Words size={15} testID="counted">
          {`Counted ${agoWords(place.counted.at)}: ${place.counted.seen.filter((x) => yard.stock.get(x)?.place === id).length} of ${state.items.length} of what lies here now${strangers > 0 ? `, ${strangers} strangers` : ''}.`}
        </Words>
      ) : null}
      <Limits state={state} onChange={mayDescribe ? () => setSheet('describe') : null} />
      <PlaceTag state={state} />
      {sheet === 'scan' ? <ScanSheet at={id} onClose={close} /> : null}
      {sheet === 'count' ? <CountSheet state={state} onClose={close} /> : null}
      {sheet === 'incident' ? <IncidentSheet place={place} packs={state.items} onClose={close} /> : null}
      {sheet === 'describe' ? <DescribeSheet place={place} lying={state.items.length} onClose={close} /> : null}
    </Column>
  );
}
