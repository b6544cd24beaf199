import { SUMMARY_ITEMS, type SummaryItem, summaryOn, typeKey } from '@gavrel/core';
import { useState } from 'react';
import { draft } from '../device/write';
import { useAppSelector } from '../state';
import { useActions } from '../state/context';
import { useDraft } from '../state/use-draft';
import { Field } from '../ui/field';
import { Row } from '../ui/frame';
import { Button } from '../ui/buttons';
import { Sheet } from '../ui/sheet';
import { Words } from '../ui/words';
import { TextReader } from './text-reader';

const WORDS: Record<SummaryItem, string> = {
  maker: 'maker',
  contact: 'contact',
  laboratory: 'test laboratory',
  report: 'report number',
  date: 'date of the report',
  description: 'type, mass, Wh, models',
  tests: 'tests and results',
  assembled: 'assembled-battery reference',
  edition: 'edition of the manual',
  responsible: 'responsible person',
};

/** What was ticked and typed of a test summary, until it is kept. */
interface Filing {
  readonly items: readonly SummaryItem[];
  readonly report: string;
}

/** What a test summary says, ticked off; what was begun outlives Escape and a reload. */
function SummarySheet({ typeCode, filed, onClose }: { typeCode: string; filed: Filing; onClose: () => void }) {
  const actions = useActions();
  const workshop = useAppSelector((s) => s.session.session?.workshop.id ?? '');
  const [{ items, report }, set, done] = useDraft<Filing>(`summary ${typeKey(typeCode)}`, filed);
  const keep = async () => {
    const body = { typeCode, items, ...(report.trim() && { report: report.trim() }) };
    await actions.write([draft('summary-filed', [`policy:${workshop}`], body)], `test summary of ${typeCode}`);
    done();
    onClose();
  };
  return (
    <Sheet
      title={`Test summary of ${typeCode}`}
      onClose={onClose}
      footer={
        <Button
          label={`Keep ${items.length} of ${SUMMARY_ITEMS.length}`}
          tone="next"
          height={64}
          onPress={() => keep()}
          testID="keep-summary"
        />
      }
    >
      <Words>What it says. It counts once it says everything, for this type only, never for a rebuilt pack.</Words>
      <Button label="It says all ten" height={56} onPress={() => set({ items: SUMMARY_ITEMS, report })} testID="summary-all" />
      <Row gap={6}>
        {SUMMARY_ITEMS.map((i) => (
          <Button
            key={i}
            label={WORDS[i]}
            role="checkbox"
            selected={items.includes(i)}
            height={52}
            onPress={() => set({ report, items: items.includes(i) ? items.filter((x) => x !== i) : [...items, i] })}
          />
        ))}
      </Row>
      <Field label="Report number" value={report} onChange={(x) => set({ items, report: x })} testID="summary-report" />
      <TextReader
        of="test summary"
        titles={{ report: 'Report number' }}
        values={{ report }}
        onTake={(_field, said) => set({ items: items.includes('report') ? items : [...items, 'report'], report: said })}
      />
    </Sheet>
  );
}

/** The test summary of a type code: filed once, it counts for every pack of the code as soon as it says everything. */
export function SummaryKey({ typeCode }: { typeCode: string | undefined }) {
  const policy = useAppSelector((s) => s.logbook.policy);
  const [open, setOpen] = useState(false);
  if (typeCode === undefined)
    return <Words size={15}>Read the type code, then its test summary can be filed once for all of them.</Words>;
  const filed = policy.summaries[typeKey(typeCode)];
  const state = summaryOn(typeCode, policy);
  const words =
    state === null
      ? 'no test summary on file'
      : state === 'complete'
        ? 'test summary on file'
        : `test summary lacks: ${state.map((i) => WORDS[i]).join(', ')}`;
  return (
    <>
      <Words size={15}>{`${typeCode}: ${words}`}</Words>
      <Button label="Test summary of this type" onPress={() => setOpen(true)} testID="summary" />
      {open ? (
        <SummarySheet
          typeCode={typeCode}
          filed={{ items: filed?.items ?? [], report: filed?.report ?? '' }}
          onClose={() => setOpen(false)}
        />
      ) : null}
    </>
  );
}
