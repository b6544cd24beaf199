import { factWords, judge, localDay, provisionWords, REGION_RULES } from '@gavrel/core';
import { type Chosen, type ChosenCell, chosenLoad, chosenMatrix, RELIEF_POINTS } from '@gavrel/core/dispatch';
import { router } from 'expo-router';
import { useMemo, useState } from 'react';
import { useAppDispatch, useAppSelector } from '../../state';
import { rulingOf, useZone } from '../../state/rulings';
import { packsChosen } from '../../state/view';
import { Card, Row } from '../../ui/frame';
import { Choice, Button } from '../../ui/buttons';
import { LimitScale } from '../../ui/limit-scale';
import { Sheet } from '../../ui/sheet';
import { Figures, Words } from '../../ui/words';
import { packsWord } from './words';
import { AskedKeys, MARK, REGION_WORDS, RouteTable, useAsked } from '../../routes/route-table';
import { CarrySteps, PrintSteps, RuleSteps, Steps } from '../../routes/steps';
import { alike, goes } from '../../routes/steps-paper';
import { ChooseSheet } from '../../stock/choose';
import { dayWords } from '../../ui/say';

const MOST = 12;
const tagWords = (all: readonly string[]) =>
  all.length > MOST ? `${all.slice(0, MOST).join(', ')} and ${all.length - MOST} more` : all.join(', ');

/** Tags one beside another; a tag is never broken over two lines. */
function Tags({ all }: { all: readonly string[] }) {
  return (
    <Row gap={10}>
      {all.slice(0, MOST).map((tag) => (
        <Figures key={tag} size={15}>
          {tag}
        </Figures>
      ))}
      {all.length > MOST ? <Words size={15}>{`and ${all.length - MOST} more`}</Words> : null}
    </Row>
  );
}

/** One route for all of them: what stays and why, what goes and how. */
function ChosenSheet({ cell, title, on, onClose }: { cell: ChosenCell; title: string; on: string; onClose: () => void }) {
  const answered = cell.packs.map(({ pack, cell: c }) => ({ tag: pack.tag, cell: c }));
  const groups = alike(answered);
  return (
    <Sheet title={title} onClose={onClose}>
      {groups.map(({ first, tags: of }) => (
        <Card key={of[0]} title={`${MARK[first.word]} ${first.word}, ${packsWord(of.length)}`}>
          <Tags all={of} />
          <Figures>{[first.result.un, provisionWords(first.result.provision)].filter(Boolean).join(' · ')}</Figures>
          {first.result.missing.length > 0 ? (
            <Words bold>{`waits for: ${first.result.missing.map(factWords).join(', ')}`}</Words>
          ) : null}
          {goes(first.result) ? null : <Steps title="Why" lines={first.result.notes} />}
          <CarrySteps cell={first} />
        </Card>
      ))}
      {cell.going > 0 ? <PrintSteps title={title} packs={answered} on={on} /> : null}
      <RuleSteps rules={[...new Set(answered.flatMap((a) => a.cell.result.rules))]} on={on} />
    </Sheet>
  );
}

/** Points of one vehicle on European roads, against the thousand up to which it is relieved. */
function LoadCard({ cells }: { cells: readonly ChosenCell[] }) {
  const [purpose, setPurpose] = useState<'use' | 'recycling'>('recycling');
  const load = chosenLoad(cells.find((c) => c.mode === 'road' && c.placement === 'loose' && c.purpose === purpose)!);
  return (
    <Card title="In one vehicle" testID="card-load">
      <Choice
        label="Sent to"
        options={['recycling', 'use'] as const}
        words={{ use: 'for use', recycling: 'to recycling' }}
        value={purpose}
        onChange={setPurpose}
      />
      <LimitScale
        limit={{
          id: 'load.points',
          label: 'ADR points',
          unit: 'points',
          value: load.points,
          u: 0,
          limit: RELIEF_POINTS,
          side: 'max',
          verdict: judge(load.points, 0, RELIEF_POINTS, 'max'),
          beyond: 'fully regulated vehicle',
          between: '',
          perReading: 1,
          readingUnit: 'points',
          decimals: 0,
          nature: 'choice',
        }}
      />
      <Words bold>{load.relief ? 'The vehicle is relieved of the fuller rules.' : `No relief: ${load.why}.`}</Words>
      <Words size={15}>
        {[
          `${load.netKg.toFixed(1)} kg of packs`,
          load.notWeighed.length > 0 ? `taken by a bound, not weighed: ${tagWords(load.notWeighed)}` : '',
          load.unknown.length > 0 ? `no weight known: ${tagWords(load.unknown)}` : '',
        ]
          .filter(Boolean)
          .join('; ')}
      </Words>
      <Words size={14} soft>
        ADR 1.1.3.6, transport category 2, factor 3; from memory. Whatever else the vehicle carries adds its own points.
      </Words>
    </Card>
  );
}

