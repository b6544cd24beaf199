import {
  ahead,
  type Ahead,
  classify,
  figureWords,
  FIRE_RULES,
  inForce,
  localDay,
  type PackFacts,
  type PolicyFacts,
  provisionWords,
  rule,
  type Rule,
  SHIPPING_RULES,
  WASTE_RULES,
  DAY_MS,
  counted,
} from '@gavrel/core';
import { casesByRule } from '@gavrel/core/cases';
import { useLocalSearchParams } from 'expo-router';
import { useState } from 'react';
import { View } from 'react-native';
import { draft } from '../../device/write';
import { useAppSelector } from '../../state';
import { useMay } from '../../state/may';
import { useActions } from '../../state/context';
import { rulingOf, useZone } from '../../state/rulings';
import { useTokens, useWide } from '../../theme';
import { Field } from '../../ui/field';
import { Card, Column, Row, Side } from '../../ui/frame';
import { Button } from '../../ui/buttons';
import { Sheet } from '../../ui/sheet';
import { Figures, Heading, Words } from '../../ui/words';
import { RuleLine } from '../../routes/rule-line';
import { dayWords } from '../../ui/say';

const GROUPS: readonly (readonly [string, RegExp])[] = [
  ['Air', /^air\./],
  ['European road and rail', /^road\./],
  ['Sea', /^sea\./],
  ['United States road and rail', /^us\./],
  ['Size, marks and all modes', /^(?!air\.|road\.|sea\.|us\.|waste\.|fire\.)/],
  ['Waste', /^waste\./],
  ['Storage: the local code decides', /^fire\./],
];

const span = (r: Rule) =>
  r.from === null && r.to === null ? 'no dates' : `${r.from ? dayWords(r.from) : '…'} to ${r.to ? dayWords(r.to) : 'open'}`;
/** From how many days before a change it is marked. */
const SOON_DAYS = 400;

/** A rule that came into force or ends within about a year, in words; empty for the others. */
function changeWords(r: Rule, today: string): string {
  const days = (day: string) => (Date.parse(day) - Date.parse(today)) / DAY_MS;
  if (r.from !== null && days(r.from) > 0) return `new from ${dayWords(r.from)}`;
  if (r.to !== null && days(r.to) >= 0 && days(r.to) < SOON_DAYS) return `ends ${dayWords(r.to)}`;
  if (r.from !== null && days(r.from) > -SOON_DAYS) return `new since ${dayWords(r.from)}`;
  return '';
}

function WorkedCases({ of }: { of: Rule }) {
  return casesByRule()
    .get(of.id)
    ?.map((c) => (
      <Words key={c.id} size={15}>
        {`${c.title.replace(/\*/g, '')}, ${dayWords(c.route.on)}: `}
        <Words size={15} bold>
          {[classify(c.facts, c.route).outcome, c.expect.provision && provisionWords(c.expect.provision)]
            .filter(Boolean)
            .join(', ')}
        </Words>
      </Words>
    ));
}

/** One rule with its figures and dates; the lead says that the printed edition was looked at. On a wide screen its cases stand beside it. */
function RuleEntry({ rule: r, today, onCheck }: { rule: Rule; today: string; onCheck: (() => void) | null }) {
  const t = useTokens();
  const wide = useWide();
  const [open, setOpen] = useState(false);
  const change = changeWords(r, today);
  const cases = casesByRule().get(r.id)?.length ?? 0;
  return (
    <View
      style={{
        borderTopWidth: 1,
        borderColor: t.line,
        paddingVertical: 8,
        gap: 4,
        ...(change !== '' && { borderLeftWidth: 6, borderLeftColor: t.accent, paddingLeft: 8 }),
        ...(wide && { flexDirection: 'row', gap: 20 }),
      }}
      testID={`rule-${r.id}`}
    >
      <View style={{ gap: 4, ...(wide && { flex: 1.2 }) }}>
        <RuleLine rule={r} />
        <Figures size={14}>
          {[figureWords(r.figures), change ? '' : span(r), inForce(r, today) ? '' : 'not in force', open ? r.id : '']
            .filter(Boolean)
            .join(' · ')}
        </Figures>
        {change ? (
          <Words bold size={15}>
            {change}
          </Words>
        ) : null}
      </View>
      <View style={{ gap: 4, ...(wide && { flex: 1 }) }}>
        <Row>
          {cases > 0 ? (
            <Button
              label={open ? 'Close' : `Cases, ${cases}`}
              hint={r.title}
              selected={open}
              onPress={() => setOpen(!open)}
              testID={`cases-${r.id}`}
            />
          ) : null}
          {onCheck ? <Button label="Checked" hint={r.title} onPress={onCheck} testID={`check-${r.id}`} /> : null}
        </Row>
        {open ? <WorkedCases of={r} /> : null}
      </View>
    </View>
  );
}

