import { carryOf, type Cell, type CellWord, factsOn, type Region, routeOn, type Ruling, SHIPPING, waysToYes } from '@gavrel/core';
import { View } from 'react-native';
import { Sheet } from '../../ui/sheet';
import { Figures, Heading, Words } from '../../ui/words';
import { RuleLine } from '../rules/rule-line';

/** Each word has a mark of its own, so that nobody needs colours. */
export const MARK: Record<CellWord, string> = { yes: '○', split: '◫', 'as damaged': '△', hold: '…', approval: '✎', no: '×' };

function Steps({ title, lines }: { title: string; lines: readonly string[] }) {
  if (lines.length === 0) return null;
  return (
    <View style={{ gap: 2 }}>
      <Heading level={3} size={17}>
        {title}
      </Heading>
      {lines.map((l) => (
        <Words key={l}>{`— ${l}`}</Words>
      ))}
    </View>
  );
}

/** One way to send it: the answer, what would open it, then what to do in the order of the work, and the rules. */
export function CellSheet({
  cell,
  title,
  ruling,
  region,
  on,
  onClose,
}: {
  cell: Cell;
  title: string;
  ruling: Ruling;
  region: Region;
  on: string;
  onClose: () => void;
}) {
  const { result } = cell;
  const goes = result.outcome === 'allowed' || result.outcome === 'split';
  const carry = goes ? carryOf(result.provision, cell.placement, cell.mode, result.batteryMark === true) : null;
  const ways = goes ? [] : waysToYes(factsOn(ruling.shipping, cell), routeOn(cell.mode, region, on)).map((w) => w.words);
  return (
    <Sheet title={title} onClose={onClose}>
      <Heading level={3}>{`${MARK[cell.word]} ${cell.word}`}</Heading>
      <Figures>
        {[result.un, result.provision, result.batteryMark ? 'battery mark' : null].filter(Boolean).join(' · ') || 'no provision'}
      </Figures>
      {result.missing.length > 0 ? <Words bold>{`waits for: ${result.missing.join(', ')}`}</Words> : null}
      {goes ? null : <Steps title="Why" lines={result.notes} />}
      <Steps title="It would go" lines={ways} />
      {carry ? (
        <>
          <Steps title="Pack it" lines={carry.packaging} />
          <Steps title="On the package" lines={carry.marks} />
          <Steps title="Papers" lines={carry.papers} />
          <Steps title="Who" lines={[carry.trained]} />
        </>
      ) : null}
      {goes ? <Steps title="Limits and notes" lines={result.notes} /> : null}
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
