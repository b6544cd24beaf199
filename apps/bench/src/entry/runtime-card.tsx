import type { Interval, Ruling } from '@gavrel/core';
import { DRAWS, durationOf, hoursAt, type Lasted, usableEnergy, whatLasted } from '@gavrel/core/care';
import { useState } from 'react';
import { Button } from '../ui/buttons';
import { Field } from '../ui/field';
import { Card, Row } from '../ui/frame';
import { Figures, Words } from '../ui/words';

const span = ({ lo, hi }: Interval, unit: string): string => {
  const digits = hi < 10 ? 1 : 0;
  const [a, b] = [lo.toFixed(digits), hi.toFixed(digits)];
  return a === b ? `${a} ${unit}` : `${a} to ${b} ${unit}`;
};

const VERDICT: Record<Lasted['verdict'], string> = {
  short: 'No notebook draws so much: the pack gives less than its gauge says, or it was not full.',
  load: 'Only a machine under load draws that: ask what it was doing.',
  long: 'Less than a notebook draws while it is on: it slept, or was plugged in.',
  fits: 'A notebook can draw that.',
};

/** How long a full charge lasts, and what it means that it lasted shorter. Nothing of it is on record. */
export function RuntimeCard({ ruling }: { ruling: Ruling }) {
  const energy = usableEnergy(ruling);
  const [open, setOpen] = useState(false);
  const [said, setSaid] = useState('');
  const { condition } = ruling.judgement;
  // What a damaged pack could still give is nobody's business: it is not used.
  if (energy === null || condition === 'damaged' || condition === 'critical') return null;
  const hours = durationOf(said);
  const lasted = hours === null ? null : whatLasted(energy, hours);
  return (
    <Card title="How long it lasts" testID="card-runtime">
      {DRAWS.map(({ what, watts }) => (
        <Row key={what} style={{ justifyContent: 'space-between' }}>
          <Words>{`${what}, ${watts.lo} to ${watts.hi} W`}</Words>
          <Figures bold>{span(hoursAt(energy, watts), 'h')}</Figures>
        </Row>
      ))}
      {open ? (
        <>
          <Field label="A full charge lasted (2:40, or minutes)" value={said} onChange={setSaid} testID="lasted" />
          {lasted ? (
            <>
              <Figures bold testID="lasted-watts">{`${span(lasted.watts, 'W')} on average`}</Figures>
              <Words bold={lasted.verdict !== 'fits'}>{VERDICT[lasted.verdict]}</Words>
            </>
          ) : said.trim() === '' ? null : (
            <Words>Write it as 2:40, 2 h 40 min, or minutes.</Words>
          )}
        </>
      ) : (
        <Row>
          <Button label="It lasted…" hint="compare what was seen" onPress={() => setOpen(true)} testID="open-lasted" />
        </Row>
      )}
      <Words size={14} soft>
        By label and gauge; draws are common practice.
      </Words>
    </Card>
  );
}
