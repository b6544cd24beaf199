import {
  type Condition,
  findingOf,
  findingWords,
  foundWords,
  GROUP_FINDINGS,
  LOOK_GROUPS,
  type LookGroup,
  NOT_CLEARED,
  OTHER_FINDINGS,
  type PackFacts,
} from '@gavrel/core';
import { useState } from 'react';
import { View } from 'react-native';
import { draft } from '../device/write';
import { useMay } from '../state/may';
import { useDraft } from '../state/use-draft';
import { useTokens } from '../theme';
import { Field } from '../ui/field';
import { Card, Row } from '../ui/frame';
import { Choice, Button } from '../ui/buttons';
import { agoWords } from '../ui/say';
import { Sheet } from '../ui/sheet';
import { Words } from '../ui/words';
import type { CardProps, Keep } from './card';
import { ShownHere } from './shown-here';

const DWELL = ['up to 24 h', 'longer, or not known'] as const;

/** What was found, with a few words and, for a deep discharge, how long it lasted. */
function FindingSheet({
  group,
  facts,
  onKeep,
  onClose,
}: {
  group: LookGroup | 'other';
  facts: PackFacts;
  onKeep: Keep;
  onClose: () => void;
}) {
  const [note, setNote, done] = useDraft(`finding ${group} ${facts.id}`, '');
  const [dwell, setDwell] = useState<(typeof DWELL)[number] | null>(null);
  const codes = group === 'other' ? OTHER_FINDINGS : GROUP_FINDINGS[group];
  const record = async (code: string) => {
    const body = {
      code,
      ...(note.trim() && { note: note.trim() }),
      ...(code === 'deep-discharge' && dwell === DWELL[0] && { dwellHours: 24 }),
    };
    await onKeep(draft('finding-recorded', [`pack:${facts.id}`], body), findingOf(code)!.words);
    done();
    onClose();
  };
  return (
    <Sheet title={group === 'other' ? 'Papers, wishes, fire' : `Found: ${group}`} onClose={onClose}>
      {group === 'smell' ? (
        <Words bold>
          Smell alone: close it, carry it outdoors if you are trained to, air the room. With heat, hiss or wet: leave.
        </Words>
      ) : null}
      <ShownHere kind="finding-recorded" />
      <Field label="A few words (optional)" value={note} onChange={setNote} testID="finding-note" />
      {codes.includes('deep-discharge') ? (
        <View style={{ gap: 4 }}>
          <Words size={15} soft>
            Time below 2.0 V a cell
          </Words>
          <Choice label="Time below 2.0 V a cell" options={DWELL} value={dwell} onChange={setDwell} />
        </View>
      ) : null}
      {codes.map((c) => (
        <Button
          key={c}
          label={findingOf(c)!.words}
          height={64}
          tone={['reacting', 'unstable'].includes(findingOf(c)!.class) ? 'critical' : 'plain'}
          onPress={() => record(c)}
          testID={`finding-${c}`}
        />
      ))}
    </Sheet>
  );
}

/** A clearing: per finding, with a reason, and in force only when a second, competent person has confirmed it. */
function ClearSheet({
  facts,
  entries,
  words,
  onKeep,
  onClose,
}: {
  facts: PackFacts;
  entries: readonly string[];
  words: string;
  onKeep: Keep;
  onClose: () => void;
}) {
  const [reason, setReason, done] = useDraft(`clear ${entries.join(' ')}`, '');
  return (
    <Sheet
      title={`Clear: ${words}`}
      onClose={onClose}
      footer={
        <Button
          label="Ask a second person"
          tone="next"
          height={64}
          disabled={reason.trim().length < 3}
          onPress={() =>
            onKeep(
              draft('finding-cleared', [`pack:${facts.id}`], { clears: entries, reason: reason.trim() }),
              'clearing asked for',
            ).then(() => {
              done();
              onClose();
            })
          }
          testID="keep-clear"
        />
      }
    >
      <Words>In force only when a second person, trained to assess, signs it, here or on their own device.</Words>
      <Field label="What was examined, and what was seen" value={reason} onChange={setReason} testID="clear-reason" multiline />
    </Sheet>
  );
}

/** Codes that only 24 quiet hours end. */
const isCritical = (code: string) => ['reacting', 'unstable'].includes(findingOf(code)?.class ?? '');

/** The lead's declaration of 24 quiet hours; in force when the looks bear it out and a second person has confirmed it. */
function QuietSheet({ facts, onKeep, onClose }: { facts: PackFacts; onKeep: Keep; onClose: () => void }) {
  const ends = facts.findings.filter((f) => isCritical(f.body.code) || f.body.code === 'smell').map((f) => f.id);
  const [reason, setReason, done] = useDraft(`quiet ${ends.join(' ')}`, '');
  const declare = () =>
    onKeep(draft('quiet-declared', [`pack:${facts.id}`], { ends, reason: reason.trim() }), '24 quiet hours').then(() => {
      done();
      onClose();
    });
  return (
    <Sheet
      title="24 quiet hours"
      onClose={onClose}
      footer={
        <Button
          label="Ask a second person"
          tone="next"
          height={64}
          disabled={reason.trim().length < 3 || ends.length === 0}
          onPress={() => declare()}
        />
      }
    >
      <Words>
        At least four looks over 24 hours, none more than 8 hours apart, nothing critical among them. It stays damaged for good.
      </Words>
      <Field label="What was seen" value={reason} onChange={setReason} testID="quiet-reason" multiline />
    </Sheet>
  );
}

