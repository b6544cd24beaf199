import { type Cell, type CellWord, type Rule, SHIPPING } from '@gavrel/core';
import { useState } from 'react';
import { Pressable, View } from 'react-native';
import { draft } from '../../log/write';
import { TARGET, useTokens } from '../../theme';
import { Card } from '../../ui/frame';
import { Choice } from '../../ui/keys';
import { Sheet } from '../../ui/sheet';
import { Figures, Heading, Words } from '../../ui/words';
import type { CardProps } from './card';

const MODES = [
  ['road', 'road'],
  ['air-cargo', 'cargo aircraft'],
  ['air-passenger', 'passenger aircraft'],
] as const;
const ROWS = [
  ['loose', 'use', 'loose'],
  ['with-equipment', 'use', 'with equipment'],
  ['in-equipment', 'use', 'in equipment'],
  ['loose', 'recycling', 'to recycling'],
] as const;

/** Each word has a mark of its own, so that nobody needs colours. */
const MARK: Record<CellWord, string> = { yes: '○', split: '◫', 'as damaged': '△', hold: '…', approval: '✎', no: '×' };

/** One rule in plain words, its source and how sure our copy is. */
export function RuleLine({ rule }: { rule: Rule }) {
  return (
    <View style={{ gap: 2 }}>
      <Words>{rule.title}</Words>
      <Words size={14} soft>
        {`${rule.source} · ${rule.certainty === 'H' ? '◇' : '◈'} from memory${rule.certainty === 'H' ? '' : ', wording may differ'}`}
      </Words>
    </View>
  );
}

function CellSheet({ cell, title, on, onClose }: { cell: Cell; title: string; on: string; onClose: () => void }) {
  const { result } = cell;
  return (
    <Sheet title={title} onClose={onClose}>
      <Heading level={3}>{`${MARK[cell.word]} ${cell.word}`}</Heading>
      <Figures>
        {[result.un, result.provision, result.batteryMark ? 'battery mark' : null].filter(Boolean).join(' · ') || 'no provision'}
      </Figures>
      {result.notes.map((n) => (
        <Words key={n}>{`— ${n}`}</Words>
      ))}
      {result.missing.length > 0 ? <Words bold>{`waits for: ${result.missing.join(', ')}`}</Words> : null}
      <Heading level={3} size={17}>
        Rules
      </Heading>
      {result.rules.map((id) => (
        <RuleLine key={id} rule={SHIPPING.shown(id, on)} />
      ))}
      <Words size={15} soft>
        Rules are our copy, from memory: check the current edition. A trained person and local law decide.
      </Words>
    </Sheet>
  );
}

/** Whether and how the pack may travel, alone in its package, and where it ends. */
export function RoutesCard({ facts, ruling, onKeep }: CardProps) {
  const t = useTokens();
  const [open, setOpen] = useState<{ cell: Cell; title: string } | null>(null);
  return (
    <Card title="Travel" testID="card-routes">
      <View role="table" aria-label="may it travel">
        <View role="row" style={{ flexDirection: 'row' }}>
          <View role="columnheader" style={{ flex: 1.1 }}>
            <Words size={14} soft>
              {' '}
            </Words>
          </View>
          {MODES.map(([m, words]) => (
            <View key={m} role="columnheader" style={{ flex: 1, padding: 4 }}>
              <Words size={14} soft style={{ textAlign: 'center' }}>
                {words}
              </Words>
            </View>
          ))}
        </View>
        {ROWS.map(([placement, purpose, words]) => (
          <View key={words} role="row" style={{ flexDirection: 'row', borderTopWidth: 1, borderColor: t.line }}>
            <View role="rowheader" style={{ flex: 1.1, justifyContent: 'center' }}>
              <Words size={15}>{words}</Words>
            </View>
            {MODES.map(([mode, modeWords]) => {
              const cell = ruling.cells.find((c) => c.mode === mode && c.placement === placement && c.purpose === purpose)!;
              const no = cell.word === 'no';
              return (
                <View key={mode} role="cell" style={{ flex: 1 }}>
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
      <Words>
        <Words bold>{`stream: ${ruling.stream.stream}`}</Words>
        {` — ${ruling.stream.why}`}
      </Words>
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
      {open ? <CellSheet {...open} on={ruling.on} onClose={() => setOpen(null)} /> : null}
    </Card>
  );
}
