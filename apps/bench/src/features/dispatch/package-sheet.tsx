import { type ConsignmentFacts, type PackFacts, parseDigits, type Subject } from '@gavrel/core';
import { grossRange, oddGross } from '@gavrel/core/consignment';
import { useState } from 'react';
import { View } from 'react-native';
import { draft, newId } from '../../device/write';
import { useAppSelector } from '../../state';
import { useActions } from '../../state/context';
import { useMay } from '../../state/may';
import { LEFT_WORDS } from '../../state/rulings';
import { useDraft } from '../../state/use-draft';
import { Asked } from '../../ui/asked';
import { Button } from '../../ui/buttons';
import { Field } from '../../ui/field';
import { Card, Row } from '../../ui/frame';
import { Sheet } from '../../ui/sheet';
import { Figures, Words } from '../../ui/words';
import { BoxDrawing } from './box-drawing';
import { afterMove, afterWords, mayMoveFrom, movedTo, targetsOf } from './move';
import { ScanCard } from './scan-card';
import { contentsOf, type ConsignmentView, type PackageView } from './view';
import { kgWords, markWords, nameOf, packageName, packagesWord, packsWord, sentWords } from './words';

type P = { readonly v: ConsignmentView; readonly p: PackageView };

const consignment = (v: ConsignmentView): Subject => `consignment:${v.facts.id}`;
const pack = (id: string): Subject => `pack:${id}`;
const tagOf = (v: ConsignmentView, id: string): string => v.sendings.get(id)?.tag ?? '?';

/** A pack of the package: taken out, or laid into another one; what that does to law and weight stands beside each choice. */
function PackLine({ v, p, id }: P & { id: string }) {
  const actions = useActions();
  const [moving, setMoving] = useState(false);
  const may = useMay('plan-kept');
  const inside = p.packed.includes(id);
  const tag = tagOf(v, id);
  const c = consignment(v);
  const fewest = v.facts.plan?.bound ?? null;
  const move = async (to: string, box: string | null) => {
    await actions.write(movedTo(v, p, id, to, box), `${tag} moved`);
    setMoving(false);
  };
  return (
    <View style={{ gap: 6 }}>
      <Row style={{ justifyContent: 'space-between' }}>
        <Figures bold={inside}>{`${inside ? '■' : '□'} ${tag}`}</Figures>
        <Row>
          {inside && p.closed === null && p.sent === null ? (
            <Button
              label="Take out"
              hint={tag}
              tone="quiet"
              onPress={() => actions.write([draft('unpacked', [c, pack(id)], {})], `${tag} taken out`)}
            />
          ) : null}
          {may && mayMoveFrom(v, p) ? (
            <Button label="Move" hint={tag} selected={moving} onPress={() => setMoving(!moving)} testID={`move-${tag}`} />
          ) : null}
        </Row>
      </Row>
      {moving ? (
        <View style={{ gap: 6 }}>
          {targetsOf(v, p).map((x) => (
            <Button
              key={x.id}
              label={`Package ${x.number}: ${afterWords(afterMove(v, p, id, x))}`}
              onPress={() => move(x.id, x.box)}
              testID={`move-to-${x.number}`}
            />
          ))}
          {fewest === null || fewest < 2 ? null : <Words soft>{`No plan has fewer than ${packagesWord(fewest)}.`}</Words>}
          <Button label="A package of its own" onPress={() => move(newId(Date.now()), p.box)} testID="move-alone" />
        </View>
      ) : null}
    </View>
  );
}

const kg = (typed: string) => {
  const digits = typed.trim() === '' ? null : parseDigits(typed);
  return digits === null || !(Number(digits) > 0) ? undefined : digits;
};

