import { useState } from 'react';
import { saveFile } from '../../device/picture';
import { useOwner } from '../../entry/use-owner';
import { print } from '../../paper/print';
import { useAppSelector } from '../../state';
import { Button } from '../../ui/buttons';
import { Card, Row } from '../../ui/frame';
import { Words } from '../../ui/words';
import { consignmentData, documentPaper, listCsv, marksPaper, overpackPaper, type Parties } from './papers';
import type { ConsignmentView } from './view';
import { isWaste, wasteData, wastePaper } from './waste';

const lines = (text: string): string[] =>
  text
    .split('\n')
    .map((l) => l.trim())
    .filter(Boolean);

/** Marks at true size, the list, and the data of the transport document. */
export function PapersCard({ v }: { v: ConsignmentView }) {
  const policy = useAppSelector((s) => s.logbook.policy);
  const workshop = useAppSelector((s) => s.session.session?.workshop.name ?? '');
  const owner = useOwner(v.facts.addressee ?? null);
  const [trouble, setTrouble] = useState('');
  const unlawful = v.packages.filter((p) => !p.ruled.lawful && p.sent === null);
  const parties: Parties = { from: [workshop], to: owner ? [owner.name, ...lines(owner.contact)] : [] };
  const name = `consignment-${v.on}`;
  const made = (job: Promise<void>) => {
    setTrouble('');
    void job.catch((e: Error) => setTrouble(e.message));
  };
  const marks = (sheet: 'A4' | 'roll') =>
    made(print(`marks-${v.on}`, { kind: 'marks', paper: marksPaper(v, parties, sheet, policy) }));
  const none = unlawful.length === v.packages.length;
  return (
    <Card title="Marks and papers" testID="card-papers">
      {unlawful.length > 0 ? (
        <Words bold>{`No marks for ${unlawful.map((p) => `package ${p.number}`).join(', ')}: not like this.`}</Words>
      ) : null}
      <Row>
        {v.facts.sent ? null : (
          <>
            <Button label="Marks, A4" height={56} disabled={none} onPress={() => marks('A4')} testID="marks-A4" />
            <Button label="Marks, label roll" height={56} disabled={none} onPress={() => marks('roll')} testID="marks-roll" />
            {v.packages.length > 1 && unlawful.length === 0 ? (
              <Button
                label="Overpack, A4"
                height={56}
                onPress={() => made(print(`overpack-${v.on}`, { kind: 'marks', paper: overpackPaper(v, parties, policy) }))}
                testID="marks-overpack"
              />
            ) : null}
          </>
        )}
        <Button
          label="List and document data"
          height={56}
          onPress={() => made(print(name, { kind: 'report', paper: documentPaper(v, parties, policy, workshop) }))}
          testID="print-document"
        />
        {isWaste(v) ? (
          <Button
            label="Waste note"
            height={56}
            onPress={() => made(print(`waste-${v.on}`, { kind: 'report', paper: wastePaper(v, parties, policy, workshop) }))}
            testID="print-waste"
          />
        ) : null}
        <Button
          label="CSV"
          hint="list by package"
          height={56}
          onPress={() => saveFile(`${name}.csv`, new Blob([listCsv(v)], { type: 'text/csv' }))}
          testID="list-csv"
        />
        <Button
          label="JSON"
          hint="the consignment as data"
          height={56}
          onPress={() =>
            saveFile(
              `${name}.json`,
              new Blob([JSON.stringify({ ...consignmentData(v), waste: isWaste(v) ? wasteData(v, policy) : null }, null, 2)], {
                type: 'application/json',
              }),
            )
          }
        />
      </Row>
      {trouble ? <Words bold>{trouble}</Words> : null}
    </Card>
  );
}
