import { ALL_ROUTES, type Cell, matrix, type Region, REGIONS, wasteOf } from '@gavrel/core';
import { useMemo, useState } from 'react';
import { Pressable, View } from 'react-native';
import { draft } from '../../log/write';
import { useAppDispatch, useAppSelector } from '../../store';
import { regionChosen } from '../../store/view';
import { TARGET, useTokens } from '../../theme';
import { Field } from '../../ui/field';
import { Card } from '../../ui/frame';
import { Choice } from '../../ui/keys';
import { Words } from '../../ui/words';
import type { CardProps } from './card';
import { CellSheet, MARK } from './cell-sheet';
import { SummaryKey } from './summary-card';

const MODES = [
  ['road', 'road'],
  ['rail', 'rail'],
  ['sea', 'sea'],
  ['air-cargo', 'cargo aircraft'],
  ['air-passenger', 'passenger aircraft'],
] as const;
const COLUMNS = [
  ['loose', 'use', 'loose'],
  ['with-equipment', 'use', 'with equipment'],
  ['in-equipment', 'use', 'in equipment'],
  ['loose', 'recycling', 'to recycling'],
] as const;
export const REGION_WORDS: Record<Region, string> = {
  eu: 'Europe',
  uk: 'United Kingdom',
  us: 'United States',
  international: 'international',
};
const CHOICES = REGIONS.filter((r) => r !== 'international');

/** Whether and how the pack may travel, alone in its package, and where it ends. */
export function RoutesCard({ facts, ruling, onKeep }: CardProps) {
  const t = useTokens();
  const dispatch = useAppDispatch();
  const region = useAppSelector((s) => s.view.region);
  const code = useAppSelector((s) => s.logbook.policy.wasteCode);
  const [day, setDay] = useState('');
  const [open, setOpen] = useState<{ cell: Cell; title: string } | null>(null);
  const on = /^\d{4}-(0[1-9]|1[0-2])-(0[1-9]|[12]\d|3[01])$/.test(day) ? day : ruling.on;
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
      <View role="table" aria-label={`may it travel, ${REGION_WORDS[region]}, on ${on}`}>
        <View role="row" style={{ flexDirection: 'row' }}>
          <View role="columnheader" style={{ flex: 1.02 }}>
            <Words size={14} soft>
              {' '}
            </Words>
          </View>
          {COLUMNS.map(([, , words]) => (
            <View key={words} role="columnheader" style={{ flex: 1, justifyContent: 'flex-end' }}>
              <Words size={14} soft style={{ textAlign: 'center' }}>
                {words}
              </Words>
            </View>
          ))}
        </View>
        {MODES.map(([mode, modeWords]) => (
          <View key={mode} role="row" style={{ flexDirection: 'row', borderTopWidth: 1, borderColor: t.line }}>
            <View role="rowheader" style={{ flex: 1.02, justifyContent: 'center' }}>
              <Words size={14}>{modeWords}</Words>
            </View>
            {COLUMNS.map(([placement, purpose, words]) => {
              const cell = cells.find((c) => c.mode === mode && c.placement === placement && c.purpose === purpose)!;
              const no = cell.word === 'no';
              return (
                <View key={words} role="cell" style={{ flex: 1 }}>
                  <Pressable
                    role="button"
                    aria-label={`${words}, ${modeWords}: ${cell.word}`}
                    onPress={() => setOpen({ cell, title: `${words}, ${modeWords}` })}
                    testID={`cell-${mode}-${placement}-${purpose}`}
                    style={{
                      minHeight: TARGET + 6,
                      alignItems: 'center',
                      justifyContent: 'center',
                      backgroundColor: cell.word === 'yes' ? 'transparent' : no ? t.ink : t.wash,
                      margin: 1,
                    }}
                  >
                    <Words bold size={17} color={no ? t.ground : t.ink}>
                      {MARK[cell.word]}
                    </Words>
                    <Words size={14} color={no ? t.ground : t.ink} style={{ textAlign: 'center' }}>
                      {cell.word}
                    </Words>
                  </Pressable>
                </View>
              );
            })}
          </View>
        ))}
      </View>
      <Words size={15} soft>
        Rules of road and rail
      </Words>
      <Choice
        label="Rules of road and rail"
        options={CHOICES}
        words={REGION_WORDS}
        value={region}
        onChange={(r) => dispatch(regionChosen(r))}
      />
      <Field label={`Another day of dispatch than ${on}`} value={day} onChange={setDay} testID="dispatch-on" />
      <Words>
        <Words bold>{`stream: ${ruling.stream.stream}`}</Words>
        {` — ${ruling.stream.why}`}
      </Words>
      {waste ? (
        <View style={{ gap: 2 }} testID="waste">
          <Words bold>
            {[waste.code && `waste code ${waste.code}`, waste.until && `to be handed over by ${waste.until}`]
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
      {open ? <CellSheet {...open} ruling={ruling} region={region} on={on} onClose={() => setOpen(null)} /> : null}
    </Card>
  );
}
