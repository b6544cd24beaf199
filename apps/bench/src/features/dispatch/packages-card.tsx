import { useState } from 'react';
import { Pictures } from '../../entry/pictures';
import { View } from 'react-native';
import { useActions } from '../../state/context';
import { useMay } from '../../state/may';
import { useTokens, useWide } from '../../theme';
import { Button } from '../../ui/buttons';
import { useDragged, useDropped } from '../../ui/drag';
import { Card, Row } from '../../ui/frame';
import { Figures, Words } from '../../ui/words';
import { BoxDrawing } from './box-drawing';
import { afterMove, afterWords, mayMoveFrom, movedTo, targetsOf } from './move';
import { PackageSheet } from './package-sheet';
import { contentsOf, type ConsignmentView, type PackageView } from './view';
import { kgWords, markWords, packageName, packsWord, sentWords } from './words';

/** How far a package is, in a few words. */
export function progressWords(p: PackageView): string {
  if (p.sent) return packsWord(p.sent.packs.length);
  const all = contentsOf(p).length;
  if (p.strayed.length > 0) return `open it: ${packsWord(p.strayed.length)} went elsewhere`;
  if (p.closed) return p.closed.seal ? `closed, seal ${p.closed.seal}` : 'closed';
  return p.packed.length === 0 ? `${packsWord(all)} to pack` : `${p.packed.length} of ${all} packed`;
}

/** A pack that is being dragged, and out of which package. */
interface Dragged {
  readonly id: string;
  readonly from: PackageView;
}

/** Packs a line shows to be dragged: more are moved in the package itself. */
const MOST_CHIPS = 40;

/** One pack of a package, to be dragged into another one. */
function Chip({ tag, inside, begin, end }: { tag: string; inside: boolean; begin: () => void; end: () => void }) {
  const t = useTokens();
  const ref = useDragged(tag, begin, end);
  return (
    <View
      ref={ref}
      testID={`chip-${tag}`}
      style={{ borderWidth: 1, borderColor: t.line, paddingHorizontal: 6, paddingVertical: 2, backgroundColor: t.card }}
    >
      <Figures size={14} bold={inside}>
        {tag}
      </Figures>
    </View>
  );
}

/** A package and its packs to be dragged; while one hangs over it, what that would do stands in it. */
function Droppable({
  v,
  p,
  dragged,
  setDragged,
  onOpen,
}: {
  v: ConsignmentView;
  p: PackageView;
  dragged: Dragged | null;
  setDragged: (d: Dragged | null) => void;
  onOpen: () => void;
}) {
  const actions = useActions();
  const t = useTokens();
  const [over, setOver] = useState(false);
  const takes = dragged !== null && targetsOf(v, dragged.from).some((x) => x.id === p.id);
  const ref = useDropped(takes, setOver, () => {
    if (!dragged) return;
    const tag = v.sendings.get(dragged.id)?.tag ?? 'pack';
    void actions.write(movedTo(v, dragged.from, dragged.id, p.id, p.box), `${tag} moved`);
    setDragged(null);
  });
  const chips = mayMoveFrom(v, p) ? contentsOf(p).slice(0, MOST_CHIPS) : [];
  return (
    <View ref={ref} style={{ gap: 4, outlineStyle: 'dashed', outlineColor: t.accent, outlineWidth: over ? 3 : 0 }}>
      <PackageLine v={v} p={p} onOpen={onOpen} />
      {over && takes ? (
        <Words bold testID={`drop-${p.number}`}>
          {afterWords(afterMove(v, dragged.from, dragged.id, p))}
        </Words>
      ) : null}
      {chips.length > 0 ? (
        <Row gap={4} style={{ paddingBottom: 6 }}>
          {chips.map((id) => (
            <Chip
              key={id}
              tag={v.sendings.get(id)?.tag ?? '?'}
              inside={p.packed.includes(id)}
              begin={() => setDragged({ id, from: p })}
              end={() => setDragged(null)}
            />
          ))}
        </Row>
      ) : null}
    </View>
  );
}

function PackageLine({ v, p, onOpen }: { v: ConsignmentView; p: PackageView; onOpen: () => void }) {
  const t = useTokens();
  const box = v.means.boxes.find((b) => b.id === p.box);
  const { ruled, sent } = p;
  const fine = sent !== null || ruled.lawful;
  const kg = sent ? (sent.grossKg ?? sent.netKg) : (p.question.weighedKg ?? ruled.netKg.hi);
  const weight = kg === undefined ? '' : kgWords(kg);
  const told = sent ? sentWords(sent) : fine ? markWords(ruled) : `Not like this: ${ruled.why[0]}`;
  return (
    <Button
      label={[packageName(p, box), progressWords(p), told].join('; ')}
      height={72}
      onPress={onOpen}
      testID={`package-${p.number}`}
      style={{ alignItems: 'stretch', borderLeftWidth: fine ? 1 : 6, borderColor: fine ? t.line : t.ink }}
    >
      <View style={{ flexDirection: 'row', gap: 10, alignItems: 'center' }}>
        {box ? <BoxDrawing box={box} packs={p.question.packs} width={72} /> : null}
        <View style={{ flex: 1 }}>
          <View style={{ flexDirection: 'row', justifyContent: 'space-between', gap: 8 }}>
            <Words bold style={{ flexShrink: 1 }} lines={1}>
              {packageName(p, box)}
            </Words>
            <Figures size={15}>{weight}</Figures>
          </View>
          <Words bold={p.closed !== null}>{`${p.closed ? '■ ' : ''}${progressWords(p)}`}</Words>
          {fine ? (
            <Figures size={15}>{told}</Figures>
          ) : (
            <Words bold lines={3}>
              {told}
            </Words>
          )}
        </View>
      </View>
    </Button>
  );
}

/** The packages with what lies in them and what the rules say of each. */
export function PackagesCard({ v }: { v: ConsignmentView }) {
  const [open, setOpen] = useState<string | null>(null);
  const [dragged, setDragged] = useState<Dragged | null>(null);
  const wide = useWide();
  const plans = useMay('plan-kept');
  const drags = wide && plans && v.packages.length > 1 && v.packages.some((p) => mayMoveFrom(v, p));
  const shown = v.packages.find((p) => p.id === open);
  const done = v.packages.filter((p) => p.closed).length;
  if (v.packages.length === 0) return null;
  return (
    <Card
      title="Packages"
      right={v.facts.sent ? undefined : <Words soft>{`${done} of ${v.packages.length} closed`}</Words>}
      testID="card-packages"
    >
      {v.state.unplanned.length > 0 ? (
        <Words bold>{`In no package: ${v.state.unplanned.map((id) => v.sendings.get(id)?.tag ?? '?').join(', ')}`}</Words>
      ) : null}
      {drags ? (
        <Words size={15} soft>
          Drag a pack into another package, or open one.
        </Words>
      ) : null}
      {v.packages.map((p) =>
        drags ? (
          <Droppable key={p.id} v={v} p={p} dragged={dragged} setDragged={setDragged} onOpen={() => setOpen(p.id)} />
        ) : (
          <PackageLine key={p.id} v={v} p={p} onOpen={() => setOpen(p.id)} />
        ),
      )}
      <Pictures of="package" on={[`consignment:${v.facts.id}`]} photos={v.facts.photos} label="Photograph the packages" />
      {shown ? <PackageSheet v={v} p={shown} onClose={() => setOpen(null)} /> : null}
    </Card>
  );
}
