import type { SiteCard } from '@gavrel/core';
import { useState } from 'react';
import { draft } from '../../device/write';
import { useAppSelector } from '../../state';
import { useActions } from '../../state/context';
import { Button } from '../../ui/buttons';
import { Field } from '../../ui/field';
import { Card } from '../../ui/frame';
import { Sheet } from '../../ui/sheet';
import { Words } from '../../ui/words';

function SiteCardSheet({ present, onClose }: { present: SiteCard | null; onClose: () => void }) {
  const actions = useActions();
  const workshop = useAppSelector((s) => s.session.session?.workshop.id ?? '');
  const [emergencyNumber, setNumber] = useState(present?.emergencyNumber ?? '');
  const [assemblyPoint, setPoint] = useState(present?.assemblyPoint ?? '');
  const [callFirst, setCall] = useState(present?.callFirst ?? '');
  const all = [emergencyNumber, assemblyPoint, callFirst].every((v) => v.trim() !== '');
  const keep = () =>
    actions
      .write([draft('site-card-set', [`policy:${workshop}`], { emergencyNumber, assemblyPoint, callFirst })], 'site card')
      .then(onClose);
  return (
    <Sheet
      title="Site card"
      onClose={onClose}
      footer={<Button label="Keep" tone="next" height={64} disabled={!all} onPress={() => keep()} />}
    >
      <Field label="Emergency number" value={emergencyNumber} onChange={setNumber} />
      <Field label="Assembly point" value={assemblyPoint} onChange={setPoint} />
      <Field label="Call first" value={callFirst} onChange={setCall} />
    </Sheet>
  );
}

/** Whom to call and where to meet; shown when a pack is critical. */
export function SiteCardPart() {
  const lead = useAppSelector((s) => s.session.session?.person.role === 'lead');
  const site = useAppSelector((s) => s.logbook.policy.siteCard);
  const [changing, setChanging] = useState(false);
  return (
    <Card title="Site card" right={lead ? <Button label="Change" onPress={() => setChanging(true)} /> : undefined}>
      {site ? (
        <>
          <Words bold>{`Emergency: ${site.emergencyNumber}`}</Words>
          <Words>{`Assembly point: ${site.assemblyPoint}`}</Words>
          <Words>{`Call first: ${site.callFirst}`}</Words>
        </>
      ) : (
        <Words>Not filled in yet. The lead does it here; it is shown when a pack is critical.</Words>
      )}
      {changing ? <SiteCardSheet present={site} onClose={() => setChanging(false)} /> : null}
    </Card>
  );
}