function CheckSheet({ rule: r, onClose }: { rule: Rule; onClose: () => void }) {
  const actions = useActions();
  const workshop = useAppSelector((s) => s.session.session?.workshop.id ?? '');
  const today = localDay(useZone(), new Date());
  const [edition, setEdition] = useState(r.edition ?? '');
  const keep = async () => {
    const body = { rule: r.id, edition: edition.trim(), on: today };
    await actions.write([draft('rule-checked', [`policy:${workshop}`], body)], `${r.id} checked`);
    onClose();
  };
  return (
    <Sheet
      title="Checked against the printed edition"
      onClose={onClose}
      footer={
        <Button
          label="I have compared it"
          tone="next"
          height={64}
          disabled={edition.trim() === ''}
          onPress={() => keep()}
          testID="keep-check"
        />
      }
    >
      <Words bold>{r.title}</Words>
      <Words>{`${r.source}: ${figureWords(r.figures) || 'no figures'}`}</Words>
      <Field label="Printed edition" value={edition} onChange={setEdition} testID="edition" />
      {r.edition !== null && edition.trim() !== r.edition ? (
        <Words bold>{`Our copy is of ${r.edition}: papers stay drafts until that one was compared.`}</Words>
      ) : null}
      <Words size={15}>It differs? Do not confirm it: hold the packs it concerns, and have the rule mended.</Words>
    </Sheet>
  );
}

/** What the coming months change, and which packs on the shelf it concerns. */
function AheadCard({ today }: { today: string }) {
  const { packs, policy } = useAppSelector((s) => s.logbook);
  const zone = useZone();
  const [shown, setShown] = useState<readonly Ahead[] | null>(null);
  const look = () => {
    const until = `${Number(today.slice(0, 4)) + 2}${today.slice(4)}`;
    const stock = Object.values(packs)
      .filter((f) => f.left === null && f.use !== 'fitted')
      .map((f) => ({ id: f.id, tag: f.tag, shipping: rulingOf(f, policy, zone).shipping }));
    setShown(ahead(stock, today, until));
  };
  return (
    <Card title="What changes ahead" testID="card-ahead">
      {shown === null ? <Button label="Look at the stock" onPress={look} testID="look-ahead" /> : null}
      {shown?.map((a) => (
        <View key={a.day} style={{ gap: 2 }}>
          <Words bold>{`From ${dayWords(a.day)}: ${counted(a.packs.length, 'pack is', 'packs are')} answered differently`}</Words>
          <Words size={15}>
            {a.rules.some((r) => r.kind === 'ends')
              ? 'An edition ends: what it let go is held until the next one is in our copy.'
              : ''}
            {a.rules
              .filter((r) => r.kind !== 'ends')
              .map((r) => r.after!.title)
              .join('; ')}
          </Words>
          <Words size={14} soft>
            {a.packs
              .slice(0, 12)
              .map((p) => p.tag)
              .join(', ')}
            {a.packs.length > 12 ? ` and ${a.packs.length - 12} more` : ''}
          </Words>
        </View>
      ))}
      {shown?.length === 0 ? <Words>Nothing that we hold changes in two years.</Words> : null}
    </Card>
  );
}

/** What the other schools would change in the stock right now. */
function SwitchCard({ today }: { today: string }) {
  const { packs, policy } = useAppSelector((s) => s.logbook);
  const [lines, setLines] = useState<readonly string[] | null>(null);
  const look = () => {
    const now = new Date();
    const all = Object.values(packs).filter((f) => f.left === null);
    const other = { ...policy, swelling: policy.swelling === 'any' ? ('allowance' as const) : ('any' as const) };
    const inner = { ...policy, innerCellLimit: !policy.innerCellLimit };
    const words = (f: PackFacts, p: PolicyFacts) => {
      const r = rule(f, p, now, today);
      return [r.judgement.condition, ...r.cells.map((c) => c.word)].join();
    };
    const changed = (p: PolicyFacts) => {
      const tags = all.filter((f) => words(f, p) !== words(f, policy)).map((f) => f.tag);
      return tags.length === 0 ? 'no pack' : `${counted(tags.length, 'pack')}: ${tags.slice(0, 8).join(', ')}`;
    };
    const days = (k: 'lookDays' | 'dispatchDays', other: number, words: string) =>
      `${words} ${counted(other, 'day')} instead of ${policy[k]} would change ${changed({ ...policy, [k]: other })}`;
    setLines([
      `Swelling, ${other.swelling === 'any' ? 'any growth over 5 %' : 'up to 10 %'}, would change ${changed(other)}`,
      `20 Wh test, ${inner.innerCellLimit ? 'inner cells too' : 'whole pack only'}, would change ${changed(inner)}`,
      days('lookDays', Math.ceil(policy.lookDays / 2), 'A look good for'),
      days('lookDays', policy.lookDays * 2, 'A look good for'),
      days('dispatchDays', Math.ceil(policy.dispatchDays / 2), 'A look and a charge good for dispatch for'),
      days('dispatchDays', policy.dispatchDays * 2, 'A look and a charge good for dispatch for'),
    ]);
  };
  return (
    <Card title="The other schools, now" testID="card-schools">
      {lines === null ? <Button label="Try them on the stock" onPress={look} testID="look-schools" /> : null}
      {lines?.map((l) => (
        <Words key={l}>{l}</Words>
      ))}
      <Words size={15} soft>
        Schools are switched under More, by the lead; a milder one needs a second lead.
      </Words>
    </Card>
  );
}