/** Packs chosen anywhere: may they travel, how, and what they weigh in one vehicle. */
export function ChosenCards({ onConsign }: { onConsign: ((ids: readonly string[]) => void) | null }) {
  const dispatch = useAppDispatch();
  const { packs, policy } = useAppSelector((s) => s.logbook);
  const ids = useAppSelector((s) => s.view.chosen);
  const zone = useZone();
  const today = localDay(zone, new Date());
  const newest = ids.map((id) => packs[id]?.lastAt ?? '').reduce((a, b) => (a > b ? a : b), '');
  const asked = useAsked(today, newest === '' ? undefined : localDay(zone, new Date(newest)));
  const { region, on } = asked;
  const [choosing, setChoosing] = useState(false);
  const [open, setOpen] = useState<{ cell: ChosenCell; title: string } | null>(null);
  const chosen = useMemo(
    () =>
      ids.flatMap((id): Chosen[] => {
        const f = packs[id];
        return f && f.left === null ? [{ id, tag: f.tag, shipping: rulingOf(f, policy, zone).shipping }] : [];
      }),
    [ids, packs, policy, zone],
  );
  const cells = useMemo(() => chosenMatrix(chosen, on, { region }), [chosen, on, region]);
  const shown = cells.map((c) => ({
    ...c,
    ...(c.going > 0 && c.going < c.packs.length && { some: `${c.going} of ${c.packs.length}` }),
  }));
  return (
    <>
      <Card
        title={chosen.length === 0 ? 'May they travel?' : `May they travel? ${packsWord(chosen.length)}`}
        testID="card-chosen"
        right={
          chosen.length > 0 ? (
            <Button label="None" hint="choose none" tone="quiet" onPress={() => dispatch(packsChosen([]))} />
          ) : undefined
        }
      >
        {chosen.length > 0 ? <Tags all={chosen.map((c) => c.tag)} /> : null}
        <Row>
          <Button label="Choose packs" height={56} onPress={() => setChoosing(true)} testID="choose-packs" />
          {onConsign && chosen.length > 0 ? (
            <Button
              label="Make a consignment of them"
              tone="next"
              height={56}
              onPress={() => onConsign(chosen.map((c) => c.id))}
              testID="consign-chosen"
            />
          ) : null}
          <Button label="From a table instead" height={56} onPress={() => router.push('/table')} />
        </Row>
      </Card>
      {shown.length > 0 ? (
        <>
          <Card title="Travel, each in a package of its own" testID="card-chosen-routes">
            {asked.trouble === null ? (
              <RouteTable
                cells={shown}
                label={`may they travel, ${REGION_WORDS[region]}, on ${dayWords(on)}`}
                onOpen={(cell, title) => setOpen({ cell, title })}
              />
            ) : null}
            {asked.trouble === null && shown.some((c) => c.some) ? (
              <Words size={15} soft>
                Numbers: how many of them go. The mark is that of the worst one.
              </Words>
            ) : null}
            <AskedKeys asked={asked} today={today} />
          </Card>
          {REGION_RULES[region].road !== 'adr' || asked.trouble !== null ? null : <LoadCard cells={cells} />}
        </>
      ) : null}
      {choosing ? (
        <ChooseSheet
          before={ids}
          onKeep={(all) => {
            dispatch(packsChosen(all));
            setChoosing(false);
          }}
          onClose={() => setChoosing(false)}
        />
      ) : null}
      {open ? <ChosenSheet {...open} on={on} onClose={() => setOpen(null)} /> : null}
    </>
  );
}
