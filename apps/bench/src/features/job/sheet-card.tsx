import { groupName, groupsOf, type Station, counted } from '@gavrel/core';
import { exportSheet, type ModelSheet } from '@gavrel/core/job';
import { useState } from 'react';
import { chooseFile, saveFile } from '../../device/picture';
import { draft } from '../../device/write';
import { useAppSelector } from '../../state';
import { useActions } from '../../state/context';
import { loadSchemas, schemasHere } from '../../state/schemas';
import { Card, Row } from '../../ui/frame';
import { Button } from '../../ui/buttons';
import { Figures, Words } from '../../ui/words';
import type { JobView } from './view';

/** "7 of 9 of this type came in swollen", before the first screw. */
export function swollenWords(s: ModelSheet): string {
  return s.judged === 0 ? '' : `${s.swollen} of ${s.judged} of this model came in swollen`;
}

/** What jobs taught about this model, and sharing it as a file. */
export function SheetCard({ v }: { v: JobView }) {
  const actions = useActions();
  const workshop = useAppSelector((s) => s.session.session?.workshop.name ?? '');
  const partly = useAppSelector((s) => s.logbook.holds !== null);
  const [trouble, setTrouble] = useState('');
  const { sheet, model } = v;
  if (!model) return null;
  const take = async () => {
    setTrouble('');
    const file = await chooseFile('application/json,.json');
    if (!file) return;
    try {
      await loadSchemas();
      const schemas = schemasHere();
      if (!schemas) throw new Error('what checks such a file is not on this device yet: try again when the server answers');
      const { value, error } = schemas.SHEET_FILE_SCHEMA.validate(JSON.parse(await file.text()), { convert: false });
      if (error) throw new Error(`not a model sheet: ${error.message}`);
      const by = (value as { sheet: ModelSheet }).sheet;
      const from = by.variants[0]?.by ?? by.cover?.by ?? by.isolation?.by ?? by.removal?.by ?? 'another workshop';
      await actions.write(
        [draft('sheet-taken-in', [model], { from, sheet: value as Record<string, unknown> })],
        `sheet from ${from}`,
      );
    } catch (e) {
      setTrouble(
        e instanceof SyntaxError ? 'This file is not JSON: ask for the sheet as Gavrel saves it.' : (e as Error).message,
      );
    }
  };
  const minutes = Object.entries(sheet?.minutes ?? {}) as [Station, number][];
  return (
    <Card
      title="Model sheet"
      right={<Words soft>{sheet ? (sheet.jobs === 0 ? 'from others' : counted(sheet.jobs, 'job')) : 'nothing yet'}</Words>}
      testID="card-sheet"
    >
      {sheet && partly ? <Words size={15}>Counted from the jobs this device holds.</Words> : null}
      {sheet && sheet.judged > 0 ? <Words bold>{swollenWords(sheet)}</Words> : null}
      {sheet?.variants.slice(0, 3).map((x, i) => (
        <Figures key={i} size={15}>
          {groupsOf(x.value.screws)
            .map((g) => `${g.count} × ${groupName(g)}`)
            .join(', ')}
        </Figures>
      ))}
      {sheet && sheet.codes.length > 0 ? <Words size={15}>{`packs: ${sheet.codes.join(', ')}`}</Words> : null}
      {minutes.length > 0 ? (
        <Words size={15} soft>{`usual minutes: ${minutes.map(([s, m]) => `${s} ${m}`).join(', ')}`}</Words>
      ) : null}
      <Row>
        {sheet ? (
          <Button
            label="Save as a file"
            onPress={() =>
              saveFile(
                `${sheet.model.replace(/\W+/g, '-')}.sheet.json`,
                new Blob([JSON.stringify(exportSheet(sheet, workshop), null, 2)], { type: 'application/json' }),
              )
            }
            testID="save-sheet"
          />
        ) : null}
        <Button label="Take in a file" onPress={() => take()} testID="take-sheet" />
      </Row>
      {trouble ? <Words bold>{trouble}</Words> : null}
    </Card>
  );
}