/** Weighed, sealed, closed: a weight that cannot be is asked about. */
function CloseCard({ v, p }: P) {
  const actions = useActions();
  // Of what lies in it now: with another pack in it the weight is another.
  const [form, setForm, done] = useDraft(`package ${p.id} ${[...p.packed].sort().join(' ')}`, { weighed: '', seal: '' });
  const { weighed, seal } = form;
  const [asked, setAsked] = useState('');
  const box = v.means.boxes.find((b) => b.id === p.box);
  const digits = kg(weighed);
  const missing = p.planned.filter((id) => !p.packed.includes(id));
  const range = box ? grossRange(box, p.ruled.netKg) : null;
  const odd = digits !== undefined && range ? oddGross(Number(digits), range) : '';
  const question = [missing.length > 0 && `Not in it yet: ${missing.map((id) => tagOf(v, id)).join(', ')}.`, odd]
    .filter(Boolean)
    .join(' ');
  const close = async () => {
    if (question !== '' && asked !== question) return setAsked(question);
    await actions.write(
      [
        draft('package-closed', [consignment(v)], {
          package: p.id,
          ...(p.box && { box: p.box }),
          ...(digits && { weighed: { digits, unit: 'kg' as const } }),
          ...(seal.trim() && { seal: seal.trim() }),
        }),
      ],
      `package ${p.number} closed`,
    );
    done();
    setForm({ weighed: '', seal: '' });
    setAsked('');
  };
  return (
    <Card title="Close it">
      {range ? <Words soft>{`Between ${kgWords(range.lo)} and ${kgWords(range.hi)} with box and fill.`}</Words> : null}
      <Field
        label="On the scale, kg"
        value={weighed}
        onChange={(x) => setForm((f) => ({ ...f, weighed: x }))}
        testID="gross-kg"
      />
      {weighed.trim() !== '' && digits === undefined ? <Words bold>Write the weight as 7,4.</Words> : null}
      <Field
        label="Number of the seal"
        value={seal}
        onChange={(x) => setForm((f) => ({ ...f, seal: x }))}
        longest={60}
        testID="seal"
      />
      <Asked words={asked === '' ? null : asked} />
      {p.ruled.lawful ? null : <Words bold>It may not go like this: see above.</Words>}
      <Button
        label={asked !== '' && asked === question ? 'Close it all the same' : 'Close the package'}
        tone="next"
        height={64}
        disabled={p.packed.length === 0 || !p.ruled.lawful || (weighed.trim() !== '' && digits === undefined)}
        onPress={() => close()}
        testID="close-package"
      />
    </Card>
  );
}

/** Did somebody else than who closed it count as many as lie in it? */
const countedByTwo = (v: ConsignmentView, p: PackageView): boolean =>
  (v.facts.counts[p.id] ?? []).some((x) => x.by !== p.closed?.by && x.count === p.packed.length);

/** Counted again by somebody else, who is not shown how many there should be. */
function CountCard({ v, p }: P) {
  const actions = useActions();
  const me = useAppSelector((s) => s.session.session?.person.id ?? '');
  const [typed, setTyped] = useState('');
  const counts = v.facts.counts[p.id] ?? [];
  const mine = p.closed?.by === me;
  const number = /^\d{1,4}$/.test(typed.trim()) ? Number(typed.trim()) : null;
  const agreed = countedByTwo(v, p);
  const wrong = counts.filter((x) => x.count !== p.packed.length);
  return (
    <Card title="Second count">
      <Words bold>
        {agreed
          ? 'Counted by two.'
          : wrong.length > 0
            ? `Counted ${wrong[wrong.length - 1]!.count}: open it and look.`
            : 'Damaged packs are counted by two.'}
      </Words>
      {mine ? (
        <Words>You closed it: somebody else counts.</Words>
      ) : agreed ? null : (
        <Row>
          <Field label="Packs in it" value={typed} onChange={setTyped} testID="second-count" />
          <Button
            label="Keep the count"
            height={56}
            disabled={number === null}
            onPress={() =>
              actions
                .write([draft('package-counted', [consignment(v)], { package: p.id, count: number! })], 'counted again')
                .then(() => setTyped(''))
            }
            testID="keep-count"
          />
        </Row>
      )}
    </Card>
  );
}

/** Where a pack is by the record, of which the record of this box says that it lies in here. */
function whereNow(f: PackFacts | undefined, consignments: Readonly<Record<string, ConsignmentFacts>>): string {
  if (!f) return 'not on this device';
  const c = f.consignment === undefined ? undefined : consignments[f.consignment];
  if (c) return `in ${nameOf(c)}`;
  if (f.left !== null) return LEFT_WORDS[f.leftTo ?? 'owner'];
  return f.use === 'fitted' ? 'in a machine' : 'in no consignment';
}

