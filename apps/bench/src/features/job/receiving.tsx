import { LONGEST } from '@gavrel/contract';
import { addDays, localDay, SOURCE_SCHOOLS, type SourceBody } from '@gavrel/core';
import { useMemo, useState } from 'react';
import { draft, type Draft } from '../../device/write';
import { useAppSelector } from '../../state';
import { useZone } from '../../state/rulings';
import { Field } from '../../ui/field';
import { Card } from '../../ui/frame';
import { Button } from '../../ui/buttons';
import { Sheet } from '../../ui/sheet';
import { Words } from '../../ui/words';
import { Pictures } from '../../entry/pictures';
import { lastSource } from '../../entry/same-type';
import { useWords } from '../../entry/use-words';
import { Ask, Caution } from '../../entry/ask';
import type { RuledPack } from './view';

/** From where the pack of the last delivery came, for one tap. */
function SameSource({ p, onSay }: { p: RuledPack; onSay: (body: SourceBody, words: string) => void }) {
  const packs = useAppSelector((s) => s.logbook.packs);
  const today = localDay(useZone(), new Date());
  const known = useMemo(() => lastSource(Object.values(packs), p.facts, today), [packs, p.facts, today]);
  if (!known) return null;
  const { school, supplier, lot } = known.said;
  return (
    <Button
      label={`${[school, supplier, lot && `lot ${lot}`].filter(Boolean).join(', ')}, as ${known.from}`}
      height={56}
      onPress={() => onSay({ ...known.said, receivedOn: today }, 'from the same delivery')}
      testID="same-source"
    />
  );
}

/** Where the new pack is from. */
export function SourceCard({ p, onKeep }: { p: RuledPack; onKeep: (d: Draft, w: string) => Promise<unknown> }) {
  const s = p.facts.source;
  const say = (body: SourceBody, words: string) => onKeep(draft('source-stated', [`pack:${p.facts.id}`], body), words);
  const zone = useZone();
  const words = useWords(`source ${p.facts.id}`, { supplier: s.supplier ?? '', lot: s.lot ?? '' }, LONGEST.name, (field, text) =>
    say({ [field]: text }, field),
  );
  return (
    <Card title="Where it is from" testID="card-source">
      <SameSource p={p} onSay={(body, said) => void say(body, said)} />
      <Ask
        label="School"
        options={SOURCE_SCHOOLS}
        value={s.school}
        onSay={(school) => void say({ school, receivedOn: s.receivedOn ?? localDay(zone, new Date()) }, school)}
      />
      <Ask
        label="Test summary (UN 38.3)"
        options={['on file', 'asked for', 'none'] as const}
        value={s.summary}
        onSay={(summary) => void say({ summary }, `test summary ${summary}`)}
      />
      <Field label="Supplier" {...words('supplier')} testID="supplier" />
      <Field label="Lot" {...words('lot')} testID="lot" />
      <Words size={15}>
        No volts at the plug? It may be asleep: adapter first, then judge. Dead on arrival is judged like any other pack.
      </Words>
    </Card>
  );
}

/** Sending it back: to whom, why, until when, with pictures as evidence. */
export function ReturnSheet({
  p,
  onKeep,
  onClose,
}: {
  p: RuledPack;
  onKeep: (d: Draft[], w: string) => Promise<unknown>;
  onClose: () => void;
}) {
  const zone = useZone();
  const [to, setTo] = useState(p.facts.source.supplier ?? '');
  const [reason, setReason] = useState('dead on arrival');
  const [days, setDays] = useState<'7' | '14' | '30'>('14');
  const open = async () => {
    const until = addDays(localDay(zone, new Date()), Number(days));
    const on = [`pack:${p.facts.id}` as const];
    await onKeep(
      [
        draft('return-opened', on, { to: to.trim(), reason: reason.trim(), until }),
        draft('due-set', on, { what: 'return', on: until, note: `${p.facts.tag} back to ${to.trim()}` }),
      ],
      'return opened',
    );
    onClose();
  };
  return (
    <Sheet
      title={`Send ${p.facts.tag} back`}
      onClose={onClose}
      footer={
        <Button
          label="Open the return"
          tone="next"
          height={64}
          disabled={to.trim() === '' || reason.trim().length < 3}
          onPress={() => open()}
          testID="open-return"
        />
      }
    >
      <Field label="To" value={to} onChange={setTo} testID="return-to" />
      <Field label="Why" value={reason} onChange={setReason} />
      <Ask label="Days left" options={['7', '14', '30'] as const} value={days} onSay={setDays} />
      <Pictures of="damage" on={[`pack:${p.facts.id}`]} photos={p.facts.photos} label="Picture as evidence" />
      <Words size={15}>Evidence: pictures, volts at arrival, times. It stands in the history of the pack.</Words>
      <Caution>How it may travel stands on its slip: “just post it back” gets a ruling too.</Caution>
    </Sheet>
  );
}