/** Looks at a pack that lies in quarantine: from outside, never unpacking it. */
function OutsideLooks({ facts, condition, onKeep }: { facts: PackFacts; condition: Condition; onKeep: Keep }) {
  const [declaring, setDeclaring] = useState(false);
  const mayDeclare = useMay('quiet-declared');
  const quiet = () =>
    onKeep(
      draft('looked', [`pack:${facts.id}`], { groups: ['smell', 'heat', 'wet'], where: 'outside' }),
      'looked from outside: quiet',
    );
  return (
    <Row>
      <Button
        label="Looked from outside: all quiet"
        tone="next"
        height={64}
        style={{ flexGrow: 1 }}
        onPress={() => quiet()}
        testID="look-outside"
      />
      {condition === 'critical' && mayDeclare ? (
        <Button label="24 quiet hours…" height={64} onPress={() => setDeclaring(true)} />
      ) : null}
      {declaring ? <QuietSheet facts={facts} onKeep={onKeep} onClose={() => setDeclaring(false)} /> : null}
    </Row>
  );
}

/** One look: what was found stands against an older look that found nothing. */
function GroupRow({
  group,
  looked,
  found,
  onNothing,
  onFound,
}: {
  group: LookGroup;
  looked: string | null;
  found: readonly string[];
  onNothing: () => void;
  onFound: () => void;
}) {
  const ago = looked ? agoWords(looked) : 'not looked at';
  return (
    <View style={{ flexDirection: 'row', alignItems: 'center', gap: 6 }}>
      <View style={{ flex: 1 }}>
        <Words bold>{group}</Words>
        <Words size={14} soft>
          {found.length > 0 ? found.join(', ') : ago}
        </Words>
      </View>
      <Button
        label="nothing"
        hint={`found at ${group}`}
        selected={looked !== null && found.length === 0}
        onPress={onNothing}
        testID={`nothing-${group}`}
      />
      <Button label="found…" hint={group} selected={found.length > 0} onPress={onFound} testID={`found-${group}`} />
    </View>
  );
}

/** Six looks, each "nothing found" or a finding; and what stands against the pack. */
export function LookCard({ facts, ruling, onKeep }: CardProps) {
  const t = useTokens();
  const [open, setOpen] = useState<LookGroup | 'other' | null>(null);
  const [clearing, setClearing] = useState<{ entries: readonly string[]; words: string } | null>(null);
  const { looked, findings, condition } = ruling.judgement;
  const watched = condition === 'damaged' || condition === 'critical';
  const looks = (groups: readonly LookGroup[]) =>
    onKeep(
      draft('looked', [`pack:${facts.id}`], { groups }),
      `nothing found: ${groups.length === 6 ? 'all six' : groups.join(', ')}`,
    );
  return (
    <Card title="Look" testID="card-look">
      {findings.map((f, i) => {
        const soft = findingOf(f.code)?.class === 'soft' && !NOT_CLEARED.includes(f.code);
        return (
          <View
            key={`${f.code}${i}`}
            style={{
              flexDirection: 'row',
              alignItems: 'center',
              justifyContent: 'space-between',
              borderLeftWidth: 4,
              borderColor: t.ink,
              paddingLeft: 8,
              gap: 8,
            }}
          >
            <Words bold style={{ flex: 1, textDecorationLine: f.state === 'stands' ? 'none' : 'line-through' }}>
              {`${findingWords(f)}${f.from === 'measured' ? ', by readings' : ''}${f.state === 'stands' ? '' : ` (${f.state})`}`}
            </Words>
            {soft && f.state === 'stands' ? (
              <Button
                label="Clear…"
                hint={f.words}
                onPress={() => setClearing({ entries: f.entries, words: f.words })}
                testID={`clear-${f.code}`}
              />
            ) : null}
          </View>
        );
      })}
      {watched ? <OutsideLooks facts={facts} condition={condition} onKeep={onKeep} /> : null}
      {LOOK_GROUPS.map((g) => (
        <GroupRow
          key={g}
          group={g}
          looked={looked[g]}
          found={foundWords(findings.filter((f) => f.state === 'stands' && GROUP_FINDINGS[g].includes(f.code)))}
          onNothing={() => void looks([g])}
          onFound={() => setOpen(g)}
        />
      ))}
      <Row>
        <Button
          label="All six looked at: nothing found"
          onPress={() => looks(LOOK_GROUPS)}
          style={{ flexGrow: 1 }}
          testID="nothing-all"
        />
        <Button label="Other…" onPress={() => setOpen('other')} testID="found-other" />
      </Row>
      {open ? <FindingSheet group={open} facts={facts} onKeep={onKeep} onClose={() => setOpen(null)} /> : null}
      {clearing ? <ClearSheet facts={facts} {...clearing} onKeep={onKeep} onClose={() => setClearing(null)} /> : null}
    </Card>
  );
}