/** Packs that went another way since they were laid in here: whoever opens the box says which record is right, before it is closed. */
function StrayedCard({ v, p }: P) {
  const actions = useActions();
  const { packs, consignments } = useAppSelector((s) => s.logbook);
  const may = useMay('unpacked');
  if (p.strayed.length === 0) return null;
  return (
    <Card title="Open the box" testID="package-strayed">
      {p.strayed.map((id) => {
        const tag = packs[id]?.tag ?? '?';
        const say = (kind: 'unpacked' | 'withdrawn', words: string) =>
          actions.write([draft(kind, [consignment(v), pack(id)], {})], `${tag} ${words}`);
        return (
          <View key={id} style={{ gap: 4 }}>
            <Words bold>{`${tag}: by the record ${whereNow(packs[id], consignments)} now`}</Words>
            {may ? (
              <Row>
                <Button
                  label={`${tag} lay in it: out now`}
                  height={56}
                  onPress={() => say('unpacked', 'taken out')}
                  testID={`out-${tag}`}
                />
                <Button
                  label={`${tag} is not in it`}
                  height={56}
                  onPress={() => say('withdrawn', 'not in this box')}
                  testID={`not-in-${tag}`}
                />
              </Row>
            ) : null}
          </View>
        );
      })}
    </Card>
  );
}

/** One package: scan into it, move packs, weigh and close it. */
export function PackageSheet({ v, p, onClose }: P & { onClose: () => void }) {
  const actions = useActions();
  const box = v.means.boxes.find((b) => b.id === p.box);
  const sent = v.facts.sent !== null || v.facts.ended !== null;
  const mayPack = useMay('packed') && !sent;
  const { ruled } = p;
  const me = useAppSelector((s) => s.session.session?.person.id ?? '');
  const twice = p.closed !== null && ruled.result.condition === 'damaged' && mayPack;
  // Whoever is to count sees neither the number nor what should lie in it.
  const blind = twice && p.closed?.by !== me && !countedByTwo(v, p);
  const reopen = () =>
    actions.write([draft('package-opened', [consignment(v)], { package: p.id })], `package ${p.number} opened`);
  return (
    <Sheet title={packageName(p, box)} onClose={onClose}>
      <Row gap={14}>
        {box && !blind ? <BoxDrawing box={box} packs={p.question.packs} width={150} /> : null}
        <View style={{ flexShrink: 1 }}>
          <Words bold>{p.sent ? sentWords(p.sent) : ruled.lawful ? markWords(ruled) : 'Not like this'}</Words>
          {ruled.together && !p.sent ? <Words>{`Packs of several provisions: all go as ${ruled.together}.`}</Words> : null}
          {blind ? null : <Words>{`${packsWord(contentsOf(p).length)}, ${kgWords(ruled.netKg.hi)} net`}</Words>}
          {p.question.weighedKg !== undefined ? <Words>{`${kgWords(p.question.weighedKg)} on the scale`}</Words> : null}
        </View>
      </Row>
      {(p.sent ? [] : ruled.why).map((w) => (
        <Words key={w} bold>
          {w}
        </Words>
      ))}
      {sent ? null : <StrayedCard v={v} p={p} />}
      {mayPack && p.closed === null ? <ScanCard v={v} p={p} /> : null}
      {blind ? null : (
        <Card title="In it" testID="package-contents">
          {contentsOf(p).map((id) => (
            <PackLine key={id} v={v} p={p} id={id} />
          ))}
        </Card>
      )}
      {mayPack && p.closed === null && p.strayed.length === 0 ? <CloseCard v={v} p={p} /> : null}
      {twice ? <CountCard v={v} p={p} /> : null}
      {p.closed && mayPack ? <Button label="Open it again" height={56} onPress={reopen} testID="reopen-package" /> : null}
      {ruled.carry ? (
        <Card title="Steps">
          {[...ruled.carry.packaging, ...ruled.carry.marks].map((l) => (
            <Words key={l}>{l}</Words>
          ))}
        </Card>
      ) : null}
    </Sheet>
  );
}
