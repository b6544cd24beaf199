import { LONGEST } from '@gavrel/contract';
import { findingOf, normalTag, notTriaged, taggedId, type TriageBody, triageFindings } from '@gavrel/core';
import { roomForUnseen, UNKNOWN } from '@gavrel/core/place';
import { router } from 'expo-router';
import { useState } from 'react';
import { View } from 'react-native';
import { draft } from '../../device/write';
import { newId } from '../../device/write';
import { useAppSelector } from '../../state';
import { useActions } from '../../state/context';
import { useDraft } from '../../state/use-draft';
import { useTokens } from '../../theme';
import { Card, Column, Row } from '../../ui/frame';
import { Button } from '../../ui/buttons';
import { ConditionShape } from '../../ui/shape';
import { Figures, Heading, Words } from '../../ui/words';
import { suspectCondition } from '../../stock/suspect';
import { ScanField } from '../../entry/scan-field';
import { type KnownMachine, knownWords, useKnownMachine } from '../../stock/known-machine';
import { useYard } from '../../stock/use-yard';

const CLEAR: TriageBody = { lid: 'flush', base: 'steady', smell: 'none', touch: 'cool' };
const SIGNS: readonly (readonly [string, TriageBody])[] = [
  ['lid not flush', { lid: 'not flush' }],
  ['rocks', { base: 'rocks' }],
  ['smell', { smell: 'smell' }],
  ['warm', { touch: 'warm' }],
  ['hot', { touch: 'hot' }],
];

/** One machine of the load: one tap when nothing is seen, one tap for each sign. */
function Line({ tag }: { tag: string }) {
  const t = useTokens();
  const actions = useActions();
  const workshop = useAppSelector((s) => s.session.session?.workshop.id ?? '');
  const id = taggedId(workshop, 'notebook', tag);
  const notebook = useAppSelector((s) => s.logbook.notebooks[id]);
  if (!notebook) return null;
  const say = (body: TriageBody, words: string) =>
    actions.write(
      [
        draft('triaged', [`notebook:${id}`], body),
        ...triageFindings(body).map((f) => draft('finding-recorded', [`notebook:${id}`], f)),
      ],
      `${tag}: ${words}`,
    );
  const left = notTriaged(notebook.triage);
  const found = [...new Set(notebook.findings.map((f) => f.body.note ?? findingOf(f.body.code)?.words ?? f.body.code))];
  // A sign that stands is not talked away by a tap on "nothing seen": only what was not looked at is filled.
  const rest = Object.fromEntries(Object.entries(CLEAR).filter(([k]) => left.includes(k))) as TriageBody;
  return (
    <View
      style={{
        borderTopWidth: 1,
        borderColor: t.line,
        paddingVertical: 8,
        gap: 6,
        ...(found.length > 0 && { borderLeftWidth: 6, borderLeftColor: t.ink, paddingLeft: 8, backgroundColor: t.wash }),
      }}
      testID={`line-${tag}`}
    >
      <View style={{ flexDirection: 'row', alignItems: 'center', gap: 8 }}>
        {found.length > 0 ? <ConditionShape condition={suspectCondition(notebook.findings)} size={26} named /> : null}
        <Figures bold size={18}>
          {tag}
        </Figures>
        <Words bold={found.length > 0} style={{ flex: 1 }}>
          {found.length > 0
            ? `apart: ${found.join(', ')}`
            : left.length > 0
              ? `unproven: not looked at ${left.join(', ')}`
              : 'nothing seen from outside'}
        </Words>
        {notebook.job ? <Button label="Open" hint={`job ${tag}`} onPress={() => router.push(`/job/${notebook.job!}`)} /> : null}
      </View>
      <Row gap={6}>
        <Button
          label={found.length > 0 ? 'nothing else' : 'nothing seen'}
          height={56}
          tone={left.length > 0 ? 'next' : 'plain'}
          disabled={left.length === 0}
          onPress={() => say(rest, 'nothing seen')}
          testID={`clear-${tag}`}
        />
        {SIGNS.map(([words, body]) => (
          <Button
            key={words}
            label={words}
            height={56}
            onPress={() => say(body, words)}
            testID={`sign-${words.replace(/ /g, '-')}-${tag}`}
          />
        ))}
      </Row>
    </View>
  );
}

