import { LONGEST } from '@gavrel/contract';
import { INCIDENT_SORTS, type IncidentSort, type Subject } from '@gavrel/core';
import { router } from 'expo-router';
import { useState } from 'react';
import { View } from 'react-native';
import { type Draft, draft, newId } from '../../device/write';
import { useAppSelector } from '../../state';
import { useActions } from '../../state/context';
import { useDraft } from '../../state/use-draft';
import { SPACE, useTokens } from '../../theme';
import { Field } from '../../ui/field';
import { Choice, Button } from '../../ui/buttons';
import { Sheet } from '../../ui/sheet';
import { Words } from '../../ui/words';
import { SORT_WORDS } from '../../stock/incident-words';
import { inParts } from '../../stock/parts';

const NOBODY_SAW = 'not seen which';

/** Whom to call, before anything is written down. */
function CallFirst() {
  const t = useTokens();
  const card = useAppSelector((s) => s.logbook.policy.siteCard);
  return (
    <View style={{ backgroundColor: t.critical, padding: SPACE, gap: 4 }} role="alert">
      <Words bold size={20} color={t.onCritical}>
        Leave first. Call from outside. Write it down when you are safe.
      </Words>
      <Words color={t.onCritical}>
        {card
          ? `Emergency ${card.emergencyNumber} · ${card.assemblyPoint} · then ${card.callFirst}`
          : 'No site card yet: call the local fire service.'}
      </Words>
    </View>
  );
}

/**
 * Says that something burns, smokes or leaks: for a place the first time, for an incident that is open when it does so again.
 * Every pack of the place is frozen by it; while nobody says which pack it was, each is taken for the one.
 */
export function IncidentSheet({
  place,
  incident,
  packs,
  onClose,
}: {
  place: { readonly id: string; readonly name: string } | null;
  incident?: string;
  packs: readonly { readonly id: string; readonly tag: string }[];
  onClose: () => void;
}) {
  const actions = useActions();
  const [what, setWhat] = useState<IncidentSort | null>(null);
  const [source, setSource] = useState<string>(NOBODY_SAW);
  const [note, setNote, done] = useDraft(`incident ${incident ?? place?.id ?? ''}`, '');
  const tags = packs.map((p) => p.tag);
  const keep = async () => {
    if (!what) return;
    const id = incident ?? newId(Date.now());
    const from = packs.find((p) => p.tag === source)?.id;
    const body = { what, ...(from && { source: from }), ...(note.trim() && { note: note.trim() }) };
    const about: Subject[] = [`incident:${id}`, ...(place ? [`place:${place.id}` as const] : [])];
    const drafts: Draft[] = inParts(packs.map((p) => p.id)).map((part) =>
      draft('incident-opened', [...about, ...part.map((p): Subject => `pack:${p}`)], body),
    );
    await actions.write(drafts, SORT_WORDS[what]);
    done();
    onClose();
    router.push(`/incident/${id}`);
  };
  return (
    <Sheet
      title={incident ? 'Again' : `Incident${place ? `, ${place.name}` : ''}`}
      onClose={onClose}
      footer={
        <Button
          label="Write it down: everyone is told"
          tone="critical"
          height={64}
          disabled={!what}
          onPress={() => keep()}
          testID="keep-incident"
        />
      }
    >
      <CallFirst />
      <Words>What happened</Words>
      <Choice label="What happened" options={INCIDENT_SORTS} words={SORT_WORDS} value={what} onChange={setWhat} height={56} />
      {tags.length > 0 ? (
        <>
          <Words>From which pack</Words>
          <Choice label="From which pack" options={[NOBODY_SAW, ...tags]} value={source} onChange={setSource} />
          <Words size={15}>
            {source === NOBODY_SAW
              ? 'Each of them is taken for the one until somebody knows.'
              : 'The others lay beside it and are examined.'}
          </Words>
        </>
      ) : null}
      <Field label="In a few words" value={note} onChange={setNote} longest={LONGEST.note} testID="incident-note" />
    </Sheet>
  );
}
