import type { PackFacts } from '@gavrel/core';
import { useState } from 'react';
import { draft } from '../../log/write';
import { useAppSelector } from '../../store';
import { Card } from '../../ui/frame';
import { Key } from '../../ui/keys';
import { Sheet } from '../../ui/sheet';
import { Words } from '../../ui/words';
import type { Keep } from './card';

/** Where it lies, whether it may lie there, and moving it. */
export function PlaceCard({ facts, onKeep, allowed }: { facts: PackFacts; onKeep: Keep; allowed: readonly string[] }) {
  const places = useAppSelector((s) => s.logbook.places);
  const [open, setOpen] = useState(false);
  const here = facts.place ? places[facts.place] : undefined;
  const wrong = here && !allowed.includes(here.kind);
  const all = Object.values(places).sort(
    (a, b) => Number(allowed.includes(b.kind)) - Number(allowed.includes(a.kind)) || a.name.localeCompare(b.name),
  );
  return (
    <Card
      title="Place"
      testID="card-place"
      right={
        <Words>
          {facts.left ? 'left with its owner' : facts.use === 'fitted' ? 'in its machine' : (here?.name ?? 'not placed')}
        </Words>
      }
    >
      {wrong ? (
        <Words bold>{`It may not stay here. It belongs in: ${allowed.join(' or ') || 'no place: leave it'}.`}</Words>
      ) : null}
      <Key label={here ? 'Move…' : 'Place…'} onPress={() => setOpen(true)} disabled={allowed.length === 0} testID="move" />
      {open ? (
        <Sheet title="Move to" onClose={() => setOpen(false)}>
          {all.map((p) => (
            <Key
              key={p.id}
              label={allowed.includes(p.kind) ? p.name : `${p.name}: not for this pack`}
              height={56}
              disabled={!allowed.includes(p.kind)}
              onPress={() =>
                void onKeep(draft('moved', [`pack:${facts.id}`, `place:${p.id}`], {}), `moved to ${p.name}`).then(() =>
                  setOpen(false),
                )
              }
            />
          ))}
        </Sheet>
      ) : null}
    </Card>
  );
}
