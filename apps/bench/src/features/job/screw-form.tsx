import { COVERS, DRIVES, THREADS } from '@gavrel/core';
import { Button, Choice } from '../../ui/buttons';
import { Field } from '../../ui/field';
import { Row } from '../../ui/frame';
import { Figures, Words } from '../../ui/words';
import type { Brush, BrushPart } from './use-map';

const LENGTHS = ['2', '3', '4', '5', '6', '8', '10'] as const;
/** Half millimetres that a screw of a notebook can have. */
const SHORTEST = 0.5;
const LONGEST = 40;

/** Length, by the usual ones and by half millimetres. */
function LengthChoice({ now, onSet }: { now: Brush; onSet: (part: BrushPart) => void }) {
  const mm = Number(now.length?.digits ?? 0);
  const length = (x: number) => onSet({ length: { digits: String(x), unit: 'mm' } });
  return (
    <>
      <Choice
        label="Length, mm"
        options={LENGTHS}
        value={(now.length?.digits as (typeof LENGTHS)[number]) ?? null}
        onChange={(d) => length(Number(d))}
        words={Object.fromEntries(LENGTHS.map((l) => [l, `${l} mm`]))}
      />
      <Row gap={6}>
        <Button label="½ mm shorter" disabled={mm <= SHORTEST} onPress={() => length(mm - 0.5)} testID="map-shorter" />
        <Figures bold>{now.length ? `${now.length.digits} mm` : 'no length'}</Figures>
        <Button label="½ mm longer" disabled={mm >= LONGEST} onPress={() => length(mm + 0.5)} testID="map-longer" />
      </Row>
    </>
  );
}

/** What a screw is: the picked one, or the next to be drawn. */
export function ScrewForm({ now, tray, onSet }: { now: Brush; tray: boolean; onSet: (part: BrushPart) => void }) {
  return (
    <>
      <LengthChoice now={now} onSet={onSet} />
      <Choice label="Thread" options={THREADS} value={now.thread ?? null} onChange={(thread) => onSet({ thread })} />
      <Choice label="Drive" options={DRIVES} value={now.drive ?? null} onChange={(drive) => onSet({ drive })} />
      <Row gap={6}>
        <Button
          label="captive"
          role="checkbox"
          selected={now.captive === true}
          onPress={() => onSet({ captive: now.captive ? undefined : true })}
          testID="map-captive"
        />
        {(['missing', 'stripped'] as const).map((s) => (
          <Button
            key={s}
            label={s}
            role="checkbox"
            selected={now.state === s}
            onPress={() => onSet({ state: now.state === s ? undefined : s })}
            testID={`map-${s}`}
          />
        ))}
        {(['pack', 'both'] as const).map((h) => (
          <Button
            key={h}
            label={h === 'pack' ? 'holds the pack' : 'shared with the pack'}
            role="checkbox"
            selected={now.holds === h}
            onPress={() => onSet({ holds: now.holds === h ? undefined : h })}
          />
        ))}
      </Row>
      <Words size={15} soft>
        Hidden under
      </Words>
      <Row gap={6}>
        {COVERS.map((c) => (
          <Button
            key={c}
            label={c}
            role="checkbox"
            selected={now.hidden === c}
            onPress={() => onSet({ hidden: now.hidden === c ? undefined : c })}
          />
        ))}
      </Row>
      {tray ? (
        <Field
          label="Part these screws belong to"
          value={now.part ?? ''}
          onChange={(x) => onSet({ part: x === '' ? undefined : x })}
        />
      ) : null}
    </>
  );
}
