import {
  ahead,
  type Ahead,
  classify,
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
import { useTokens } from '../../theme';
import { Field } from '../../ui/field';
import { Card, Column, Row } from '../../ui/frame';
import { Button } from '../../ui/buttons';
import { Sheet } from '../../ui/sheet';
import { Figures, Heading, Words } from '../../ui/words';
import { RuleLine } from '../../routes/rule-line';

const GROUPS: readonly (readonly [string, RegExp])[] = [
  ['Air', /^air\./],
  ['European road and rail', /^road\./],
  ['Sea', /^sea\./],
  ['United States road and rail', /^us\./],
  ['Size, marks and all modes', /^(?!air\.|road\.|sea\.|us\.|waste\.|fire\.)/],
  ['Waste', /^waste\./],
  ['Storage: the local code decides', /^fire\./],
];

const span = (r: Rule) => (r.from === null && r.to === null ? 'no dates' : `${r.from ?? '…'} to ${r.to ?? 'open'}`);
const figures = (r: Rule) =>
  Object.entries(r.figures)
    .map(([k, v]) => `${k} ${v}`)
    .join(', ');

/** One rule with its figures and dates; the lead says that the printed edition was looked at. */
function RuleEntry({ rule: r, today, onCheck }: { rule: Rule; today: string; onCheck: (() => void) | null }) {
  const t = useTokens();
  const [open, setOpen] = useState(false);
  const now = inForce(r, today);
  const worked = casesByRule().get(r.id) ?? [];
  return (
    <View style={{ borderTopWidth: 1, borderColor: t.line, paddingVertical: 8, gap: 4 }} testID={`rule-${r.id}`}>
      <RuleLine rule={r} />
      <Figures size={14}>{[r.id, figures(r), span(r), now ? 'in force' : 'not in force'].filter(Boolean).join(' · ')}</Figures>
      <Row>
        {worked.length > 0 ? (
          <Button
            label={open ? 'Close' : `Cases, ${worked.length}`}
            hint={r.title}
            selected={open}
            onPress={() => setOpen(!open)}
            testID={`cases-${r.id}`}
          />
        ) : null}
        {onCheck ? <Button label="Checked" hint={r.title} onPress={onCheck} testID={`check-${r.id}`} /> : null}
      </Row>
      {open
        ? worked.map((c) => (
            <Words key={c.id} size={15}>
              {`${c.title.replace(/\*/g, '')}, ${c.route.on}: `}
              <Words size={15} bold>
                {[classify(c.facts, c.route).outcome, c.expect.provision && provisionWords(c.expect.provision)]
                  .filter(Boolean)
                  .join(', ')}
              </Words>
            </Words>
          ))
        : null}
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
          onPress={() => void keep()}
          testID="keep-check"
        />
      }
    >
      <Words bold>{r.title}</Words>
      <Words>{`${r.source}: ${figures(r) || 'no figures'}`}</Words>
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
          <Words bold>{`From ${a.day}: ${a.packs.length} packs are answered differently`}</Words>
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
      return tags.length === 0 ? 'no pack' : `${tags.length} packs: ${tags.slice(0, 8).join(', ')}`;
    };
    const days = (k: 'lookDays' | 'dispatchDays', other: number, words: string) =>
      `${words} ${other} days instead of ${policy[k]} would change ${changed({ ...policy, [k]: other })}`;
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

/** Every rule held: plain words, figures, source, certainty, dates. */
export function Rules() {
  const mayCheck = useMay('rule-checked');
  const today = localDay(useZone(), new Date());
  const { find } = useLocalSearchParams<{ find?: string }>();
  const [search, setSearch] = useState(find ?? '');
  const [old, setOld] = useState(false);
  const [check, setCheck] = useState<Rule | null>(null);
  const wanted = search.trim().toLowerCase();
  const hit = (r: Rule) =>
    wanted === '' || [r.id, r.title, r.source, r.edition ?? ''].some((x) => x.toLowerCase().includes(wanted));
  const all = [...SHIPPING_RULES, ...WASTE_RULES, ...FIRE_RULES].filter(hit);
  const found = old ? all : all.filter((r) => inForce(r, today));
  const hidden = all.length - all.filter((r) => inForce(r, today)).length;
  return (
    <Column style={{ width: '100%', maxWidth: 900, alignSelf: 'center' }}>
      <Heading level={1} size={26}>
        Rules
      </Heading>
      <Words>Our copy, from memory: check the current printed edition. A trained person and local law decide.</Words>
      <Row>
        <View style={{ flexGrow: 1, flexBasis: 240 }}>
          <Field label="Search: PI 965, 30 kg, damaged…" value={search} onChange={setSearch} testID="rule-search" />
        </View>
      </Row>
      <AheadCard today={today} />
      <SwitchCard today={today} />
      {GROUPS.map(([title, of]) => {
        const rules = found.filter((r) => of.test(r.id));
        return rules.length === 0 ? null : (
          <Card key={title} title={title} right={<Figures>{rules.length}</Figures>}>
            {rules.map((r) => (
              <RuleEntry key={`${r.id} ${r.from}`} rule={r} today={today} onCheck={mayCheck ? () => setCheck(r) : null} />
            ))}
          </Card>
        );
      })}
      {hidden > 0 ? (
        <Button
          label={old ? 'Only what is in force today' : `${hidden} not in force today`}
          onPress={() => setOld(!old)}
          testID="rules-old"
        />
      ) : null}
      {found.length === 0 ? <Words>No rule says that. Try a paragraph or a word of it.</Words> : null}
      {check ? <CheckSheet rule={check} onClose={() => setCheck(null)} /> : null}
    </Column>
  );
}
