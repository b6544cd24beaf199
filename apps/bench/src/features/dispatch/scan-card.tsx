import { normalTag, taggedId } from '@gavrel/core';
import { useState } from 'react';
import { draft } from '../../device/write';
import { CodesKey } from '../../entry/codes-key';
import { ScanField } from '../../entry/scan-field';
import { useAppSelector } from '../../state';
import { useActions } from '../../state/context';
import { Asked } from '../../ui/asked';
import { Button } from '../../ui/buttons';
import { Card, Row } from '../../ui/frame';
import { UNANSWERED } from '../../ui/say';
import { Words } from '../../ui/words';
import { contentsOf, type ConsignmentView, type PackageView } from './view';
import { nameOf, packsWord } from './words';

type P = { readonly v: ConsignmentView; readonly p: PackageView };

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
export function ScanCard({ v, p }: P) {
  const actions = useActions();
  const workshop = useAppSelector((s) => s.session.session?.workshop.id ?? '');
  const consignments = useAppSelector((s) => s.logbook.consignments);
  const [code, setCode] = useState('');
  const [scan, setScan] = useState<Exclude<Scan, { kind: 'take' }> | null>(null);
  const [last, setLast] = useState('');
  const put = async (id: string, tag: string) => {
    const c = `consignment:${v.facts.id}` as const;
    const fresh = v.state.packs.includes(id) ? [] : [draft('consigned', [c, `pack:${id}`], {})];
    await actions.write([...fresh, draft('packed', [c, `pack:${id}`], { package: p.id })], `${tag} packed`);
    setScan(null);
    setLast(`${tag} is in.`);
  };
  /** What each code is; one that is not on this device is asked for at the server. */
  const readAll = async (codes: readonly string[]): Promise<readonly Scan[]> => {
    const packs = await actions.packsOnRecord(codes.map((code) => taggedId(workshop, 'pack', code)));
    if (packs === null) return [{ kind: 'trouble', words: `${codes.join(', ')}: ${UNANSWERED}` }];
    return codes.map((code) =>
      scanOf(
        code,
        { v, p },
        (id) => packs[id],
        workshop,
        (id) => (consignments[id] ? nameOf(consignments[id]) : 'another consignment'),
      ),
    );
  };
  /** @returns whether it is in now. */
  const take = async (scanned: string): Promise<boolean> => {
    const given = normalTag(scanned);
    setCode('');
    setLast('');
    const [found = null] = given === '' ? [] : await readAll([given]);
    setScan(found?.kind === 'take' ? null : found);
    if (found?.kind === 'take') await put(found.id, found.tag);
    return found?.kind === 'take';
  };
  /** A tray of packs in one picture: what belongs here is packed, the rest is told by name. */
  const takeAll = async (codes: readonly string[]) => {
    const found = await readAll([...new Set(codes.map(normalTag))].filter(Boolean));
    const mine = found.flatMap((f) => (f.kind === 'take' ? [f] : []));
    const others = found.flatMap((f) => (f.kind === 'take' ? [] : [f.words]));
    const c = `consignment:${v.facts.id}` as const;
    if (mine.length > 0)
      await actions.write(
        mine.map(({ id }) => draft('packed', [c, `pack:${id}`], { package: p.id })),
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
          <Button label={scan.key} height={56} onPress={() => put(scan.id, scan.tag)} testID="pack-despite" />
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
