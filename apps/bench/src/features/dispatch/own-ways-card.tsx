import { SHIPPING } from '@gavrel/core';
import { type OwnWay, ownWays } from '@gavrel/core/dispatch';
import { useMemo, useState } from 'react';
import { Button } from '../../ui/buttons';
import { Card } from '../../ui/frame';
import { Sheet } from '../../ui/sheet';
import { Figures, Words } from '../../ui/words';
import type { ConsignmentView } from './view';
import { packsWord } from './words';

/** Ways that need no carrier: each with who may go, and what to do. */
export function OwnWaysCard({ v }: { v: ConsignmentView }) {
  const [open, setOpen] = useState<OwnWay | null>(null);
  const ways = useMemo(() => {
    const packs = v.state.packs.flatMap((id) => {
      const s = v.sendings.get(id);
      return s ? [{ id, tag: s.tag, shipping: s.shipping, kg: s.kg?.hi ?? null }] : [];
    });
    return ownWays(packs, v.region, v.on);
  }, [v]);
  const all = v.state.packs.length;
  if (all === 0) return null;
  const tag = (id: string) => v.sendings.get(id)?.tag ?? '?';
  const reasons = open ? [...new Set(open.stays.map((s) => s.why))] : [];
  return (
    <Card title="Without a carrier" testID="card-own-ways">
      {ways.map((w) => (
        <Button
          key={w.name}
          label={`${w.name}: ${w.goes.length === all ? 'all' : `${w.goes.length} of ${all}`}`}
          height={56}
          onPress={() => setOpen(w)}
          testID={`own-${w.name}`}
        />
      ))}
      {open ? (
        <Sheet title={open.name} onClose={() => setOpen(null)}>
          <Words bold>{`${open.goes.length} of ${all} may go this way`}</Words>
          {reasons.map((why) => {
            const of = open.stays.filter((s) => s.why === why);
            return (
              <Card key={why} title={`${packsWord(of.length)} ${of.length === 1 ? 'stays' : 'stay'}`}>
                <Figures size={15}>{of.map((s) => tag(s.id)).join(', ')}</Figures>
                <Words>{why}</Words>
              </Card>
            );
          })}
          <Card title="Steps">
            {open.steps.map((s) => (
              <Words key={s}>{s}</Words>
            ))}
          </Card>
          <Words size={15} soft>
            {`${open.rules.map((r) => SHIPPING.shown(r, v.on).source).join('; ')}; from memory. The operator, a trained person and local law decide.`}
          </Words>
        </Sheet>
      ) : null}
    </Card>
  );
}
