import { normalTag, parseDigits, type Subject, taggedId } from '@gavrel/core';
import { grossRange, oddGross } from '@gavrel/core/consignment';
import { useState } from 'react';
import { View } from 'react-native';
import { draft, newId } from '../../device/write';
import { CodesKey } from '../../entry/codes-key';
import { ScanField } from '../../entry/scan-field';
import { useAppSelector } from '../../state';
import { useActions } from '../../state/context';
import { useMay } from '../../state/may';
import { Asked } from '../../ui/asked';
import { Button } from '../../ui/buttons';
import { Field } from '../../ui/field';
import { Card, Row } from '../../ui/frame';
import { Sheet } from '../../ui/sheet';
import { Figures, Words } from '../../ui/words';
import { BoxDrawing } from './box-drawing';
import { afterMove, afterWords, mayMoveFrom, movedTo, targetsOf } from './move';
import { contentsOf, type ConsignmentView, type PackageView } from './view';
import { kgWords, markWords, nameOf, packageName, packagesWord, packsWord, sentWords } from './words';

type P = { readonly v: ConsignmentView; readonly p: PackageView };

const consignment = (v: ConsignmentView): Subject => `consignment:${v.facts.id}`;
const pack = (id: string): Subject => `pack:${id}`;
const tagOf = (v: ConsignmentView, id: string): string => v.sendings.get(id)?.tag ?? '?';

/** What a scanned code is to this package. */
type Scan =
  | { readonly kind: 'take'; readonly id: string; readonly tag: string }
  | { readonly kind: 'trouble'; readonly words: string }
  /** It may go in all the same, once somebody says so. */
  | { readonly kind: 'ask'; readonly words: string; readonly id: string; readonly tag: string; readonly key: string };

/** Right here, in another package, of another consignment, or nobody's. */
export function scanOf(
  code: string,
  { v, p }: P,
  known: (id: string) => { readonly tag: string; readonly consignment?: string; readonly left: string | null } | undefined,
  workshop: string,
  named: (consignment: string) => string,
): Scan {
  const id = taggedId(workshop, 'pack', code);
  const found = known(id);
  if (!found) return { kind: 'trouble', words: `${code}: no pack here has this code. Add it as a pack first, or scan again.` };
  const { tag } = found;
  if (p.packed.includes(id)) return { kind: 'trouble', words: `${tag} lies in here already.` };
  if (found.left !== null) return { kind: 'trouble', words: `${tag} left already: look at it before anything else.` };
  if (found.consignment !== v.facts.id) {
    const where = found.consignment === undefined ? 'is in no consignment' : `belongs to ${named(found.consignment)}`;
    return { kind: 'ask', id, tag, words: `${tag} ${where}.`, key: `Take ${tag} into this one` };
  }
  if (p.planned.includes(id)) return { kind: 'take', id, tag };
  const right = v.packages.find((x) => x.packed.includes(id) || x.planned.includes(id));
  if (!right) return { kind: 'ask', id, tag, words: `${tag} is planned for no package.`, key: `Put ${tag} in here` };
  return {
    kind: 'ask',
    id,
    tag,
    words: `Wrong package: ${tag} belongs in package ${right.number}.`,
    key: 'In here all the same',
  };
}