/** The tags of a load, and taking one in: what is known is asked about once, a second scan counts once. */
function useLoad() {
  const actions = useActions();
  const workshop = useAppSelector((s) => s.session.session?.workshop.id ?? '');
  const [tag, setTag] = useState('');
  const [tags, setTags] = useDraft<readonly string[]>('load', []);
  const partly = useAppSelector((s) => s.logbook.holds !== null);
  const knownMachine = useKnownMachine();
  const known = knownMachine(tag);
  const [asked, setAsked] = useState('');
  /** The tag that was scanned a second time. */
  const [double, setDouble] = useState('');
  const id = taggedId(workshop, 'notebook', tag);
  /** Is it in this load already? Tags are the same whatever their case. */
  const inLoad = (of: string) => tags.find((x) => taggedId(workshop, 'notebook', x) === of);
  const twice = inLoad(id);
  /** @returns whether it came into the load by this. */
  const add = async (given: string): Promise<boolean> => {
    const name = normalTag(given);
    if (name === '') return false;
    // It stays in the field, which says how much is too many.
    if (name.length > LONGEST.tag) {
      setTag(given);
      return false;
    }
    const id = taggedId(workshop, 'notebook', given);
    const known = knownMachine(given);
    const twice = inLoad(id);
    // A tag that is known, or known to the server alone, is asked about once, before anything is written.
    const elsewhere = !known && partly && (await actions.fetchLog(`notebook:${id}`).catch(() => false));
    if ((known || elsewhere) && !twice && asked !== id) {
      setTag(given);
      setAsked(id);
      return false;
    }
    setTag('');
    setAsked('');
    setDouble(twice ?? '');
    if (twice) return false;
    // A job that is open already is taken up, not opened twice.
    if (!known?.open) {
      await actions.write(
        [
          ...(known ? [] : [draft('notebook-identified', [`notebook:${id}`], { tag: name, plate: 'read' as const })]),
          draft('job-opened', [`job:${newId(Date.now())}`, `notebook:${id}`], {}),
        ],
        `${name} taken in`,
      );
    }
    setTags((s) => [known?.notebook.tag ?? name, ...s]);
    return true;
  };
  return { tag, setTag, tags, setTags, known, asking: asked === id, double, twice, add };
}

/** A machine that was here before, in words. */
function KnownCard({ known }: { known: KnownMachine }) {
  return (
    <View role="status" style={{ gap: 4 }} testID="known-machine">
      {knownWords(known).map((w) => (
        <Words key={w} bold>
          {w}
        </Words>
      ))}
      <Words size={15}>The same one? Once more. Another machine? Give it another tag.</Words>
    </View>
  );
}

/** How many machines the intake places still take; nothing where none is limited. */
function IntakeRoom() {
  const yard = useYard();
  const intake = yard.places.filter((p) => p.place.kind === 'intake' && p.place.closed === null);
  const rooms = intake.map((p) => roomForUnseen(p.place, p.load));
  // Nobody has looked into these machines: each counts as a pack of 100 Wh.
  const room = rooms.some((r) => r === null) ? null : rooms.reduce<number>((sum, r) => sum + r!, 0) - yard.unseen;
  if (room === null || intake.length === 0) return null;
  return (
    <Words bold={room <= 0} testID="intake-room">
      {room > 0
        ? `Room at intake for ${room} more, each counted as ${UNKNOWN.wattHours} Wh.`
        : 'Intake is full by its limits: find the load another place before you take it in.'}
    </Words>
  );
}

/** A load of machines, ten seconds each: tags one after another, the suspect ones apart. */
export function Batch() {
  const { tag, setTag, tags, setTags, known, asking, double, twice, add } = useLoad();
  const notebooks = useAppSelector((s) => s.logbook.notebooks);
  const workshop = useAppSelector((s) => s.session.session?.workshop.id ?? '');
  const lines = tags.map((x) => ({ tag: x, n: notebooks[taggedId(workshop, 'notebook', x)] }));
  const suspects = lines.filter((l) => (l.n?.findings.length ?? 0) > 0).map((l) => l.tag);
  const open = lines.filter((l) => l.n && notTriaged(l.n.triage).length > 0).length;
  const codes = [
    ...new Set(lines.flatMap((l) => (l.n?.findings ?? []).map((f) => findingOf(f.body.code)?.words ?? f.body.code))),
  ];
  return (
    <Column style={{ width: '100%', maxWidth: 900, alignSelf: 'center' }}>
      <Heading level={1} size={26}>
        Take in a load
      </Heading>
      <Words bold>
        Suspect ones apart, not stacked, not plugged in to see if they charge. Hot, hiss, smoke: leave, alarm, call.
      </Words>
      <Card
        title={`${tags.length} taken in`}
        right={<Words>{`${suspects.length} apart · ${open} not looked at`}</Words>}
        testID="card-load"
      >
        <Row>
          <View style={{ flexGrow: 1, flexBasis: 200 }}>
            <ScanField
              label="Tag: type or scan, then Enter"
              value={tag}
              onChange={setTag}
              onScan={add}
              many
              asTag
              longest={LONGEST.tag}
              paused={asking && known !== null && !twice}
              testID="load-tag"
            />
          </View>
          <Button
            label={twice ? 'In this load already' : asking && known ? 'The same machine' : 'Take in'}
            tone="next"
            height={56}
            disabled={tag.trim() === ''}
            onPress={() => add(tag)}
            testID="load-add"
          />
        </Row>
        {double ? (
          <Words bold live testID="load-twice">
            {`${double} is in this load already: counted once. Another machine? Give it another tag.`}
          </Words>
        ) : null}
        {asking && known && !twice ? <KnownCard known={known} /> : null}
        <IntakeRoom />
        {tags.length > 0 ? (
          <Button
            label="This load is done"
            hint="begin another list"
            tone="quiet"
            onPress={() => setTags([])}
            testID="load-done"
          />
        ) : null}
        {suspects.length > 0 ? <Words bold>{`Apart: ${suspects.join(', ')}, with ${codes.join(', ')}`}</Words> : null}
        {tags.map((x) => (
          <Line key={x} tag={x} />
        ))}
      </Card>
    </Column>
  );
}
