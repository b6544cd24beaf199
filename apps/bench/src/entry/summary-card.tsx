import { SUMMARY_ITEMS, type SummaryItem, summaryOn, typeKey } from '@gavrel/core';
import { useState } from 'react';
import { draft } from '../device/write';
import { useAppSelector } from '../state';
import { useActions } from '../state/context';
import { Field } from '../ui/field';
import { Row } from '../ui/frame';
import { Button } from '../ui/buttons';
import { Sheet } from '../ui/sheet';
import { Words } from '../ui/words';

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

/** The test summary of a type code: filed once, it counts for every pack of the code as soon as it says everything. */
export function SummaryKey({ typeCode }: { typeCode: string | undefined }) {
  const actions = useActions();
  const policy = useAppSelector((s) => s.logbook.policy);
  const workshop = useAppSelector((s) => s.session.session?.workshop.id ?? '');
  const filed = typeCode === undefined ? undefined : policy.summaries[typeKey(typeCode)];
  const [items, setItems] = useState<readonly SummaryItem[] | null>(null);
  const [report, setReport] = useState(filed?.report ?? '');
  if (typeCode === undefined)
    return <Words size={15}>Read the type code, then its test summary can be filed once for all of them.</Words>;
  const state = summaryOn(typeCode, policy);
  const words =
    state === null
      ? 'no test summary on file'
      : state === 'complete'
        ? 'test summary on file'
        : `test summary lacks: ${state.map((i) => WORDS[i]).join(', ')}`;
  const now = items ?? filed?.items ?? [];
  const keep = async () => {
    const body = { typeCode, items: now, ...(report.trim() && { report: report.trim() }) };
    await actions.write([draft('summary-filed', [`policy:${workshop}`], body)], `test summary of ${typeCode}`);
    setItems(null);
  };
  return (
    <>
      <Words size={15}>{`${typeCode}: ${words}`}</Words>
      <Button label="Test summary of this type" onPress={() => setItems(filed?.items ?? [])} testID="summary" />
      {items === null ? null : (
        <Sheet
          title={`Test summary of ${typeCode}`}
          onClose={() => setItems(null)}
          footer={
            <Button
              label={`Keep ${now.length} of ${SUMMARY_ITEMS.length}`}
              tone="next"
              height={64}
              onPress={() => void keep()}
              testID="keep-summary"
            />
          }
        >
          <Words>What it says. It counts once it says everything, for this type only, never for a rebuilt pack.</Words>
          <Button label="It says all ten" height={56} onPress={() => setItems(SUMMARY_ITEMS)} testID="summary-all" />
          <Row gap={6}>
            {SUMMARY_ITEMS.map((i) => (
              <Button
                key={i}
                label={WORDS[i]}
                role="checkbox"
                selected={now.includes(i)}
                height={52}
                onPress={() => setItems(now.includes(i) ? now.filter((x) => x !== i) : [...now, i])}
              />
            ))}
          </Row>
          <Field label="Report number" value={report} onChange={setReport} />
        </Sheet>
      )}
    </>
  );
}
