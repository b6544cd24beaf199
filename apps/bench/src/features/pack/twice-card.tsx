import { LONGEST } from '@gavrel/contract';
import { normalTag, type PackFacts, taggedId } from '@gavrel/core';
import { router } from 'expo-router';
import { useState } from 'react';
import { entriesOfPack } from '../../device/store';
import { joinTwice, splitTwice } from '../../entry/mend';
import { useAppSelector } from '../../state';
import { useActions } from '../../state/context';
import { useMay } from '../../state/may';
import { Button } from '../../ui/buttons';
import { Field } from '../../ui/field';
import { Card, Row } from '../../ui/frame';
import { clockWords, UNANSWERED } from '../../ui/say';
import { Sheet } from '../../ui/sheet';
import { useOnce } from '../../ui/use-once';
import { Words } from '../../ui/words';

/** The tag of its own for the pack that was added later. */
function TwoPacks({ facts, onClose }: { facts: PackFacts; onClose: () => void }) {
  const actions = useActions();
  const workshop = useAppSelector((s) => s.session.session?.workshop.id ?? '');
  const [tag, setTag] = useState('');
  const id = tag.trim() === '' ? null : taggedId(workshop, 'pack', tag);
  const taken = useAppSelector((s) => id !== null && s.logbook.packs[id] !== undefined);
  const [trouble, setTrouble] = useState('');
  const split = useOnce(async () => {
    const to = { id: id!, tag: normalTag(tag) };
    const onRecord = await actions.packsOnRecord([to.id]);
    if (onRecord === null) return setTrouble(`${to.tag}: ${UNANSWERED}`);
    if (onRecord[to.id]) return;
    await actions.write(splitTwice(facts, facts.addedTwice!, await entriesOfPack(facts.id), to), `two packs: ${to.tag}`);
    onClose();
    router.push(`/pack/${to.id}`);
  });
  return (
    <Sheet
      title="Two packs"
      onClose={onClose}
      footer={
        <Button
          label="Give it this tag"
          tone="next"
          height={64}
          disabled={id === null || taken}
          onPress={() => split()}
          testID="split-now"
        />
      }
    >
      <Words>{`The one added later gets a tag of its own; its label, findings, weight and thickness go with it, and it is looked at anew. Until a second person agrees, ${facts.tag} keeps the worse of both.`}</Words>
      <Field
        label="New tag, put it on the pack"
        value={tag}
        onChange={setTag}
        autoFocus
        longest={LONGEST.tag}
        testID="split-tag"
      />
      {taken ? <Words bold>A pack with this tag is here already: take another one.</Words> : null}
      {trouble ? (
        <Words bold live>
          {trouble}
        </Words>
      ) : null}
    </Sheet>
  );
}

/** Two devices gave this tag without knowing of each other: one pack or two? */
export function TwiceCard({ facts }: { facts: PackFacts }) {
  const actions = useActions();
  const people = useAppSelector((s) => s.session.session?.people ?? []);
  const may = useMay('pack-added');
  const [open, setOpen] = useState(false);
  const twice = facts.addedTwice;
  if (!twice) return null;
  const name = (id: string) => people.find((p) => p.id === id)?.name ?? 'somebody';
  const waits = facts.waiting.some((w) => w.about.some((id) => twice.some((t) => t.id === id)));
  const join = async () => actions.write(joinTwice(twice, await entriesOfPack(facts.id)), 'one pack');
  return (
    <Card title="One pack or two?" testID="card-twice">
      <Words bold>{`Two devices gave the tag ${facts.tag}.`}</Words>
      {twice.map((t) => (
        <Words key={t.id}>{`${name(t.by)}, ${clockWords(t.at)}`}</Words>
      ))}
      {waits ? <Words>Answered: a second person confirms it.</Words> : null}
      {may && !waits ? (
        <Row>
          <Button label="Two packs" hint="a new tag for one" height={56} onPress={() => setOpen(true)} testID="two-packs" />
          <Button label="One pack" hint="a second person confirms it" height={56} onPress={() => join()} testID="one-pack" />
        </Row>
      ) : null}
      {open ? <TwoPacks facts={facts} onClose={() => setOpen(false)} /> : null}
    </Card>
  );
}
