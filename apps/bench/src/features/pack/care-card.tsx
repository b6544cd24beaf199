import { type Discharge, SHIPPING } from '@gavrel/core';
import { bleedingOf, bleedPlans, CUT_OFF, LOW, RATING, shelfOf, whyNotBleed } from '@gavrel/core/care';
import { addDays, format, parseISO } from 'date-fns';
import { useState } from 'react';
import { View } from 'react-native';
import { useTokens } from '../../theme';
import { draft } from '../../device/write';
import { LineChart } from '../../ui/chart';
import { useShownText } from '../../ui/display';
import { Card, Row } from '../../ui/frame';
import { Choice, Button } from '../../ui/buttons';
import { Sheet } from '../../ui/sheet';
import { Figures, Words } from '../../ui/words';
import { clockWords, drainWords } from '../../ui/say';
import type { CardProps } from '../../entry/card';

const day = (at: string, days: number) => format(addDays(parseISO(at), days), 'd MMM yyyy');

/** Charge to which a pack is topped up to lie, % of full. */
const TOPPED = 50;
/** What a pack is brought down to: to lie, and to fly by the edition in force on a day. */
function targetsOn(day: string): readonly (readonly [string, string])[] {
  const fly = SHIPPING.on('air.965-charge', day)?.figures.percent;
  const lie = String(TOPPED);
  return [
    ...(fly === undefined || String(fly) === lie ? [] : [[String(fly), `to ${fly} %, to fly`] as const]),
    [lie, `to ${lie} %, to lie`],
  ];
}

/** After how many hours somebody looks at a machine that runs its pack down. Common practice, no source. */
const NOTEBOOK_HOURS = 2;

/** A way down that is under way: what it is to reach, when somebody looks, and what ends it. */
function Running({ facts, discharge: d, stop, onKeep }: CardProps & { discharge: Discharge; stop: boolean }) {
  const ended = (note: string) => onKeep(draft('due-met', [`pack:${facts.id}`], { meets: d.id, note }), note);
  return (
    <View style={{ gap: 6 }} testID="running">
      <Words bold>
        {stop
          ? `Unplug it now: it is being brought down since ${clockWords(d.at)}.`
          : `Being brought down to ${d.to} % ${drainWords(d.how)} since ${clockWords(d.at)}.`}
      </Words>
      {stop ? null : (
        <Words>{`Look at it by ${clockWords(d.until)}. Somebody stays there; its charge counts as not known until it is read.`}</Words>
      )}
      <Row>
        {stop ? null : (
          <Button
            label={`At ${d.to} % now`}
            hint="then read its gauge"
            onPress={() => ended(`at ${d.to} %`)}
            testID="discharge-there"
          />
        )}
        <Button
          label="Unplugged"
          hint="stopped early; then read its gauge"
          onPress={() => ended('unplugged')}
          testID="discharge-stopped"
        />
      </Row>
    </View>
  );
}

/** Charge over time on the way down. */
function Course({ plan }: { plan: ReturnType<typeof bleedPlans>[number] }) {
  const t = useTokens();
  const text = useShownText();
  const [width, setWidth] = useState(0);
  const said = plan.course.map((c) => `${c.hours.toFixed(1)} h ${Math.round(c.charge)} % ${c.watts.toFixed(1)} W`).join('; ');
  const line = (data: number[], color: string) => ({ data, color: () => color, strokeWidth: 3 });
  const labels = plan.course.map((c, i) => (i % 2 === 0 ? `${c.hours.toFixed(1)} h` : ''));
  const chart = (data: number[], color: string, suffix: string) => (
    <LineChart
      data={{ labels, datasets: [line(data, color)] }}
      width={width}
      height={170}
      yAxisSuffix={suffix}
      fromZero
      segments={3}
      withDots={false}
      decimals={0}
      ground={t.ground}
    />
  );
  return (
    <View role="img" aria-label={text(said)} onLayout={(e) => setWidth(Math.min(430, e.nativeEvent.layout.width))}>
      {width > 0 ? (
        <>
          {chart(
            plan.course.map((c) => c.charge),
            t.accent,
            ' %',
          )}
          {chart(
            plan.course.map((c) => c.watts),
            t.ink,
            ' W',
          )}
        </>
      ) : null}
      <Words size={14} soft>
        Charge and power over time.
      </Words>
    </View>
  );
}

