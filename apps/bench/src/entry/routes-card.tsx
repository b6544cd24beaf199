import { ALL_ROUTES, type Cell, localDay, matrix, wasteOf } from '@gavrel/core';
import { useMemo, useState } from 'react';
import { View } from 'react-native';
import { draft } from '../device/write';
import { useAppSelector } from '../state';
import { useZone } from '../state/rulings';
import { Card } from '../ui/frame';
import { Choice } from '../ui/buttons';
import { Words } from '../ui/words';
import { AskedKeys, REGION_WORDS, RouteTable, useAsked } from '../routes/route-table';
import type { CardProps } from './card';
import { CellSheet } from './cell-sheet';
import { SummaryKey } from './summary-card';
import { dayWords } from '../ui/say';

/** Whether and how the pack may travel, alone in its package, and where it ends. */
export function RoutesCard({ facts, ruling, onKeep }: CardProps) {
  const code = useAppSelector((s) => s.logbook.policy.wasteCode);
  const asked = useAsked(ruling.on, localDay(useZone(), new Date(facts.lastAt)));
  const { region, on } = asked;
  const [open, setOpen] = useState<{ cell: Cell; title: string } | null>(null);
  const cells = useMemo(() => matrix(ruling.shipping, on, { region, routes: ALL_ROUTES }), [ruling.shipping, on, region]);
  const waste = wasteOf({
    condition: ruling.judgement.condition,
    purpose: facts.purpose,
    since: facts.wasteSince,
    region,
    on,
    code,
  });
  return (
    <Card title="Travel" testID="card-routes">
      {asked.trouble === null ? (
        <RouteTable
          cells={cells}
          label={`may it travel, ${REGION_WORDS[region]}, on ${dayWords(on)}`}
          onOpen={(cell, title) => setOpen({ cell, title })}
        />
      ) : null}
      <AskedKeys asked={asked} today={ruling.on} />
      <Words>
        <Words bold>{`stream: ${ruling.stream.stream}`}</Words>
        {` — ${ruling.stream.why}`}
      </Words>
      {waste ? (
        <View style={{ gap: 2 }} testID="waste">
          <Words bold>
            {[waste.code && `waste code ${waste.code}`, waste.until && `to be handed over by ${dayWords(waste.until)}`]
              .filter(Boolean)
              .join(' · ') || 'as waste: say since when'}
          </Words>
          <Words size={15}>{`${waste.words.join('; ')}. Local code decides.`}</Words>
        </View>
      ) : null}
      <Choice
        label="Meant for"
        options={['use', 'recycling', 'disposal'] as const}
        value={facts.purpose}
        onChange={(purpose) => void onKeep(draft('intended', [`pack:${facts.id}`], { purpose }), `meant for ${purpose}`)}
      />
      <Choice
        label="UN 38.3 evidence"
        options={['yes', 'no'] as const}
        words={{ yes: 'UN 38.3 summary seen', no: 'never tested' }}
        value={facts.evidence.some((e) => e.body.typeTested === 'no') ? 'no' : facts.evidence.length > 0 ? 'yes' : null}
        onChange={(typeTested) => void onKeep(draft('evidence-stated', [`pack:${facts.id}`], { typeTested }), 'UN 38.3 evidence')}
      />
      <SummaryKey typeCode={ruling.judgement.label.sure.typeCode} />
      {open ? (
        <CellSheet {...open} tag={facts.tag} ruling={ruling} region={region} on={on} onClose={() => setOpen(null)} />
      ) : null}
    </Card>
  );
}
