import { type Cell, factsOn, factWords, provisionWords, type Region, routeOn, type Ruling } from '@gavrel/core';
import { waysToYes } from '@gavrel/core/dispatch';
import { Sheet } from '../ui/sheet';
import { Figures, Heading, Words } from '../ui/words';
import { MARK } from '../routes/route-table';
import { CarrySteps, PrintSteps, RuleSteps, Steps } from '../routes/steps';
import { goes } from '../routes/steps-paper';

/** One way to send it: the answer, what would open it, then what to do in the order of the work, and the rules. */
export function CellSheet({
  cell,
  title,
  tag,
  ruling,
  region,
  on,
  onClose,
}: {
  cell: Cell;
  title: string;
  tag: string;
  ruling: Ruling;
  region: Region;
  on: string;
  onClose: () => void;
}) {
  const { result } = cell;
  const going = goes(result);
  const ways = going ? [] : waysToYes(factsOn(ruling.shipping, cell), routeOn(cell.mode, region, on)).map((w) => w.words);
  return (
    <Sheet title={title} onClose={onClose}>
      <Heading level={3}>{`${MARK[cell.word]} ${cell.word}`}</Heading>
      <Figures>
        {[result.un, provisionWords(result.provision), result.batteryMark ? 'battery mark' : null].filter(Boolean).join(' · ')}
      </Figures>
      {result.missing.length > 0 ? <Words bold>{`waits for: ${result.missing.map(factWords).join(', ')}`}</Words> : null}
      {going ? null : <Steps title="Why" lines={result.notes} />}
      <Steps title="It would go" lines={ways} />
      <CarrySteps cell={cell} />
      {going ? <PrintSteps title={title} packs={[{ tag, cell }]} on={on} /> : null}
      <RuleSteps rules={result.rules} on={on} />
    </Sheet>
  );
}
