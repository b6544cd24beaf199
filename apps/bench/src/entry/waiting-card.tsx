import {
  answersWords,
  answerWords,
  bodyOf,
  foldPack,
  isMend,
  type LoggedEntry,
  localDay,
  type PackFacts,
  type PolicyFacts,
  rule,
  type Waiting,
} from '@gavrel/core';
import { isMilderRuling } from '@gavrel/core/confirm';
import { useEffect, useState } from 'react';
import { View } from 'react-native';
import { draft } from '../device/write';
import { useAppSelector } from '../state';
import { useActions } from '../state/context';
import { useZone } from '../state/rulings';
import { useTokens } from '../theme';
import { Card, Row } from '../ui/frame';
import { Button } from '../ui/buttons';
import { agoWords, changeWords, entryWords } from '../ui/say';
import { Words } from '../ui/words';
import { SignKey } from './sign-sheet';

/** What somebody asks to be true instead: what stands with who said it, what would stand with who says that, and why. */
function asked(e: LoggedEntry, all: readonly LoggedEntry[], nameOf: (id: string) => string): { stands: string; instead: string } {
  const author = nameOf(e.by);
  if (e.kind === 'corrected' || e.kind === 'retracted') {
    const target = all.find((x) => x.id === e.replaces);
    const { before, after } = changeWords(e, all);
    const who = target ? nameOf(target.by) : 'somebody';
    return { stands: `${before || 'what was said'}, ${who}`, instead: `${after || 'take it back'}, ${author}` };
  }
  if (e.kind === 'triaged' || e.kind === 'intake-noted') {
    // The newest statement of another answer to the same question is what it goes against.
    const stands = Object.entries(e.body).flatMap(([question, value]) => {
      const other = [...all].reverse().find((x) => {
        const body = bodyOf(x) as Record<string, unknown>;
        return (x.kind === e.kind || x.kind === 'corrected') && x.id !== e.id && question in body && body[question] !== value;
      });
      return other ? [`${answerWords(question, (bodyOf(other) as Record<string, unknown>)[question])}, ${nameOf(other.by)}`] : [];
    });
    return { stands: stands.join('; '), instead: `${answersWords(e.body)}, ${author}` };
  }
  if (e.kind === 'finding-cleared' || e.kind === 'quiet-declared') {
    const ids: readonly string[] = e.kind === 'finding-cleared' ? e.body.clears : e.body.ends;
    const named = all.filter((x) => ids.includes(x.id)).map((x) => `${entryWords(x, all)}, ${nameOf(x.by)}`);
    return { stands: named.join('; '), instead: `${entryWords(e, all)}, ${author}` };
  }
  return { stands: '', instead: `${entryWords(e, all)}, ${author}` };
}

interface Effect {
  readonly pack: string;
  readonly words: string;
}

/** As if somebody else had agreed. */
const agreedTo = (e: LoggedEntry): LoggedEntry =>
  ({
    ...e,
    id: `agreed ${e.id}`,
    kind: 'confirmed',
    by: 'somebody else',
    body: { confirms: e.id },
    replaces: undefined,
    waits: undefined,
    seq: Number.MAX_SAFE_INTEGER,
  }) as unknown as LoggedEntry;

/** What it would make of the packs it concerns, all of it together: "TH-158: damaged → sound". */
function effects(
  asks: readonly LoggedEntry[],
  logs: ReadonlyMap<string, readonly LoggedEntry[]>,
  tagOf: (id: string) => string,
  policy: PolicyFacts,
  zone: string,
): Effect[] {
  const now = new Date();
  const on = localDay(zone, now);
  return [...logs].flatMap(([pack, log]): Effect[] => {
    const [before, after] = [log, [...log, ...asks.map(agreedTo)]].map((l) => {
      const facts = foldPack(pack, l);
      return facts && rule(facts, policy, now, on);
    });
    if (!before || !after || !isMilderRuling(before, after)) return [];
    const [a, b] = [before.judgement.condition, after.judgement.condition];
    return [{ pack, words: `${tagOf(pack)}: ${a === b ? `${a}, more ways to send it` : `${a} → ${b}`}` }];
  });
}

/** One thing that waits. */
interface Line {
  readonly w: Waiting;
  readonly e: LoggedEntry;
}

/** What was written in one go is confirmed in one go: an answer, and the findings that go with the one it replaces. */
function together(lines: readonly Line[]): Line[][] {
  const groups: Line[][] = [];
  for (const line of lines) {
    const last = groups[groups.length - 1]?.[0];
    const same =
      last && last.e.by === line.e.by && last.e.device === line.e.device && Date.parse(line.e.at) - Date.parse(last.e.at) < 100;
    if (same) groups[groups.length - 1]!.push(line);
    else groups.push([line]);
  }
  return groups;
}