/** Every rule held: plain words, figures, source, certainty, dates. On a wide screen the contents stand at the left. */
export function Rules() {
  const wide = useWide();
  const mayCheck = useMay('rule-checked');
  const today = localDay(useZone(), new Date());
  const { find } = useLocalSearchParams<{ find?: string }>();
  const [search, setSearch] = useState(find ?? '');
  const [old, setOld] = useState(false);
  const [group, setGroup] = useState<string | null>(null);
  const [check, setCheck] = useState<Rule | null>(null);
  const wanted = search.trim().toLowerCase();
  const hit = (r: Rule) =>
    wanted === '' || [r.id, r.title, r.source, r.edition ?? ''].some((x) => x.toLowerCase().includes(wanted));
  const all = [...SHIPPING_RULES, ...WASTE_RULES, ...FIRE_RULES].filter(hit);
  const now = all.filter((r) => inForce(r, today));
  // What is in force stands first, what is not yet or no longer below it.
  const found = old ? [...now, ...all.filter((r) => !inForce(r, today))] : now;
  const groups = GROUPS.map(([title, of]) => ({ title, rules: found.filter((r) => of.test(r.id)) })).filter(
    (g) => g.rules.length > 0,
  );
  const shown =
    wide && group !== null && groups.some((g) => g.title === group) ? groups.filter((g) => g.title === group) : groups;
  const head = (
    <>
      <Heading level={1} size={26}>
        Rules
      </Heading>
      <Words>Our copy, from memory: check the current printed edition. A trained person and local law decide.</Words>
      <Field label="Search: PI 965, 30 kg, damaged…" value={search} onChange={setSearch} testID="rule-search" />
    </>
  );
  const outOfForce =
    all.length > now.length ? (
      <Button
        label={old ? 'Only what is in force today' : `${all.length - now.length} not in force today`}
        onPress={() => setOld(!old)}
        testID="rules-old"
      />
    ) : null;
  const list = (
    <>
      <AheadCard today={today} />
      <SwitchCard today={today} />
      {shown.map(({ title, rules }) => (
        <Card key={title} title={title} right={<Figures>{rules.length}</Figures>}>
          {rules.map((r) => (
            <RuleEntry key={`${r.id} ${r.from}`} rule={r} today={today} onCheck={mayCheck ? () => setCheck(r) : null} />
          ))}
        </Card>
      ))}
      {wide ? null : outOfForce}
      {found.length === 0 ? <Words>No rule says that. Try a paragraph or a word of it.</Words> : null}
      {check ? <CheckSheet rule={check} onClose={() => setCheck(null)} /> : null}
    </>
  );
  if (!wide)
    return (
      <Column>
        {head}
        {list}
      </Column>
    );
  return (
    <View style={{ flex: 1, flexDirection: 'row' }}>
      <Side width={320}>
        {head}
        <View role="radiogroup" aria-label="Contents" style={{ gap: 4 }}>
          {[null, ...groups.map((g) => g.title)].map((title) => (
            <Button
              key={title ?? 'all'}
              label={title === null ? `All, ${found.length}` : `${title}, ${groups.find((g) => g.title === title)!.rules.length}`}
              role="radio"
              selected={group === title}
              style={{ alignItems: 'flex-start' }}
              onPress={() => setGroup(title)}
              testID={`contents-${title ?? 'all'}`}
            />
          ))}
        </View>
        {outOfForce}
      </Side>
      <Column>{list}</Column>
    </View>
  );
}