/** Bringing a sound pack down: its notebook first; a resistor only with everything that goes with it. */
function BleedSheet({ facts, ruling, onKeep, onClose }: CardProps & { onClose: () => void }) {
  const targets = targetsOn(ruling.on);
  const [target, setTarget] = useState(targets[0]![0]);
  const [ohm, setOhm] = useState<string | null>(null);
  const why = whyNotBleed(facts, ruling);
  const bleeding = why.length === 0 ? bleedingOf(ruling, Number(target)) : null;
  const plans = bleeding ? bleedPlans(bleeding) : [];
  const plan = plans.find((p) => String(p.ohm) === ohm) ?? plans[Math.floor(plans.length / 2)];
  const begun = (how: 'notebook' | 'resistor', hours: number) =>
    onKeep(draft('brought-down', [`pack:${facts.id}`], { to: Number(target), how, hours }), `down to ${target} %`).then(onClose);
  return (
    <Sheet title="Bring it down" onClose={onClose}>
      <Words bold>Better: run it in its own notebook, off the adapter, until the gauge says so.</Words>
      <Button
        label="Begun in its notebook"
        height={52}
        onPress={() => begun('notebook', NOTEBOOK_HOURS)}
        testID="begun-notebook"
      />
      {why.map((w) => (
        <Words key={w} bold testID="bleed-refused">{`By a resistor: no, ${w}.`}</Words>
      ))}
      {why.length === 0 ? (
        <>
          <Choice
            label="Down to"
            options={targets.map(([to]) => to)}
            words={Object.fromEntries(targets)}
            value={target}
            onChange={setTarget}
          />
          {bleeding === null ? <Words bold>It is there already, or its capacity is not known.</Words> : null}
          {bleeding !== null && plans.length === 0 ? <Words bold>No usual resistor does it within a working day.</Words> : null}
        </>
      ) : null}
      {plan ? (
        <>
          <Choice
            label="Resistor"
            options={plans.map((p) => String(p.ohm))}
            words={Object.fromEntries(plans.map((p) => [String(p.ohm), `${p.ohm} Ω`]))}
            value={String(plan.ohm)}
            onChange={setOhm}
          />
          <Figures bold size={20} testID="bleed-plan">
            {`${plan.hours.toFixed(1)} h, stop at ${plan.stopVolts.toFixed(2)} V`}
          </Figures>
          <Words>{`Starts at ${plan.startWatts.toFixed(1)} W and ${plan.startAmps.toFixed(2)} A; ${plan.leaves.toFixed(0)} Wh leave. Resistor rated ${Math.ceil(plan.ratingWatts)} W or more (${RATING} times), its surface can pass 100 °C.`}</Words>
          <Course plan={plan} />
          {[
            'On ceramic or metal, nothing that burns near it, somebody there: never overnight.',
            'Stop by timer and by voltage, an alarm on both; a fuse of 2 to 3 A at the plug.',
            'Through the pack’s own plug only, never at the cells. No output: do not force it.',
            'Warm, swelling, smell: unplug, outdoors, tell the lead. Never salt water.',
          ].map((w) => (
            <Words key={w}>{`— ${w}`}</Words>
          ))}
          <Button
            label="Begun with this resistor"
            height={52}
            onPress={() => begun('resistor', Math.round(plan.hours * 10) / 10)}
            testID="begun-resistor"
          />
          <Words size={14} soft>
            From the upper end of its charge, by an engineering table of its cells, 0.15 Ω taken for the pack. Common practice, no
            source.
          </Words>
        </>
      ) : null}
    </Sheet>
  );
}

/** How long a sound pack may lie before it must be topped up, and bringing it down. */
export function CareCard(props: CardProps) {
  const { facts, ruling, onKeep } = props;
  const [open, setOpen] = useState(false);
  const { condition } = ruling.judgement;
  if (condition !== 'sound' && condition !== 'spent') {
    return (
      <Card title="Charge" testID="card-care">
        {facts.discharge ? <Running {...props} discharge={facts.discharge} stop /> : null}
        <Words bold>Leave its charge as it is: do not charge it, do not discharge it.</Words>
        <Words size={15}>{`By a resistor: no, ${whyNotBleed(facts, ruling).join('; ')}.`}</Words>
      </Card>
    );
  }
  if (facts.discharge) {
    return (
      <Card title="On its way down" testID="card-care">
        <Running {...props} discharge={facts.discharge} stop={false} />
      </Card>
    );
  }
  const shelf = shelfOf(ruling);
  const low = shelf !== null && shelf.toLow.lo === 0;
  return (
    <Card title="On the shelf" testID="card-care">
      {shelf ? (
        <>
          <Words bold>
            {low ? `Top it up now: it may be at ${LOW} % already.` : `Top up before ${day(shelf.at, shelf.toLow.lo)}.`}
          </Words>
          <Words>{`At ${LOW} % between ${day(shelf.at, shelf.toLow.lo)} and ${day(shelf.at, shelf.toLow.hi)}; cut off (${CUT_OFF} %) between ${day(shelf.at, shelf.toCutOff.lo)} and ${day(shelf.at, shelf.toCutOff.hi)}.`}</Words>
        </>
      ) : (
        <Words>Its charge or capacity is not known: read the gauge.</Words>
      )}
      <Words size={14} soft>
        At 20 to 25 °C, by usual drains from memory; keep it at 30 to 60 %.
      </Words>
      <Row>
        <Button
          label={`Topped up to ${TOPPED} %`}
          onPress={() => onKeep(draft('topped-up', [`pack:${facts.id}`], { to: TOPPED }), 'topped up')}
          testID="topped-up"
        />
        {low ? null : <Button label="Bring it down…" onPress={() => setOpen(true)} testID="open-bleed" />}
      </Row>
      {open ? <BleedSheet facts={facts} ruling={ruling} onKeep={onKeep} onClose={() => setOpen(false)} /> : null}
    </Card>
  );
}
