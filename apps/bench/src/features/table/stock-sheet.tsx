import { counted, taggedId } from '@gavrel/core';
import { useMemo, useState } from 'react';
import { useAppSelector } from '../../state';
import { useActions } from '../../state/context';
import { Button } from '../../ui/buttons';
import { Sheet } from '../../ui/sheet';
import { useOnce } from '../../ui/use-once';
import { UNANSWERED } from '../../ui/say';
import { Words } from '../../ui/words';
import { MOST_STOCK } from './limits';
import { stockDrafts, type StockLine, type Taken } from './stock';

/** The same table as packs of this workshop, with a report line by line. */
export function StockSheet({ lines, onClose }: { lines: readonly StockLine[]; onClose: () => void }) {
  const actions = useActions();
  const workshop = useAppSelector((s) => s.session.session?.workshop.id ?? '');
  const packs = useAppSelector((s) => s.logbook.packs);
  const [report, setReport] = useState<readonly Taken[] | null>(null);
  const [trouble, setTrouble] = useState('');
  const ready = useMemo(() => stockDrafts(lines, workshop, (id) => packs[id] !== undefined), [lines, workshop, packs]);
  const fresh = ready.taken.filter((x) => x.words === 'taken in').length;
  const take = useOnce(async () => {
    const tagged = lines.slice(0, MOST_STOCK).filter((l) => l.tag !== '');
    const onRecord = await actions.packsOnRecord([...new Set(tagged.map((l) => taggedId(workshop, 'pack', l.tag)))]);
    if (onRecord === null) return setTrouble(`Nothing was taken in: some of these tags are ${UNANSWERED}`);
    setTrouble('');
    const now = stockDrafts(lines, workshop, (id) => onRecord[id] !== undefined);
    const taken = now.taken.filter((x) => x.words === 'taken in').length;
    setReport(now.taken);
    if (now.drafts.length > 0) await actions.write(now.drafts, `${counted(taken, 'pack')} taken in`);
  });
  const shown = report ?? ready.taken;
  return (
    <Sheet
      title="Take in as stock"
      onClose={onClose}
      footer={
        report ? null : (
          <Button
            label={`Take in ${counted(fresh, 'pack')}`}
            tone="next"
            height={64}
            disabled={fresh === 0}
            onPress={() => take()}
            testID="take-stock"
          />
        )
      }
    >
      <Words>
        Labels, weights and whatever speaks against a pack are taken in. A clearing, "nothing found" and "tested" are not: the
        packs come in unproven.
      </Words>
      {trouble ? (
        <Words bold live>
          {trouble}
        </Words>
      ) : null}
      {lines.length === MOST_STOCK ? <Words bold>{`The first ${MOST_STOCK} lines; cut the table for the rest.`}</Words> : null}
      {report ? <Words bold>{`${report.filter((x) => x.words === 'taken in').length} taken in`}</Words> : null}
      {shown
        .filter((x) => x.words !== 'taken in')
        .slice(0, 50)
        .map((x) => (
          <Words key={x.line}>{`line ${x.line} ${x.tag}: ${x.words}`}</Words>
        ))}
    </Sheet>
  );
}