function WaitingGroup({
  lines,
  all,
  effect,
}: {
  lines: readonly Line[];
  all: readonly LoggedEntry[];
  effect: readonly Effect[];
}) {
  const t = useTokens();
  const actions = useActions();
  const me = useAppSelector((s) => s.session.session?.person);
  const people = useAppSelector((s) => s.session.session?.people ?? []);
  const nameOf = (id: string) => people.find((p) => p.id === id)?.name ?? 'somebody';
  const first = lines[0]!;
  const said = lines.map(({ e }) => asked(e, all, nameOf));
  const what = said.map((s) => s.instead).join('; ');
  const trained = lines.some(({ w }) => w.trained);
  const mine = first.e.by === me?.id;
  const may = me !== undefined && !mine && me.role !== 'viewer' && (!trained || me.competent);
  const unsent = lines.some(({ e }) => e.seq === null);
  const who = trained ? 'a second person, trained to assess' : 'a second person';
  const answer = (confirm: boolean) =>
    actions.write(
      lines.map(({ e }) =>
        confirm ? draft('confirmed', e.subjects, { confirms: e.id }) : draft('declined', e.subjects, { declines: e.id }),
      ),
      confirm ? 'confirmed' : 'refused',
    );
  return (
    <View style={{ gap: 6, borderTopWidth: 1, borderColor: t.wash, paddingTop: 8 }}>
      {lines.map(({ w, e }, i) => (
        <View key={w.id} style={{ gap: 2 }}>
          {said[i]!.stands ? <Words>{`Stands: ${said[i]!.stands}`}</Words> : null}
          <Words bold>{`Asked: ${said[i]!.instead}`}</Words>
          {w.reason && lines.length === 1 && isMend(e) ? <Words size={15}>{`Because: ${w.reason}`}</Words> : null}
        </View>
      ))}
      {effect.map((x) => (
        <Words key={x.pack} size={15} bold>
          {x.words}
        </Words>
      ))}
      <Words
        size={15}
        soft
      >{`${unsent ? 'Not sent yet. ' : ''}Waits for ${who}, since ${agoWords(first.e.effectiveAt ?? first.e.at).replace(/ ago$/, '')}. Until then the worse of both counts.`}</Words>
      {unsent ? null : may ? (
        <Row>
          <Button
            label="Confirm"
            hint={what}
            tone="next"
            height={56}
            style={{ flexGrow: 1 }}
            onPress={() => answer(true)}
            testID={`confirm-${first.e.kind}`}
          />
          <Button
            label="Refuse"
            hint={what}
            height={56}
            style={{ flexGrow: 1 }}
            onPress={() => answer(false)}
            testID={`refuse-${first.e.kind}`}
          />
        </Row>
      ) : (
        <SignKey ids={lines.map(({ e }) => e.id)} />
      )}
    </View>
  );
}

/**
 * What waits for a second person, above everything but danger: both values, both names, and the keys for who may.
 * @param load everything on record of what it is about.
 */
export function WaitingCard({
  waiting,
  packs,
  load,
}: {
  waiting: readonly Waiting[];
  packs: readonly PackFacts[];
  load: () => Promise<{ readonly all: readonly LoggedEntry[]; readonly packs: ReadonlyMap<string, readonly LoggedEntry[]> }>;
}) {
  const version = useAppSelector((s) => s.logbook.version);
  const policy = useAppSelector((s) => s.logbook.policy);
  const zone = useZone();
  const [log, setLog] = useState<Awaited<ReturnType<typeof load>> | null>(null);
  const ids = waiting.map((w) => w.id).join(' ');
  useEffect(() => {
    let current = true;
    if (ids) void load().then((l) => current && setLog(l));
    return () => {
      current = false;
    };
    // `load` is made anew with each drawing and always reads the same subjects.
  }, [ids, version]);
  if (waiting.length === 0 || !log) return null;
  const tagOf = (id: string) => packs.find((p) => p.id === id)?.tag ?? 'a pack';
  const lines = [...new Map(waiting.map((w) => [w.id, w])).values()]
    .flatMap((w) => {
      const e = log.all.find((x) => x.id === w.id);
      return e ? [{ w, e }] : [];
    })
    .sort((a, b) => (a.e.id < b.e.id ? -1 : 1));
  if (lines.length === 0) return null;
  return (
    <Card title="Waits for a second person" testID="card-waiting">
      {together(lines).map((group) => (
        <WaitingGroup
          key={group[0]!.e.id}
          lines={group}
          all={log.all}
          effect={effects(
            group.map((l) => l.e),
            log.packs,
            tagOf,
            policy,
            zone,
          )}
        />
      ))}
    </Card>
  );
}