/** Scan, and on to the next: what does not belong here is told by name. */
function ScanCard({ v, p }: P) {
  const actions = useActions();
  const workshop = useAppSelector((s) => s.session.session?.workshop.id ?? '');
  const { packs, consignments } = useAppSelector((s) => s.logbook);
  const [code, setCode] = useState('');
  const [scan, setScan] = useState<Exclude<Scan, { kind: 'take' }> | null>(null);
  const [last, setLast] = useState('');
  const put = async (id: string, tag: string) => {
    const c = consignment(v);
    const fresh = packs[id]?.consignment === v.facts.id ? [] : [draft('consigned', [c, pack(id)], {})];
    await actions.write([...fresh, draft('packed', [c, pack(id)], { package: p.id })], `${tag} packed`);
    setScan(null);
    setLast(`${tag} is in.`);
  };
  const read = (given: string) =>
    scanOf(
      given,
      { v, p },
      (id) => packs[id],
      workshop,
      (id) => (consignments[id] ? nameOf(consignments[id]) : 'another consignment'),
    );
  /** @returns whether it is in now. */
  const take = async (scanned: string): Promise<boolean> => {
    const given = normalTag(scanned);
    setCode('');
    setLast('');
    const found = given === '' ? null : read(given);
    setScan(found?.kind === 'take' ? null : found);
    if (found?.kind === 'take') await put(found.id, found.tag);
    return found?.kind === 'take';
  };
  /** A tray of packs in one picture: what belongs here is packed, the rest is told by name. */
  const takeAll = async (codes: readonly string[]) => {
    const found = [...new Set(codes.map(normalTag))].filter(Boolean).map(read);
    const mine = found.flatMap((f) => (f.kind === 'take' ? [f] : []));
    const others = found.flatMap((f) => (f.kind === 'take' ? [] : [f.words]));
    const c = consignment(v);
    if (mine.length > 0)
      await actions.write(
        mine.map(({ id }) => draft('packed', [c, pack(id)], { package: p.id })),
        `${packsWord(mine.length)} packed`,
      );
    setScan(others.length > 0 ? { kind: 'trouble', words: others.join('\n') } : null);
    setLast(mine.length > 0 ? `${mine.map((f) => f.tag).join(', ')} ${mine.length === 1 ? 'is' : 'are'} in.` : '');
  };
  return (
    <Card title={`Packed ${p.packed.length} of ${contentsOf(p).length}`}>
      <ScanField
        label="Scan or type a tag"
        value={code}
        onChange={setCode}
        onScan={take}
        many
        paused={scan?.kind === 'ask'}
        testID="pack-scan"
      />
      <CodesKey onCodes={(codes) => void takeAll(codes)} />
      <Asked words={scan?.words ?? null} />
      {scan?.kind === 'ask' ? (
        <Row>
          <Button label={scan.key} height={56} onPress={() => void put(scan.id, scan.tag)} testID="pack-despite" />
          <Button label="Leave it" height={56} onPress={() => setScan(null)} />
        </Row>
      ) : null}
      {last ? (
        <Words bold live>
          {last}
        </Words>
      ) : null}
    </Card>
  );
}

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
              onPress={() => void actions.write([draft('unpacked', [c, pack(id)], {})], `${tag} taken out`)}
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
              onPress={() => void move(x.id, x.box)}
              testID={`move-to-${x.number}`}
            />
          ))}
          {fewest === null || fewest < 2 ? null : <Words soft>{`No plan has fewer than ${packagesWord(fewest)}.`}</Words>}
          <Button label="A package of its own" onPress={() => void move(newId(Date.now()), p.box)} testID="move-alone" />
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
  const [weighed, setWeighed] = useState('');
  const [seal, setSeal] = useState('');
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
    setAsked('');
  };
  return (
    <Card title="Close it">
      {range ? <Words soft>{`Between ${kgWords(range.lo)} and ${kgWords(range.hi)} with box and fill.`}</Words> : null}
      <Field label="On the scale, kg" value={weighed} onChange={setWeighed} testID="gross-kg" />
      {weighed.trim() !== '' && digits === undefined ? <Words bold>Write the weight as 7,4.</Words> : null}
      <Field label="Number of the seal" value={seal} onChange={setSeal} longest={60} testID="seal" />
      <Asked words={asked === '' ? null : asked} />
      {p.ruled.lawful ? null : <Words bold>It may not go like this: see above.</Words>}
      <Button
        label={asked !== '' && asked === question ? 'Close it all the same' : 'Close the package'}
        tone="next"
        height={64}
        disabled={p.packed.length === 0 || !p.ruled.lawful || (weighed.trim() !== '' && digits === undefined)}
        onPress={() => void close()}
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
              void actions
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

/** Packs that another consignment took while they lay in here: they have to come out before it is closed. */
function StrayedCard({ v, p }: P) {
  const actions = useActions();
  const packs = useAppSelector((s) => s.logbook.packs);
  const may = useMay('unpacked');
  if (p.strayed.length === 0) return null;
  const them = p.strayed.length === 1 ? 'it' : 'them';
  return (
    <Card title="Take out" testID="package-strayed">
      <Words>{`Another consignment has ${them} now. Open the box, take ${them} out, then say so.`}</Words>
      <Row>
        {p.strayed.map((id) => {
          const tag = packs[id]?.tag ?? '?';
          const out = () => void actions.write([draft('unpacked', [consignment(v), pack(id)], {})], `${tag} taken out`);
          return may ? (
            <Button key={id} label={`${tag} is out`} height={56} onPress={out} testID={`out-${tag}`} />
          ) : (
            <Words key={id} bold>
              {tag}
            </Words>
          );
        })}
      </Row>
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
    void actions.write([draft('package-opened', [consignment(v)], { package: p.id })], `package ${p.number} opened`);
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
