import { useState } from 'react';
import { Pictures } from '../../entry/pictures';
import { View } from 'react-native';
import { useTokens } from '../../theme';
import { Button } from '../../ui/buttons';
import { Card } from '../../ui/frame';
import { Figures, Words } from '../../ui/words';
import { BoxDrawing } from './box-drawing';
import { PackageSheet } from './package-sheet';
import { contentsOf, type ConsignmentView, type PackageView } from './view';
import { kgWords, markWords, packageName, packsWord, sentWords } from './words';

/** How far a package is, in a few words. */
export function progressWords(p: PackageView): string {
  if (p.sent) return packsWord(p.sent.packs.length);
  const all = contentsOf(p).length;
  if (p.closed) return p.closed.seal ? `closed, seal ${p.closed.seal}` : 'closed';
  return p.packed.length === 0 ? `${packsWord(all)} to pack` : `${p.packed.length} of ${all} packed`;
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
      {v.packages.map((p) => (
        <PackageLine key={p.id} v={v} p={p} onOpen={() => setOpen(p.id)} />
      ))}
      <Pictures of="package" on={[`consignment:${v.facts.id}`]} photos={v.facts.photos} label="Photograph the packages" />
      {shown ? <PackageSheet v={v} p={shown} onClose={() => setOpen(null)} /> : null}
    </Card>
  );
}
